import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useRef, useState } from 'react';
import type { Body } from '@/core/body/body';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';
import { chooseGait, replaceGait } from '../cycle/editing';
import { idsOf, specOf, useDocument, useDocumentStore } from '../document/context';
import { useSession } from '../stage/session';
import { addGait, freeName, gaitFileName, readGaitFile, removeGait, saveAs } from './actions';
import { GaitCardEditor } from './card-editor';
import { GaitRow, type Entry } from './row';

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

/** One list of gaits, those of the project first: find, see them walk, use, make new ones, lay over, bring in and hand out. */
export function GaitLibrary({ gaitId, body }: { gaitId: string; body: Body }) {
  const store = useDocumentStore();
  const specs = useDocument((s) => s.specs);
  const set = useSession((s) => s.set);
  const [words, setWords] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [describing, setDescribing] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { legLength } = body;
  const shipped = useMemo<Entry[]>(() => PRESETS.map((p) => ({ id: p.key, gait: fitGait(p.make(), legLength), own: false })), [legLength]);
  const own: Entry[] = idsOf(store.getState(), 'gait').map((id) => ({ id, gait: specs[id] as GaitSpec, own: true }));
  const all = [...own, ...shipped];
  const tags = [...new Set(all.flatMap((e) => e.gait.tags))].sort();
  const names = own.map((e) => e.gait.name);
  const current = specOf(store.getState(), 'gait', gaitId);
  const say = (text: string) => set({ notice: { text, undo: true } });
  const make = (gait: GaitSpec, name: string) => {
    addGait(store, { ...gait, name: freeName(name, names) });
    say(`“${freeName(name, names)}” was made from “${gait.name}” and is in use.`);
  };
  const lay = (gait: GaitSpec) => {
    replaceGait(store, gaitId, gait);
    say(`The values of “${current.name}” were replaced by those of “${gait.name}”.`);
  };
  const bringIn = (chosen: File) => {
    setFault(null);
    readGaitFile(chosen, legLength).then(
      (gait) => {
        addGait(store, { ...gait, name: freeName(gait.name, names) });
        say(`“${freeName(gait.name, names)}” was brought in and is in use.`);
      },
      (e: unknown) => setFault(e instanceof Error ? e.message : String(e)),
    );
  };
  const shown = all.filter((e) => answers(e.gait, words, tag));
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 0.75, my: 1 }}>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          Bring in a file
        </Button>
        <Button onClick={() => saveAs(gaitFileName(current, 'json'), `${JSON.stringify(current, null, 2)}\n`, 'application/json')}>Hand out as a file</Button>
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
      <Box role="group" aria-label="Tags" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, my: 0.75 }}>
        {tags.map((t) => (
          <Chip
            key={t}
            size="small"
            label={t}
            aria-pressed={t === tag}
            color={t === tag ? 'primary' : 'default'}
            variant={t === tag ? 'filled' : 'outlined'}
            onClick={() => setTag(t === tag ? null : t)}
          />
        ))}
      </Box>
      <Box role="list" aria-label="Gaits">
        {shown.map((e) => (
          <GaitRow
            key={e.id}
            entry={e}
            body={body}
            inUse={e.own && e.id === gaitId}
            taken={names}
            onUse={() => (e.own ? chooseGait(store, e.id) : make(e.gait, e.gait.name))}
            onMake={(name) => make(e.gait, name)}
            onLay={() => lay(e.gait)}
            onRemove={
              e.own && own.length > 1
                ? () => {
                    removeGait(store, e.id);
                    say(`“${e.gait.name}” was removed.`);
                  }
                : null
            }
          />
        ))}
      </Box>
      {shown.length === 0 && <Typography sx={{ fontSize: 13, color: 'text.secondary' }}>No gait fits these words.</Typography>}
    </Box>
  );
}
