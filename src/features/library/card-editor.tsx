import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { GaitSpec } from '@/core/gait/spec';
import { setGaitCard } from '../cycle/editing';
import { specOf, useDocument, useDocumentStore } from '../document/context';

/** One-line description and tags of the gait in use. */
export function GaitCardEditor({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const { name, about, tags } = useDocument((s) => specOf(s, 'gait', gaitId));
  const save = (change: Partial<Pick<GaitSpec, 'name' | 'about' | 'tags'>>) => setGaitCard(store, gaitId, { name, about, tags, ...change });
  return (
    <Box sx={{ display: 'grid', gap: 1, mt: 1 }}>
      <Field label="In one line" value={about} most={200} onSave={(v) => save({ about: v })} />
      <Field
        label="Tags, with commas between"
        value={tags.join(', ')}
        most={200}
        onSave={(v) =>
          save({
            tags: [
              ...new Set(
                v
                  .split(',')
                  .map((t) => t.trim().slice(0, 30))
                  .filter(Boolean),
              ),
            ].slice(0, 12),
          })
        }
      />
    </Box>
  );
}

/** A text that is saved when it is left or with Enter; Escape gives up. */
function Field({ label, value, most, onSave }: { label: string; value: string; most: number; onSave: (value: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() !== value) onSave(typed.trim());
    setTyped(null);
  };
  return (
    <TextField
      label={label}
      value={typed ?? value}
      slotProps={{ htmlInput: { 'data-committed': typed === null } }}
      onChange={(e) => setTyped(e.target.value.slice(0, most))}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') (e.target as HTMLElement).blur();
        else if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
