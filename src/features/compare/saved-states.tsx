import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { differences } from '@/core/gait/compare';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import { replaceGait } from '../cycle/editing';
import { useDocument, useDocumentStore } from '../document/context';
import { useBody, useGait } from '../document/selectors';
import { gaitStates, keepGaitState, type SavedState } from '../library/actions';
import { NameInPlace } from '../library/name-in-place';
import { GaitThumbnail } from '../library/thumbnail';
import { useSession } from '../stage/session';
import { DifferenceTable } from './difference-table';

const time = (iso: string): string =>
  new Date(iso).toLocaleTimeString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', second: '2-digit' });

/** What a saved state is called: the name it is kept under, or what changed in it. */
function titleOf({ keptAs, changed, version }: SavedState): string {
  if (keptAs) return keptAs;
  if (changed.length === 0) return version === 1 ? 'as it began' : 'no value changed';
  return changed.length <= 2 ? changed.join(', ') : `${changed[0]}, ${changed[1]} and ${changed.length - 2} more`;
}

/** Saved states of the gait, latest first: each in miniature, to be compared as a ghost and in numbers, kept by name, taken up again. */
export function SavedStates({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const gait = useGait(gaitId);
  const body = useBody();
  const version = useDocument((s) => s.meta[gaitId]!.version);
  const [list, setList] = useState<readonly SavedState[] | null>(null);
  const [asked, setAsked] = useState(0);
  const [chosen, setChosen] = useState<{ title: string; version: number; gait: GaitSpec } | null>(null);
  const [keeping, setKeeping] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const set = useSession((s) => s.set);
  const failed = (e: unknown) => setFault(e instanceof Error ? e.message : String(e));
  useEffect(() => {
    let current = true;
    gaitStates(store, gaitId).then(
      (l) => current && setList(l),
      (e: unknown) => current && failed(e),
    );
    return () => {
      current = false;
    };
  }, [store, gaitId, version, asked]);
  useEffect(() => {
    setChosen(null);
    return () => set({ ghost: null });
  }, [gaitId, set]);
  const { legLength } = gait;
  const choose = (state: SavedState) => {
    const fitted = fitGait(state.spec, legLength);
    setChosen({ title: titleOf(state), version: state.version, gait: fitted });
    set({ ghost: { gait: fitted, name: titleOf(state) } });
  };
  const clear = () => {
    setChosen(null);
    set({ ghost: null });
  };
  const keep = (v: number, name: string | null) => {
    setKeeping(null);
    setFault(null);
    keepGaitState(store, gaitId, v, name).then(() => setAsked((n) => n + 1), failed);
  };
  const differing = useMemo(() => (chosen ? differences(chosen.gait, gait) : []), [chosen, gait]);
  return (
    <Box>
      {fault && <Alert severity="error">{fault}</Alert>}
      {list === null && !fault && <Typography sx={{ color: 'text.secondary' }}>Looking up saved states.</Typography>}
      <Box role="group" aria-label="Saved states" sx={{ maxHeight: 260, overflowY: 'auto', mt: 0.5 }} tabIndex={0}>
        {list?.map((r) => (
          <Box key={r.version} data-state-version={r.version} sx={{ display: 'flex', gap: 1, py: 0.5, borderBottom: 1, borderColor: 'divider' }}>
            <GaitThumbnail body={body} gait={fitGait(r.spec, legLength)} width={58} />
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <Typography noWrap title={r.changed.join(', ')} sx={{ fontSize: 13, fontWeight: r.keptAs ? 700 : 400 }}>
                {titleOf(r)}
              </Typography>
              <Typography sx={{ fontSize: 12, color: 'text.secondary' }}>
                {time(r.savedAt)}
                {r.version === version ? ', now' : ''}
              </Typography>
              {keeping === r.version && (
                <NameInPlace
                  label="Name to keep this one under"
                  start={r.keptAs ?? ''}
                  doIt="Keep"
                  onDone={(n) => keep(r.version, n)}
                  onGiveUp={() => setKeeping(null)}
                />
              )}
            </Box>
            {keeping !== r.version && (
              <Box sx={{ display: 'flex', alignItems: 'center', '& .MuiButton-root': { minWidth: 0, px: 0.5, fontSize: 12.5 } }}>
                <Button onClick={() => choose(r)} aria-pressed={chosen?.version === r.version} aria-label={`compare with state ${r.version}`}>
                  compare
                </Button>
                <Button
                  onClick={() => (r.keptAs ? keep(r.version, null) : setKeeping(r.version))}
                  aria-label={r.keptAs ? `let go of state ${r.version}` : `keep this one, state ${r.version}`}
                  title={r.keptAs ? 'Kept for good; lets it fade with age again' : 'Saved states thin out as they age; a kept one stays'}
                >
                  {r.keptAs ? 'let go' : 'keep this one'}
                </Button>
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {chosen && (
        <Box data-testid="state-comparison" sx={{ mt: 0.75 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Button variant="outlined" onClick={() => replaceGait(store, gaitId, chosen.gait, `restore ${chosen.title}`)} disabled={differing.length === 0}>
              Restore state {chosen.version}
            </Button>
            <Button onClick={clear}>Hide ghost</Button>
          </Box>
          <DifferenceTable differing={differing} version={chosen.version} />
        </Box>
      )}
    </Box>
  );
}
