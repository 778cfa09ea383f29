import { memo, type PointerEvent as ReactPointer } from 'react';
import type { Sole } from '@/core/body/sole';
import { toDegrees } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { useTimes } from '../stage/times';
import type { RibbonMap } from './ribbon-view';

/** Length (m) of a print's stalk, by which it is turned. */
const STALK_M = 0.42;

/** Outlines in metres: ahead to the right, left up; the left one round, the right one square. */
const leftSole = ({ heelBack: b, ballAhead: m, tipAhead: t, breadth }: Sole): string => {
  const w = breadth / 2;
  return `M${-b} 0Q${-b} ${-w * 0.8} ${-b + w} ${-w * 0.74}L${m} ${-w}Q${t} ${-w} ${t} 0Q${t} ${w} ${m} ${w}L${-b + w} ${w * 0.74}Q${-b} ${w * 0.8} ${-b} 0Z`;
};
const rightSole = ({ heelBack: b, ballAhead: m, tipAhead: t, breadth }: Sole): string => {
  const w = breadth / 2;
  return `M${-b} ${-w * 0.76}L${m * 0.3} ${-w * 0.68}L${m} ${-w}L${t} ${-w}L${t} ${w}L${m} ${w}L${m * 0.3} ${w * 0.68}L${-b} ${w * 0.76}Z`;
};

/** Strokes across a sole, in metres. A pattern would be drawn anew with all that lies about it, whatever moves. */
const hatching = ({ heelBack, tipAhead, breadth }: Sole): string => {
  const w = breadth * 0.4;
  const strokes = Array.from({ length: 6 }, (_, i) => -heelBack + w + ((heelBack + tipAhead - 2 * w) * i) / 5);
  return strokes.map((x) => `M${(x - w).toFixed(4)} ${(-w).toFixed(4)}L${(x + w).toFixed(4)} ${w.toFixed(4)}`).join('');
};

/** When the foot of a chosen print stands, under it. */
function StandingTimes({ hold, x, y }: { hold: Foothold; x: number; y: number }) {
  const times = useTimes();
  return (
    <text x={x} y={y} fontSize={11} textAnchor="middle" fill="currentColor">
      {hold.step}: {times.between(hold.landing, hold.leaving)}
    </text>
  );
}

interface PrintProps {
  readonly hold: Foothold;
  readonly map: RibbonMap;
  readonly sole: Sole;
  readonly chosen: boolean;
  readonly moved: boolean;
  readonly fault: string | null;
  /** On which line over it the words about that stand, so that none is written over another's. */
  readonly lane: number;
  readonly onGrab: (hold: Foothold, part: 'whole' | 'stalk', e: ReactPointer) => void;
}

export const Print = memo(function Print({ hold, map, sole, chosen, moved, fault, lane, onGrab }: PrintProps) {
  const [x, y] = map.px(hold.x, hold.z);
  const { scale } = map.view;
  const ink = hold.side === 0 ? 'var(--left)' : 'var(--right)';
  const size = Math.max(scale, 34);
  // Every part has the whole transform to itself: a group that is moved costs its parts a style of their own each time, and
  // Chromium looks through all it has had before.
  const lies = `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-toDegrees(hold.heading)).toFixed(1)})`;
  const [ahead, aside] = [Math.cos(hold.heading), -Math.sin(hold.heading)];
  const [stalkX, stalkY] = [x + STALK_M * size * ahead, y + STALK_M * size * aside];
  return (
    <g data-print={hold.step} data-side={hold.side === 0 ? 'left' : 'right'}>
      <g onPointerDown={(e) => onGrab(hold, 'whole', e)} cursor={hold.step > 0 ? 'grab' : 'default'}>
        <path
          d={hold.side === 0 ? leftSole(sole) : rightSole(sole)}
          transform={`${lies} scale(${size} ${-size})`}
          fill={fault ? 'var(--paper)' : ink}
          fillOpacity={hold.step === 0 && !fault ? 0.25 : 0.75}
          stroke={chosen ? 'currentColor' : ink}
          strokeWidth={(chosen ? 2.2 : 1) / size}
          strokeDasharray={moved ? `${3 / size} ${2 / size}` : undefined}
        />
        {fault && <path d={hatching(sole)} transform={`${lies} scale(${size} ${-size})`} stroke="var(--fault)" strokeWidth={2 / size} data-hatched />}
        {size > 60 && (
          <text
            x={x + 0.03 * size * ahead}
            y={y + 0.03 * size * aside}
            fontSize={10}
            fontWeight={700}
            textAnchor="middle"
            dominantBaseline="central"
            fill="var(--paper)"
          >
            {hold.side === 0 ? 'L' : 'R'}
          </text>
        )}
      </g>
      {chosen && (
        <>
          <line x1={x} y1={y} x2={stalkX} y2={stalkY} stroke="currentColor" strokeWidth={1.2} pointerEvents="none" />
          <circle
            data-stalk={hold.step}
            cx={stalkX}
            cy={stalkY}
            r={5.5}
            fill="var(--paper)"
            stroke="currentColor"
            strokeWidth={1.6}
            cursor="crosshair"
            onPointerDown={(e) => onGrab(hold, 'stalk', e)}
          />
          <StandingTimes hold={hold} x={x} y={y + 24} />
        </>
      )}
      {fault && (
        <text x={x} y={y - 14 - 12 * lane} fontSize={11} textAnchor="middle" fill="var(--fault)" pointerEvents="none">
          {fault}
        </text>
      )}
    </g>
  );
});
