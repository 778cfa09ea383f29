import Box from '@mui/material/Box';
import type { Channel, ChannelParameter } from '@/core/gait/parameters';
import { TAU } from '@/core/math/scalar';

const W = 46;
const H = 18;

/** A channel's curve over one stride, in miniature. */
export function Miniature({ channel, waves }: { channel: Channel; waves: ChannelParameter['waves'] }) {
  const sign = waves === 2 ? -1 : 1;
  const size = channel.amount === 0 ? 0 : 1;
  const points = Array.from({ length: 33 }, (_, i) => {
    const y = sign * size * Math.cos(TAU * waves * (i / 32 + channel.delay));
    return `${((i / 32) * W).toFixed(1)},${(H / 2 - y * (H / 2 - 2)).toFixed(1)}`;
  });
  return (
    <Box component="svg" width={W} height={H} aria-hidden sx={{ display: 'block', color: 'primary.main' }}>
      <line x1={0} x2={W} y1={H / 2} y2={H / 2} stroke="currentColor" strokeOpacity={0.25} />
      <polyline points={points.join(' ')} fill="none" stroke="currentColor" strokeWidth={1.4} />
    </Box>
  );
}
