import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { memo } from 'react';
import { loopCycles } from '@/core/gait/sides';
import { useDocumentStore } from '../document/context';
import { useGaitWatching } from '../document/selectors';
import { useSession } from '../stage/session';
import { setTimingValue } from './editing';

/** "12", or "12½": whole frames of a stride as frames of one of its two steps. */
const steps = (frames: number): string => `${Math.floor(frames / 2)}${frames % 2 === 1 ? '½' : ''}`;

/** How many frames the loop lasts; where they are not whole, the nearest that are, and what each means. */
export const FrameOffers = memo(function FrameOffers({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const gait = useGaitWatching(gaitId, (g) => [g.timing.strideTime, g.held, loopCycles(g)]);
  const fps = useSession((s) => s.fps);
  const frames = gait.timing.strideTime * fps;
  const whole = Math.abs(frames - Math.round(frames)) < 1e-6;
  const cycles = loopCycles(gait);
  const offers = [Math.floor(frames) - 1, Math.floor(frames), Math.floor(frames) + 1, Math.floor(frames) + 2].filter(
    (n) => n >= 2 && Math.abs(n - frames) <= 1.5,
  );
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.5, minHeight: 27, fontSize: 12.5 }}>
      <span data-testid="loop-length">
        {whole ? `The loop is ${Math.round(frames) * cycles} whole frames` : `${frames.toFixed(2)} frames are no whole loop`}
        {cycles > 1 ? ` (${cycles} strides, one look around)` : ''}.
      </span>
      {!whole &&
        offers.map((n) => {
          const change = frames / n - 1;
          return (
            <Button
              key={n}
              variant="outlined"
              title={`${n} frames a stride: ${gait.held === 'speed' ? 'stride' : 'speed'} ${change >= 0 ? '+' : '−'}${(Math.abs(change) * 100).toFixed(1)} %`}
              onClick={() => setTimingValue(store, gaitId, 'strideTime', n / fps, null)}
              sx={{ minWidth: 0, px: 0.75, py: 0, fontSize: 12.5 }}
            >
              {steps(n)} a step
            </Button>
          );
        })}
    </Box>
  );
});
