import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { KINDS, type ItemKind } from '@/core/project/kinds';

/** An item whose stored data cannot be read. */
export interface Broken {
  readonly id: string;
  readonly kind: ItemKind;
  readonly name: string;
}

/** Says which items of the project cannot be read; the rest opens all the same. */
export function BrokenItems({ broken }: { broken: readonly Broken[] }) {
  const [read, setRead] = useState(false);
  if (broken.length === 0 || read) return null;
  return (
    <Box sx={{ position: 'absolute', top: 60, left: 12, right: { xs: 12, md: 420 }, zIndex: 5 }}>
      <Alert severity="error" onClose={() => setRead(true)} data-testid="broken-items">
        Broken, and left out here:{' '}
        {broken.map(({ id, kind, name }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            {KINDS[kind].label} “{name}”
          </span>
        ))}
        . What is stored was not changed; everything else of the project works.
      </Alert>
    </Box>
  );
}
