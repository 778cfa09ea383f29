import Box from '@mui/material/Box';
import { useEffect, useRef, type PointerEvent } from 'react';
import { wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';
import { CENTRE, SHOWN, SIZE } from './rings';

interface Props {
  readonly clock: Clock;
  readonly duration: number;
  readonly onDrag: (e: PointerEvent) => void;
}

/**
 * The hand: a hair over the rings, so that no arc is hidden, and a pointer outside the rim to take it by. It is a layer of its
 * own that only turns, so that playing paints nothing anew.
 */
export function DialHand({ clock, duration, onDrag }: Props) {
  const hand = useRef<SVGSVGElement>(null);
  useEffect(
    () =>
      clock.subscribe((t) => {
        if (hand.current) hand.current.style.transform = `rotate(${(wrapPhase(t / duration) * 360).toFixed(2)}deg)`;
      }),
    [clock, duration],
  );
  return (
    <Box
      component="svg"
      ref={hand}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      aria-hidden
      sx={{ position: 'absolute', inset: 0, width: SHOWN, height: SHOWN, pointerEvents: 'none', willChange: 'transform', color: 'text.primary' }}
    >
      <line x1={CENTRE} x2={CENTRE} y1={CENTRE} y2={CENTRE - 92} stroke="currentColor" strokeWidth={0.9} strokeOpacity={0.55} />
      <circle cx={CENTRE} cy={CENTRE} r={4} fill="currentColor" />
      <g tabIndex={-1} onPointerDown={onDrag} style={{ cursor: 'grab', pointerEvents: 'auto', outline: 'none' }}>
        <circle cx={CENTRE} cy={CENTRE - 90} r={11} fill="transparent" />
        <path d={`M ${CENTRE - 6} ${CENTRE - 86} L ${CENTRE} ${CENTRE - 97} L ${CENTRE + 6} ${CENTRE - 86} Z`} fill="currentColor" />
      </g>
      <circle
        cx={CENTRE}
        cy={CENTRE}
        r={20}
        fill="transparent"
        tabIndex={-1}
        onPointerDown={onDrag}
        style={{ cursor: 'grab', pointerEvents: 'auto', outline: 'none' }}
      />
    </Box>
  );
}
