import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { memo, type RefObject } from 'react';

/** The sole view's picture: width in metres, and height as a part of the width. */
export const SOLE_WIDTH_M = 0.48;
export const SOLE_ASPECT = 0.4375;
/** Where it stands in the walkway, CSS pixels from the upper left corner: away from where the feet usually are. */
export const SOLE_PLACE = { left: 13, top: 37 } as const;
/** Height (px) of the caption over it, which holds name and scale: never over the leg. */
const CAPTION_PX = 24;
/** Length of the scale, m, and the ticks on it. */
const SCALE_M = 0.1;
const TICKS = 20;

/** Where in the walkway the sole view stands, CSS pixels. */
interface Place {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Keeps the sole view's picture on a canvas over the walkway, which draws over its place with every picture of its own. */
export function copySoleView(from: HTMLCanvasElement, to: HTMLCanvasElement, { left, top, width, height }: Place, pixels: number): void {
  const [w, h] = [Math.round(width * pixels), Math.round(height * pixels)];
  if (to.width !== w || to.height !== h) Object.assign(to, { width: w, height: h });
  to.getContext('2d')!.drawImage(from, left * pixels, top * pixels, w, h, 0, 0, w, h);
}

/** Lines of the grid, mm apart: fine ones, and each fifth. */
const FINE_MM = 10;

/** A grid over the sole view, whose picture stands while a foot does: what slides leaves its lines. */
const Millimetres = memo(function Millimetres() {
  const [w, h] = [SOLE_WIDTH_M * 1000, SOLE_WIDTH_M * SOLE_ASPECT * 1000];
  const lines = (size: number) => Array.from({ length: Math.floor(size / FINE_MM) + 1 }, (_, i) => i * FINE_MM);
  const strong = (v: number) => (v % (5 * FINE_MM) === 0 ? 0.26 : 0.09);
  return (
    <Box
      component="svg"
      data-testid="millimetres"
      aria-hidden
      viewBox={`0 0 ${w} ${h}`}
      preserveAspectRatio="none"
      sx={{ position: 'absolute', inset: 0, width: 1, height: 1, color: 'text.primary', pointerEvents: 'none' }}
    >
      {lines(w).map((x) => (
        <line key={`x${x}`} x1={x} x2={x} y1={0} y2={h} stroke="currentColor" strokeOpacity={strong(x)} vectorEffect="non-scaling-stroke" />
      ))}
      {lines(h).map((y) => (
        <line key={`y${y}`} x1={0} x2={w} y1={h - y} y2={h - y} stroke="currentColor" strokeOpacity={strong(y)} vectorEffect="non-scaling-stroke" />
      ))}
    </Box>
  );
});

/** Frame, name and millimetre scale of the sole view; the walkway draws the picture into the frame's rectangle. */
export const SoleViewFrame = memo(function SoleViewFrame({ frame }: { frame: RefObject<HTMLDivElement | null> }) {
  const scale = `${(100 * SCALE_M) / SOLE_WIDTH_M}%`;
  return (
    <Box
      data-testid="sole-view"
      sx={{
        position: 'absolute',
        left: SOLE_PLACE.left,
        top: SOLE_PLACE.top - CAPTION_PX,
        width: { xs: 224, lg: 320 },
        border: 1,
        borderColor: 'text.primary',
        pointerEvents: 'none',
      }}
    >
      <Box sx={{ position: 'relative', height: CAPTION_PX, bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider' }}>
        <Typography component="h3" variant="h3" sx={{ position: 'absolute', left: 8, top: 3, fontSize: '0.82rem' }}>
          Sole view
        </Typography>
        <Typography sx={{ position: 'absolute', right: `calc(${scale} + 16px)`, top: 4, fontSize: 11, whiteSpace: 'nowrap' }}>{SCALE_M * 1000} mm</Typography>
        <Box
          component="svg"
          aria-hidden
          viewBox={`0 0 ${TICKS} 9`}
          preserveAspectRatio="none"
          sx={{ position: 'absolute', right: 10, top: 9, width: scale, height: 9, color: 'text.primary', overflow: 'visible' }}
        >
          {Array.from({ length: TICKS + 1 }, (_, i) => (
            <line key={i} x1={i} x2={i} y1={9} y2={i % 10 === 0 ? 0 : i % 2 === 0 ? 4 : 6.5} stroke="currentColor" vectorEffect="non-scaling-stroke" />
          ))}
        </Box>
      </Box>
      <Box ref={frame} sx={{ position: 'relative', aspectRatio: `${1 / SOLE_ASPECT}` }}>
        <Box component="canvas" width={0} height={0} aria-hidden sx={{ position: 'absolute', inset: 0, width: 1, height: 1 }} />
        <Millimetres />
      </Box>
    </Box>
  );
});
