import type { KeyboardEvent, PointerEvent } from 'react';
import { contactPhases } from '@/core/gait/contact-phases';
import { sidedGait } from '@/core/gait/sides';
import type { GaitSpec } from '@/core/gait/spec';
import { dialArc, dialPoint } from './geometry';
import { CENTRE, type DialRing } from './rings';

interface Props {
  readonly ring: DialRing;
  readonly gait: GaitSpec;
  readonly onPhaseKey: (e: KeyboardEvent) => void;
  readonly onPhaseDrag: (e: PointerEvent) => void;
  readonly onDutyKey: (e: KeyboardEvent) => void;
  readonly onDutyDrag: (e: PointerEvent) => void;
}

/** Half of the room (px) between two rings: how much wider than seen an arc can be taken. */
const REACH = 16;

/** One limb's ring: its arc, and for a leg the arc's end. */
export function LimbRing({ ring: { limb, label, letter, radius, side, leg }, gait, onPhaseKey, onPhaseDrag, onDutyKey, onDutyDrag }: Props) {
  const own = sidedGait(gait).sides[side === 'left' ? 0 : 1];
  const phase = gait.timing[limb];
  const duty = own.timing.dutyFactor;
  const arcs = leg ? contactPhases(own, side === 'left' ? 0 : 1) : [{ start: phase - 0.25, duration: 0.5 }];
  const way = arcs.map((a) => dialArc(a.start, a.duration, radius, CENTRE)).join(' ');
  const [lx, ly] = dialPoint(arcs[0]!.start + 0.035, radius, CENTRE);
  const [ex, ey] = dialPoint(phase + duty, radius, CENTRE);
  const width = leg ? 12 : 7;
  const cap = side === 'left' ? 'round' : 'butt';
  return (
    <g>
      <circle cx={CENTRE} cy={CENTRE} r={radius} fill="none" stroke="currentColor" strokeOpacity={0.12} strokeWidth={width} />
      <g
        tabIndex={0}
        role="slider"
        aria-label={`${label} phase`}
        aria-valuemin={0}
        aria-valuemax={1}
        aria-valuenow={Number(phase.toFixed(3))}
        style={{ cursor: 'grab' }}
        onKeyDown={onPhaseKey}
        onPointerDown={onPhaseDrag}
      >
        <path d={way} fill="none" stroke="transparent" strokeWidth={REACH} />
        <path
          className="shown"
          d={way}
          fill="none"
          stroke={`var(--${side})`}
          strokeOpacity={leg ? 1 : 0.7}
          strokeWidth={width}
          strokeLinecap={cap}
          style={{ '--width': `${width}px` } as object}
        />
      </g>
      <text x={lx} y={ly} fontSize={leg ? 10 : 8} fontWeight={700} textAnchor="middle" dominantBaseline="central" fill="#fff" pointerEvents="none">
        {letter}
      </text>
      {leg && (
        <g
          tabIndex={0}
          role="slider"
          aria-label={`${label}: time on the ground`}
          aria-valuemin={15}
          aria-valuemax={85}
          aria-valuenow={Math.round(duty * 100)}
          style={{ cursor: 'ew-resize' }}
          onKeyDown={onDutyKey}
          onPointerDown={onDutyDrag}
        >
          <circle cx={ex} cy={ey} r={10} fill="transparent" />
          <circle
            className="shown"
            cx={ex}
            cy={ey}
            r={5}
            fill="var(--mui-palette-background-paper)"
            stroke={`var(--${side})`}
            strokeWidth={2}
            style={{ '--width': '2px' } as object}
          />
        </g>
      )}
    </g>
  );
}
