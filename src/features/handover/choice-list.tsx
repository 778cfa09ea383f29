import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useEffect, useRef, useState } from 'react';

/** What can be chosen, of one kind. */
export interface ChoiceGroup {
  /** As it is called when there are several, and in the name of the tick for all of them. */
  readonly title: string;
  readonly all: string;
  readonly rows: readonly { readonly key: string; readonly name: string; readonly on: boolean }[];
  readonly choose: (keys: readonly string[], on: boolean) => void;
}

const found = (group: ChoiceGroup, words: readonly string[]): ChoiceGroup['rows'] =>
  group.rows.filter(({ name }) => words.every((w) => `${group.title} ${name}`.toLowerCase().includes(w)));

/** Everything that can be handed over, by kind and name: found by typing, ticked singly or all that is found. */
export function ChoiceList({ groups }: { groups: readonly ChoiceGroup[] }) {
  const [typed, setTyped] = useState('');
  const latest = useRef(groups);
  useEffect(() => void (latest.current = groups), [groups]);
  const choose = useCallback((title: string, key: string, on: boolean) => latest.current.find((g) => g.title === title)?.choose([key], on), []);
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = groups.map((group) => ({ group, rows: found(group, words) })).filter(({ rows }) => rows.length > 0);
  const ticked = groups.reduce((sum, g) => sum + g.rows.filter((r) => r.on).length, 0);
  const total = groups.reduce((sum, g) => sum + g.rows.length, 0);
  const every = shown.flatMap(({ rows }) => rows);
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mb: 0.5 }}>
        <TextField
          size="small"
          placeholder="Find by name or kind"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find what to hand over, by name or kind' } }}
          sx={{ flex: 1 }}
        />
        <AllTick
          label={words.length > 0 ? 'all found' : 'all'}
          rows={every}
          onChange={(on) => shown.forEach(({ group, rows }) => group.choose(keysOf(rows), on))}
        />
      </Box>
      <Box
        sx={{ maxHeight: 340, overflow: 'auto', borderTop: '1.5px solid', borderBottom: 1, borderTopColor: 'text.primary', borderBottomColor: 'divider' }}
        tabIndex={0}
        role="region"
        aria-label="What to hand over"
      >
        {shown.map(({ group, rows }) => (
          <Group key={group.title} group={group} rows={rows} choose={choose} />
        ))}
        {shown.length === 0 && <Typography sx={{ py: 1, color: 'text.secondary' }}>Nothing here is called so.</Typography>}
      </Box>
      <Typography role="status" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        {ticked} of {total} chosen
      </Typography>
    </Box>
  );
}

const keysOf = (rows: ChoiceGroup['rows']): string[] => rows.map((r) => r.key);

type Choose = (title: string, key: string, on: boolean) => void;

function Group({ group, rows, choose }: { group: ChoiceGroup; rows: ChoiceGroup['rows']; choose: Choose }) {
  return (
    <Box role="group" aria-label={group.title}>
      <Box sx={{ position: 'sticky', top: 0, zIndex: 1, bgcolor: 'background.default', '& .MuiTypography-root': { fontWeight: 600 } }}>
        <AllTick label={group.title} name={group.all} rows={rows} onChange={(on) => group.choose(keysOf(rows), on)} />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: rows.every((r) => r.name.length < 22) ? 'repeat(2, minmax(0, 1fr))' : '1fr', pl: 2 }}>
        {rows.map(({ key, name, on }) => (
          <Row key={key} title={group.title} id={key} name={name} on={on} choose={choose} />
        ))}
      </Box>
    </Box>
  );
}

/** Hundreds of them may stand here: each is drawn again only when it changes. */
const Row = memo(function Row({ title, id, name, on, choose }: { title: string; id: string; name: string; on: boolean; choose: Choose }) {
  return <Tick label={name} checked={on} onChange={(to) => choose(title, id, to)} />;
});

/** Ticks all of the rows; `name` where the label alone does not tell that. */
function AllTick({ label, name, rows, onChange }: { label: string; name?: string; rows: ChoiceGroup['rows']; onChange: (on: boolean) => void }) {
  const on = rows.filter((r) => r.on).length;
  return <Tick label={label} name={name} checked={on > 0 && on === rows.length} some={on > 0 && on < rows.length} onChange={onChange} />;
}

interface TickProps {
  label: string;
  name?: string | undefined;
  checked: boolean;
  onChange: (on: boolean) => void;
  /** Some of several are chosen. */
  some?: boolean;
  title?: string;
  disabled?: boolean;
}

export function Tick({ label, name, checked, onChange, some = false, title, disabled = false }: TickProps) {
  return (
    <FormControlLabel
      label={label}
      title={title}
      disabled={disabled}
      control={
        <Checkbox
          size="small"
          checked={checked}
          indeterminate={some}
          onChange={(_, on) => onChange(on)}
          sx={{ py: 0.25 }}
          slotProps={{ input: name === undefined ? {} : { 'aria-label': name } }}
        />
      }
    />
  );
}
