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
import { addGait, freeName, gaitFileName, readGaitFile, removeGait, saveAs } from './actions';
import { GaitCardEditor } from './card-editor';
import { GaitThumbnail } from './thumbnail';

/** One gait of the library: of the project, or one that ships. */
interface Entry {
  readonly id: string;
  readonly gait: GaitSpec;
  readonly own: boolean;
}

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

/** Gaits of the project and those that ship: find, see them walk, take one up, name and tag, bring in and hand out. */
export function GaitLibrary({ gaitId, body }: { gaitId: string; body: Body }) {
  const store = useDocumentStore();
  const state = useDocument((s) => s);
  const [words, setWords] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [undoRemoval, setUndoRemoval] = useState<{ name: string; back: () => Promise<void> } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const { legLength } = body;
  const shipped = useMemo<Entry[]>(() => PRESETS.map((p) => ({ id: p.key, gait: fitGait(p.make(), legLength), own: false })), [legLength]);
  const own: Entry[] = idsOf(state, 'gait').map((id) => ({ id, gait: specOf(state, 'gait', id), own: true }));
  const tags = [...new Set([...own, ...shipped].flatMap((e) => e.gait.tags))].sort();
  const names = own.map((e) => e.gait.name);
  const current = specOf(state, 'gait', gaitId);
  const run = (work: Promise<unknown>) => {
    setFault(null);
    work.catch((e: unknown) => setFault(e instanceof Error ? e.message : String(e)));
  };
  const take = (gait: GaitSpec) => run(addGait(store, { ...gait, name: freeName(gait.name, names) }));
  const remove = (id: string, name: string) => run(removeGait(store, id).then((back) => setUndoRemoval({ name, back })));
  return (
    <Box>
      <GaitCardEditor gaitId={gaitId} />
      <Box sx={{ display: 'flex', gap: 0.75, my: 1 }}>
        <Button variant="outlined" onClick={() => take(current)}>
          Save as new
        </Button>
        <Button onClick={() => saveAs(gaitFileName(current, 'json'), `${JSON.stringify(current, null, 2)}\n`, 'application/json')}>Export</Button>
        <Button onClick={() => file.current?.click()}>Import</Button>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          data-testid="gait-file"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) run(readGaitFile(chosen, legLength).then((gait) => addGait(store, { ...gait, name: freeName(gait.name, names) })));
          }}
        />
      </Box>
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)} sx={{ mb: 1, whiteSpace: 'pre-line' }}>
          {fault}
        </Alert>
      )}
      {undoRemoval && (
        <Alert
          severity="info"
          onClose={() => setUndoRemoval(null)}
          action={
            <Button
              onClick={() => {
                run(undoRemoval.back());
                setUndoRemoval(null);
              }}
            >
              Bring back
            </Button>
          }
          sx={{ mb: 1 }}
        >
          {undoRemoval.name} was removed.
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
      {(
        [
          ['Of this project', own],
          ['That ship with Nimbret', shipped],
        ] as const
      ).map(([title, entries]) => {
        const shown = entries.filter((e) => answers(e.gait, words, tag));
        return (
          <Box key={title} component="section" aria-label={title}>
            <Typography sx={{ fontSize: 12.5, color: 'text.secondary', mt: 0.5 }}>
              {title}: {shown.length === 0 ? 'none that fits' : shown.length}
            </Typography>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
              {shown.map((e) => (
                <GaitCard
                  key={e.id}
                  entry={e}
                  body={body}
                  inUse={e.own && e.id === gaitId}
                  onUse={() => (e.own ? chooseGait(store, e.id) : take(e.gait))}
                  onLay={() => replaceGait(store, gaitId, e.gait)}
                  onRemove={e.own && own.length > 1 ? () => remove(e.id, e.gait.name) : null}
                />
              ))}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

interface CardProps {
  readonly entry: Entry;
  readonly body: Body;
  readonly inUse: boolean;
  readonly onUse: () => void;
  readonly onLay: () => void;
  readonly onRemove: (() => void) | null;
}

function GaitCard({ entry, body, inUse, onUse, onLay, onRemove }: CardProps) {
  const { gait, own } = entry;
  return (
    <Box data-gait={gait.name} sx={{ border: inUse ? 2 : 1, borderColor: inUse ? 'primary.main' : 'divider', p: 0.75, minWidth: 0 }}>
      <GaitThumbnail body={body} gait={gait} />
      <Typography noWrap title={gait.about} sx={{ fontWeight: 600, fontSize: 13.5 }}>
        {gait.name}
      </Typography>
      <Typography noWrap sx={{ fontSize: 12, color: 'text.secondary' }}>
        {gait.tags.join(', ') || 'no tags'}
      </Typography>
      <Box sx={{ display: 'flex', '& .MuiButton-root': { minWidth: 0, px: 0.5, fontSize: 12.5 } }}>
        <Button onClick={onUse} disabled={inUse} aria-label={own ? `Use ${gait.name}` : `Add ${gait.name}`}>
          {inUse ? 'in use' : own ? 'use' : 'add'}
        </Button>
        <Button
          onClick={onLay}
          disabled={inUse}
          aria-label={`Lay ${gait.name} over the gait in use`}
          title="Lays its values over the gait in use, which keeps its name"
        >
          lay over
        </Button>
        {onRemove && (
          <Button onClick={onRemove} aria-label={`Remove ${gait.name}`} sx={{ ml: 'auto' }}>
            remove
          </Button>
        )}
      </Box>
    </Box>
  );
}
