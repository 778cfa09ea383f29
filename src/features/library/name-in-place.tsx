import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface Props {
  readonly label: string;
  readonly start: string;
  /** Word of the button that does it. */
  readonly doIt: string;
  readonly onDone: (name: string) => void;
  readonly onGiveUp: () => void;
}

/** A name asked for as a part of an act: Enter does it, Escape gives up. */
export function NameInPlace({ label, start, doIt, onDone, onGiveUp }: Props) {
  const [name, setName] = useState(start);
  const ready = name.trim() !== '';
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onDone(name.trim());
      }}
      sx={{ display: 'flex', gap: 0.5, mt: 0.5 }}
    >
      <TextField
        autoFocus
        value={name}
        onChange={(e) => setName(e.target.value)}
        onFocus={(e) => e.target.select()}
        onKeyDown={(e) => e.key === 'Escape' && onGiveUp()}
        slotProps={{ htmlInput: { 'aria-label': label, maxLength: 80 } }}
        sx={{ flex: 1, minWidth: 0 }}
      />
      <Button type="submit" variant="contained" disabled={!ready} sx={{ minWidth: 0 }}>
        {doIt}
      </Button>
      <Button onClick={onGiveUp} sx={{ minWidth: 0 }}>
        Cancel
      </Button>
    </Box>
  );
}
