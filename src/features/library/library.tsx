import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { memo, useMemo, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Body } from '@/core/body/body';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';
import { chooseGait, replaceGait } from '../cycle/editing';
import { idsOf, specOf, useDocument, useDocumentStore } from '../document/context';
import { useNames } from '../document/selectors';
import { useSession } from '../stage/session';
import { addGait, freeName, gaitFileName, readGaitFile, removeGait, saveAs } from './actions';
import { GaitCardEditor } from './card-editor';
import { GaitRow, type Acts, type Entry } from './row';

/** Whether a gait answers the words typed and the tag chosen. */
function answers({ name, about, tags }: GaitSpec, words: string, tag: string | null): boolean {
  const text = `${name} ${about} ${tags.join(' ')}`.toLowerCase();
  return (
    (tag === null || tags.includes(tag)) &&
    words
      .toLowerCase()
      .split(/\s+/)
      .every((w) => text.includes(w))
  );
}

/** One list of gaits, those of the project first: find, see them walk, use, make new ones, replace current values, bring in and hand out. */
export function GaitLibrary({ gaitId, body }: { gaitId: string; body: Body }) {
  const store = useDocumentStore();
  const ids = useDocument(useShallow((s) => idsOf(s, 'gait')));
  const gaits = useDocument(useShallow((s) => idsOf(s, 'gait').map((id) => specOf(s, 'gait', id))));
  const names = useNames('gait');
  const set = useSession((s) => s.set);
  const [words, setWords] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [describing, setDescribing] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { legLength } = body;
  const shipped = useMemo<Entry[]>(() => PRESETS.map((p) => ({ id: p.key, gait: fitGait(p.make(), legLength), own: false })), [legLength]);
  const own = ids.map((id, i): Entry => ({ id, gait: gaits[i]!, own: true }));
  const all = [...own, ...shipped];
  // The same tags are the same array, whatever else changes.
  const tagText = JSON.stringify([...new Set(all.flatMap((e) => e.gait.tags))].sort());
  const tags = useMemo(() => JSON.parse(tagText) as string[], [tagText]);
  const taken = useMemo(() => names.map(([, name]) => name), [names]);
  const current = specOf(store.getState(), 'gait', gaitId);
  const acts = useMemo<Acts & { bringIn: (gait: GaitSpec) => void }>(() => {
    const say = (text: string) => set({ notice: { text, undo: true } });
    const add = (gait: GaitSpec, wanted: string, how: string) => {
      const name = freeName(wanted, taken);
      addGait(store, { ...gait, name });
      say(`“${name}” was ${how} and is in use.`);
    };
    const make = (gait: GaitSpec, name: string) => add(gait, name, `made from “${gait.name}”`);
    return {
      make,
      bringIn: (gait) => add(gait, gait.name, 'imported'),
      use: ({ id, gait, own }) => (own ? chooseGait(store, id) : make(gait, gait.name)),
      lay: (gait) => {
        replaceGait(store, gaitId, gait);
        say(`The values of “${specOf(store.getState(), 'gait', gaitId).name}” were replaced by those of “${gait.name}”.`);
      },
      remove: ({ id, gait }) => {
        removeGait(store, id);
        say(`“${gait.name}” was removed.`);
      },
    };
  }, [store, set, gaitId, taken]);
  const bringIn = (chosen: File) => {
    setFault(null);
    readGaitFile(chosen, legLength).then(acts.bringIn, (e: unknown) => setFault(e instanceof Error ? e.message : String(e)));
  };
  const shown = all.filter((e) => answers(e.gait, words, tag));
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 0.75, my: 1 }}>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          Import…
        </Button>
        <Button onClick={() => saveAs(gaitFileName(current, 'json'), `${JSON.stringify(current, null, 2)}\n`, 'application/json')}>Export</Button>
        <Button aria-expanded={describing} onClick={() => setDescribing(!describing)}>
          Description and tags
        </Button>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          data-testid="gait-file"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) bringIn(chosen);
          }}
        />
      </Box>
      {describing && <GaitCardEditor gaitId={gaitId} />}
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)} sx={{ mb: 1, whiteSpace: 'pre-line' }}>
          {fault}
        </Alert>
      )}
      <TextField
        fullWidth
        placeholder="Find by name, description or tag"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        slotProps={{ htmlInput: { 'aria-label': 'Find a gait' } }}
      />
      <Tags tags={tags} chosen={tag} onChoose={setTag} />
      <Box role="list" aria-label="Gaits">
        {shown.map((e) => (
          <GaitRow key={e.id} {...e} body={body} inUse={e.own && e.id === gaitId} removable={e.own && own.length > 1} taken={taken} acts={acts} />
        ))}
      </Box>
      {shown.length === 0 && <Typography sx={{ fontSize: 13, color: 'text.secondary' }}>No gait fits these words.</Typography>}
    </Box>
  );
}

/** Tags to narrow the list by. */
const Tags = memo(function Tags({ tags, chosen, onChoose }: { tags: readonly string[]; chosen: string | null; onChoose: (tag: string | null) => void }) {
  return (
    <Box role="group" aria-label="Tags" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, my: 0.75 }}>
      {tags.map((t) => (
        <Chip
          key={t}
          size="small"
          label={t}
          aria-pressed={t === chosen}
          color={t === chosen ? 'primary' : 'default'}
          variant={t === chosen ? 'filled' : 'outlined'}
          onClick={() => onChoose(t === chosen ? null : t)}
        />
      ))}
    </Box>
  );
});
