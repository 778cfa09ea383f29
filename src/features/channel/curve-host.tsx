import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { createContext, useContext, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

/** Where curve editors stand when they are open: in the place of the dial, where all of one is seen; null: below their strips. */
export const CurveHost = createContext<HTMLElement | null>(null);

/** An editor with its name and a way to close it, in its place. */
export function InCurveHost({ name, onClose, children }: { name: string; onClose: () => void; children: ReactNode }) {
  const host = useContext(CurveHost);
  if (!host) return children;
  return createPortal(
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3">{name} over the stride</Typography>
        <Button aria-label={`Close: curve of ${name}`} onClick={onClose} sx={{ minWidth: 0, py: 0 }}>
          Close
        </Button>
      </Box>
      {children}
    </Box>,
    host,
  );
}
