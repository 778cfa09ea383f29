import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { RefObject } from 'react';

/** Place of the sole view in the walkway, CSS pixels from its upper left corner, away from where the feet usually are. The picture is 0.48 m wide. */
export const SOLE_VIEW = { left: 12, top: 12, width: 320, height: 140 } as const;
export const SOLE_WIDTH_M = 0.48;

/** Frame, name and millimetre scale of the sole view; the picture itself is drawn by the walkway. */
export function SoleViewFrame({ frame }: { frame: RefObject<HTMLDivElement | null> }) {
  const { left, top, width, height } = SOLE_VIEW;
  const hundred = (width * 0.1) / SOLE_WIDTH_M;
  return (
    <Box
      ref={frame}
      data-testid="sole-view"
      sx={{ position: 'absolute', left, top, width, height, border: 1, borderColor: 'text.primary', pointerEvents: 'none' }}
    >
      <Typography component="h3" variant="h3" sx={{ position: 'absolute', left: 8, top: 3, fontSize: '0.82rem' }}>
        Sole view
      </Typography>
      <Box component="svg" aria-hidden width={hundred + 1} height={9} sx={{ position: 'absolute', right: 10, top: 6, color: 'text.primary' }}>
        {Array.from({ length: 21 }, (_, i) => (
          <line
            key={i}
            x1={(i * hundred) / 20 + 0.5}
            x2={(i * hundred) / 20 + 0.5}
            y1={9}
            y2={i % 10 === 0 ? 0 : i % 2 === 0 ? 4 : 6.5}
            stroke="currentColor"
          />
        ))}
      </Box>
      <Typography sx={{ position: 'absolute', right: 10, top: 14, width: hundred, textAlign: 'center', fontSize: 11 }}>100 mm</Typography>
    </Box>
  );
}
