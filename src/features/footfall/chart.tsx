import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, type PointerEvent } from 'react';
import { SIDES } from '@/core/body/roles';
import { sidedGait } from '@/core/gait/sides';
import type { GaitSpec } from '@/core/gait/spec';
import { clamp, wrapPhase } from '@/core/math/scalar';
import { contactPhases } from '@/core/gait/contact-phases';
import type { Clock } from '../stage/clock';
import { followPointer } from './follow';
import { useWidth } from './width';

const H = 62;
const LEFT = 22;
const ROW = [8, 26] as const;
const BAR = 13;
/** Strides drawn side by side, so that contacts over the seam are seen whole. */
const STRIDES = 2;

/** Bars of one foot's contacts over the drawn strides, in strides. */
function barsOf(gait: GaitSpec, side: 0 | 1): { from: number; to: number }[] {
  const own = sidedGait(gait).sides[side];
  return contactPhases(own, side).flatMap(({ start, duration }) =>
    Array.from({ length: STRIDES + 1 }, (_, k) => ({ from: wrapPhase(start) + k - 1, to: wrapPhase(start) + k - 1 + duration }))
      .map((b) => ({ from: Math.max(0, b.from), to: Math.min(STRIDES, b.to) }))
      .filter((b) => b.to > b.from),
  );
}

/** The gait diagram of a cycle: a row a foot with bars for contact, the distance along the bottom; drag to scrub. */
export function FootfallChart({ gait, clock, duration }: { gait: GaitSpec; clock: Clock; duration: number }) {
  const frame = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLSpanElement>(null);
  // Drawn at the width there is: text keeps its shape.
  const W = useWidth(frame);
  const bars = useMemo(() => SIDES.map((s) => barsOf(gait, s)), [gait]);
  const x = (strides: number) => LEFT + (strides / STRIDES) * (W - LEFT - 6);
  useEffect(
    () =>
      clock.subscribe((t) => {
        const at = LEFT + wrapPhase(t / duration / STRIDES) * (W - LEFT - 6);
        if (head.current) head.current.style.transform = `translateX(${at.toFixed(1)}px)`;
      }),
    [clock, duration, W],
  );
  const scrub = (e: { clientX: number }) => {
    const box = frame.current!.getBoundingClientRect();
    const strides = clamp(((e.clientX - box.left - LEFT) / (W - LEFT - 6)) * STRIDES, 0, STRIDES - 1e-6);
    const turn = Math.floor(clock.time / duration / STRIDES) * STRIDES;
    clock.set((turn + strides) * duration);
  };
  const begin = (e: PointerEvent) => {
    scrub(e);
    followPointer(scrub);
  };
  const stride = Math.abs(gait.timing.strideLength);
  return (
    <Box
      ref={frame}
      role="img"
      aria-label={`Footfall chart: ${bars.map((b, s) => `${s === 0 ? 'left' : 'right'} foot on the ground ${b.map((v) => `${v.from.toFixed(2)} to ${v.to.toFixed(2)}`).join(', ')}`).join('; ')} strides`}
      data-testid="footfall-chart"
      onPointerDown={begin}
      sx={{
        position: 'relative',
        overflow: 'hidden',
        width: 1,
        height: H,
        cursor: 'ew-resize',
        touchAction: 'none',
        borderTop: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        color: 'text.primary',
        '--left': '#C9781E',
        '--right': '#5B4BB7',
        '[data-scheme="dark"] &': { '--left': '#E39A48', '--right': '#A497F2' },
      }}
    >
      <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} aria-hidden style={{ display: 'block' }}>
        {bars.map((own, side) => (
          <g key={side}>
            <text x={8} y={ROW[side]! + BAR - 2.5} fontSize={12} fontWeight={700} fill="currentColor">
              {side === 0 ? 'L' : 'R'}
            </text>
            {own.map((b) => (
              <rect
                key={b.from}
                data-contact={side === 0 ? 'left' : 'right'}
                x={x(b.from)}
                width={x(b.to) - x(b.from)}
                y={ROW[side]!}
                height={BAR}
                rx={side === 0 ? BAR / 2 : 0}
                fill={side === 0 ? 'var(--left)' : 'var(--right)'}
              />
            ))}
          </g>
        ))}
        <line x1={LEFT} x2={W - 6} y1={46} y2={46} stroke="currentColor" strokeOpacity={0.5} />
        {Array.from({ length: STRIDES * 4 + 1 }, (_, i) => i / 4).map((s) => (
          <g key={s}>
            <line x1={x(s)} x2={x(s)} y1={s % 1 === 0 ? 4 : 42} y2={49} stroke="currentColor" strokeOpacity={s % 1 === 0 ? 0.45 : 0.6} />
            {s % 0.5 === 0 && (
              <text x={Math.min(x(s), W - 44)} y={59} fontSize={10.5} textAnchor={s === 0 ? 'start' : 'middle'} fill="currentColor">
                {(s * stride).toFixed(2)} m
              </text>
            )}
          </g>
        ))}
      </svg>
      <Box
        component="span"
        ref={head}
        sx={{ position: 'absolute', left: -0.8, top: 2, width: 1.6, height: 48, bgcolor: 'currentColor', willChange: 'transform' }}
      />
    </Box>
  );
}
