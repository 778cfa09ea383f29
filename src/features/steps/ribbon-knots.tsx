import type { PointerEvent as ReactPointer } from 'react';
import type { PlanSpec } from '@/core/steps/plan';
import type { RibbonMap } from './ribbon-view';

interface Props {
  readonly knots: PlanSpec['course']['knots'];
  readonly map: RibbonMap;
  readonly chosen: number | null;
  readonly onGrab: (i: number, e: ReactPointer) => void;
}

/** Knots of the course, each with the turn that is made there. */
export function RibbonKnots({ knots, map, chosen, onGrab }: Props) {
  return knots.map((k, i) => {
    const [x, y] = map.px(k.x, k.z);
    const on = chosen === i;
    return (
      <g key={i} data-knot-mark={i} onPointerDown={(e) => onGrab(i, e)} cursor="grab">
        <circle cx={x} cy={y} r={11} fill="transparent" />
        <circle cx={x} cy={y} r={on ? 6.5 : 5} fill={on ? 'var(--sea)' : 'var(--paper)'} stroke="var(--sea)" strokeWidth={2} />
        {k.turnDeg !== undefined && (
          <text x={x + 9} y={y + 15} fontSize={11} fill="currentColor">
            turn {k.turnDeg.toFixed(0)}°
          </text>
        )}
      </g>
    );
  });
}

/** The place that is faced, as an eye. */
export function FacedPlace({ place, map, onGrab }: { place: { readonly x: number; readonly z: number }; map: RibbonMap; onGrab: (e: ReactPointer) => void }) {
  const [x, y] = map.px(place.x, place.z);
  return (
    <g data-faced onPointerDown={onGrab} cursor="grab">
      <circle cx={x} cy={y} r={12} fill="transparent" />
      <path
        d="M-10 0Q0 -8 10 0Q0 8 -10 0Z"
        transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}
        fill="var(--paper)"
        stroke="var(--sea)"
        strokeWidth={1.8}
      />
      <circle cx={x} cy={y} r={3} fill="var(--sea)" />
    </g>
  );
}
