import InputBase from '@mui/material/InputBase';
import { useState, type KeyboardEvent } from 'react';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly digits: number;
  readonly step: number;
  readonly min: number;
  readonly max: number;
  readonly onChange: (value: number) => void;
}

/** A number that is typed (Enter or leaving commits, Escape gives up) and stepped with the arrow keys, Shift for ten steps. */
export function NumberField({ label, value, digits, step, min, max, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const next = Number((typed ?? '').replace(',', '.'));
    if (typed !== null && typed.trim() !== '' && Number.isFinite(next)) onChange(Math.min(max, Math.max(min, next)));
    setTyped(null);
  };
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'Enter') commit();
    else if (e.key === 'Escape') setTyped(null);
    else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault();
      setTyped(null);
      onChange(Math.min(max, Math.max(min, value + (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1))));
    }
    e.stopPropagation();
  };
  return (
    <InputBase
      value={typed ?? value.toFixed(digits)}
      onChange={(e) => setTyped(e.target.value)}
      onFocus={(e) => e.target.select()}
      onBlur={commit}
      onKeyDown={onKey}
      inputProps={{ 'aria-label': label, inputMode: 'decimal' }}
      sx={{ width: 58, fontSize: 13, '& input': { textAlign: 'right', padding: '1px 4px', borderBottom: 1, borderColor: 'divider' } }}
    />
  );
}
