import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import type { Carrier } from '@/core/clip/carried';

const WORDS: Readonly<Record<Carrier | 'usual', string>> = { usual: 'as the format has it', root: 'a root joint', hips: 'the hips' };

/** Which joint carries the travel of a file. */
export function CarrierChoice({
  value,
  disabled = false,
  onChange,
}: {
  value: Carrier | 'usual';
  disabled?: boolean;
  onChange: (to: Carrier | 'usual') => void;
}) {
  return (
    <Select
      size="small"
      value={value}
      disabled={disabled}
      inputProps={{ 'aria-label': 'Travel on' }}
      title="In GLB travel is usually on root, in BVH on the hips"
      onChange={(e) => onChange(e.target.value)}
    >
      {(Object.keys(WORDS) as (Carrier | 'usual')[]).map((k) => (
        <MenuItem key={k} value={k}>
          {WORDS[k]}
        </MenuItem>
      ))}
    </Select>
  );
}
