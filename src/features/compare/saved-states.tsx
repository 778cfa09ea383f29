import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { differences, type Difference } from '@/core/gait/compare';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import { shownUnit } from '../channel/units';
import { replaceGait } from '../cycle/editing';
import { useDocument, useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import { gaitRevision, gaitRevisions, type RevisionSummary } from '../library/actions';
import { useSession } from '../stage/session';

const time = (iso: string): string =>
  new Date(iso).toLocaleTimeString('en-GB', { day: '2-digit', month: 'short', hour: '2-digit', minute: '2-digit', second: '2-digit' });

/** Saved states of the gait, latest first: one can stand beside it as a ghost, be compared in numbers, and be taken up again. */
export function SavedStates({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const gait = useGait(gaitId);
  const version = useDocument((s) => s.meta[gaitId]!.version);
  const [list, setList] = useState<readonly RevisionSummary[] | null>(null);
  const [chosen, setChosen] = useState<{ version: number; gait: GaitSpec } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const set = useSession((s) => s.set);
  useEffect(() => {
    let current = true;
    gaitRevisions(store, gaitId).then(
      (l) => current && setList(l),
      (e: unknown) => current && setFault(e instanceof Error ? e.message : String(e)),
    );
    return () => {
      current = false;
    };
  }, [store, gaitId, version]);
  useEffect(() => {
    setChosen(null);
    return () => set({ ghost: null });
  }, [gaitId, set]);
  const { legLength } = gait;
  const choose = (v: number) => {
    setFault(null);
    gaitRevision(store, gaitId, v).then(
      ({ spec }) => {
        const fitted = fitGait(spec, legLength);
        setChosen({ version: v, gait: fitted });
        set({ ghost: { gait: fitted, name: `state ${v}` } });
      },
      (e: unknown) => setFault(e instanceof Error ? e.message : String(e)),
    );
  };
  const clear = () => {
    setChosen(null);
    set({ ghost: null });
  };
  const differing = useMemo(() => (chosen ? differences(chosen.gait, gait) : []), [chosen, gait]);
  return (
    <Box>
      {fault && <Alert severity="error">{fault}</Alert>}
      {list === null && !fault && <Typography sx={{ color: 'text.secondary' }}>Looking up saved states.</Typography>}
      <Box role="group" aria-label="Saved states" sx={{ maxHeight: 132, overflowY: 'auto', mt: 0.5 }} tabIndex={0}>
        {list?.map((r) => (
          <Box key={r.version} sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 13 }}>
            <Button onClick={() => choose(r.version)} aria-pressed={chosen?.version === r.version} sx={{ minWidth: 84, justifyContent: 'flex-start' }}>
              state {r.version}
            </Button>
            <span>{time(r.savedAt)}</span>
            {r.version === version && <Typography sx={{ fontSize: 12, color: 'text.secondary', ml: 'auto' }}>now</Typography>}
          </Box>
        ))}
      </Box>
      {chosen && (
        <Box data-testid="state-comparison" sx={{ mt: 0.75 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Button
              variant="outlined"
              onClick={() => replaceGait(store, gaitId, chosen.gait, `restore state ${chosen.version}`)}
              disabled={differing.length === 0}
            >
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

function DifferenceTable({ differing, version }: { differing: readonly Difference[]; version: number }) {
  if (differing.length === 0) return <Typography sx={{ fontSize: 13, mt: 0.5 }}>The gait is as it was in state {version}.</Typography>;
  const show = (d: Difference, v: number | null) => {
    if (v === null) return '–';
    const unit = shownUnit(d.unit, d.path);
    return `${unit.toScreen(v).toFixed(unit.digits)} ${unit.label}`;
  };
  return (
    <Table size="small" sx={{ mt: 0.5 }} aria-label={`Differences from state ${version}`}>
      <TableHead>
        <TableRow>
          <TableCell>Value</TableCell>
          <TableCell align="right">state {version}</TableCell>
          <TableCell align="right">now</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {differing.map((d) => (
          <TableRow key={`${d.path} ${d.side ?? ''}`}>
            <TableCell>
              {d.side ? `${d.side === 'left' ? 'L' : 'R'} ` : ''}
              {d.label}
            </TableCell>
            <TableCell align="right">{show(d, d.before)}</TableCell>
            <TableCell align="right">{d.before === null ? 'redrawn' : show(d, d.after)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
