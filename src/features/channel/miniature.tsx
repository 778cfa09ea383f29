import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef } from 'react';
import { compileCurve, curveValue, defaultKeys } from '@/core/gait/curve';
import type { Channel, ChannelParameter } from '@/core/gait/parameters';
import { TAU, wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';

const W = 46;
const H = 18;
/** Radius of the mark, which is a layer of its own: playing paints nothing anew. */
const DOT = 2.2;

/** The shape of a channel over the stride, without amount: its edited curve, or its own wave. */
function shapeOf(channel: Channel, waves: ChannelParameter['waves']): (phase: number) => number {
  if (!channel.curve) {
    const sign = waves === 2 ? -1 : 1;
    return (phase) => sign * Math.cos(TAU * waves * (phase + channel.delay));
  }
  const pieces = compileCurve(channel.curve.length > 0 ? channel.curve : defaultKeys(waves));
  return (phase) => curveValue(pieces, phase + channel.delay);
}

/** A channel's curve over one stride, in miniature, with a mark that plays along. */
export function Miniature({ channel, waves, clock, duration }: { channel: Channel; waves: ChannelParameter['waves']; clock: Clock; duration: number }) {
  const mark = useRef<HTMLSpanElement>(null);
  const shape = useMemo(() => shapeOf(channel, waves), [channel, waves]);
  const { path, y } = useMemo(() => {
    const values = Array.from({ length: 41 }, (_, i) => shape(i / 40));
    const size = Math.max(1, ...values.map(Math.abs));
    const toY = (v: number) => H / 2 - (v / size) * (H / 2 - 2);
    return { path: values.map((v, i) => `${((i / 40) * W).toFixed(1)},${toY(v).toFixed(1)}`).join(' '), y: toY };
  }, [shape]);
  useEffect(
    () =>
      clock.subscribe((t) => {
        const phase = wrapPhase(t / duration);
        if (mark.current) mark.current.style.transform = `translate(${(phase * W - DOT).toFixed(1)}px, ${(y(shape(phase)) - DOT).toFixed(1)}px)`;
      }),
    [clock, duration, shape, y],
  );
  return (
    <Box
      component="span"
      aria-hidden
      sx={{ position: 'relative', display: 'block', width: W, height: H, color: 'primary.main', opacity: channel.amount === 0 ? 0.4 : 1 }}
    >
      <svg width={W} height={H} style={{ display: 'block' }}>
        <line x1={0} x2={W} y1={H / 2} y2={H / 2} stroke="currentColor" strokeOpacity={0.25} />
        <polyline points={path} fill="none" stroke="currentColor" strokeWidth={1.4} />
      </svg>
      <Box
        component="span"
        ref={mark}
        sx={{ position: 'absolute', left: 0, top: 0, width: 2 * DOT, height: 2 * DOT, borderRadius: '50%', bgcolor: 'currentColor', willChange: 'transform' }}
      />
    </Box>
  );
}
