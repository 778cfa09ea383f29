import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { RefObject } from 'react';

/** Place of the sole view in the walkway, CSS pixels from its lower left corner. The picture is 0.6 m wide. */
export const SOLE_VIEW = { left: 12, bottom: 12, width: 300, height: 140 } as const;
const WIDTH_M = 0.6;

/** Frame, name and millimetre scale of the sole view; the picture itself is drawn by the walkway. */
export function SoleViewFrame({ frame }: { frame: RefObject<HTMLDivElement | null> }) {
  const { left, bottom, width, height } = SOLE_VIEW;
  const hundred = (width * 0.1) / WIDTH_M;
  return (
    <Box ref={frame} data-testid="sole-view" sx={{ position: 'absolute', left, bottom, width, height, border: 1, borderColor: 'text.primary', pointerEvents: 'none' }}>
      <Typography component="h3" variant="h3" sx={{ position: 'absolute', left: 8, top: 3, fontSize: '0.82rem' }}>
        Sole view
      </Typography>
      <Box sx={{ position: 'absolute', right: 10, top: 8, width: hundred, height: 5, borderLeft: 1, borderRight: 1, borderBottom: 1, borderColor: 'text.primary' }} />
      <Typography sx={{ position: 'absolute', right: 10, top: 13, width: hundred, textAlign: 'center', fontSize: 11 }}>100 mm</Typography>
    </Box>
  );
}
