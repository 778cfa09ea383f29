import type { PointerEvent as ReactPointer } from 'react';
import type { TrackSpec } from '@/core/steps/plan';
import type { Session } from '../stage/session';
import { useTimes } from '../stage/times';

/** A key: a post on the line, with a step on it where it is held, a straight edge where it goes on evenly, a round top where smoothly. */
export function Post({
  px,
  py,
  base,
  next,
  name,
  onGrab,
}: {
  px: number;
  py: number;
  base: number;
  next: TrackSpec['keys'][number]['next'];
  name: string;
  onGrab: (e: ReactPointer) => void;
}) {
  return (
    <g data-post={name} onPointerDown={onGrab} cursor="grab">
      <rect x={px - 8} y={py - 8} width={16} height={Math.max(16, base - py + 8)} fill="transparent" />
      <line x1={px} x2={px} y1={py} y2={base} stroke="var(--sea)" strokeWidth={2.5} />
      {next === 'smooth' && <circle cx={px} cy={py} r={4.5} fill="var(--sea)" />}
      {next === 'linear' && <rect x={px - 5} y={py - 2} width={10} height={4} fill="var(--sea)" />}
      {next === 'held' && <path d={`M${px - 5} ${py + 4}V${py - 3}H${px + 6}`} fill="none" stroke="var(--sea)" strokeWidth={2.5} />}
    </g>
  );
}

/** What the rows of a chart are, at their left: single letters for feet, small words else. */
export function RowWords({ rows }: { rows: readonly (readonly [word: string, y: number])[] }) {
  return rows.map(([word, y]) => (
    <text key={word} x={8} y={y} fontSize={word.length > 1 ? 11 : 12} fontWeight={word.length > 1 ? 400 : 700} fill="currentColor">
      {word}
    </text>
  ));
}

/** Whole numbers, halves, twos or fives of a power of ten within a range, three at most, its nought among them. */
export function ticksOf([low, high]: readonly [number, number]): number[] {
  const MOST = 3;
  const rough = (high - low) / MOST;
  const power = 10 ** Math.floor(Math.log10(Math.max(1e-9, rough)));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => Math.floor(high / s + 1e-9) - Math.ceil(low / s - 1e-9) + 1 <= MOST + 1)!;
  const first = Math.ceil(low / step - 1e-9);
  return Array.from({ length: Math.floor(high / step + 1e-9) - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(6)) + 0);
}

/** Least distance (px) of two numbers of a scale. */
const SCALE_PX = 9;

/** The scale of a line: numbers at its left, and a rule at each. */
export function Scale({ range, y, left, right }: { range: readonly [number, number]; y: (v: number) => number; left: number; right: number }) {
  let last = Infinity;
  return (
    <g data-scale pointerEvents="none">
      {ticksOf(range).map((v) => {
        const at = y(v);
        const room = last - at >= SCALE_PX;
        if (room) last = at;
        return (
          <g key={v}>
            <line x1={left} x2={right} y1={at} y2={at} stroke="currentColor" strokeOpacity={0.14} />
            {room && (
              <text x={left - 4} y={at + 3} fontSize={9} textAnchor="end" fill="currentColor" fillOpacity={0.8}>
                {v}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** Rules every so many seconds. */
export function Seconds({ from, to, x, height }: { from: number; to: number; x: (t: number) => number; height: number }) {
  const times = useTimes();
  const frames = times.unit === 'fr';
  const long = to - from;
  const step = long > 300 ? 60 : long > 60 ? 10 : long > 20 ? 5 : long > 6 ? 1 : long > 2 ? 0.5 : 0.1;
  const first = Math.ceil(from / step - 1e-9);
  return (
    <g pointerEvents="none">
      {Array.from({ length: Math.max(0, Math.floor(to / step + 1e-9) - first + 1) }, (_, i) => (first + i) * step).map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={16} y2={height} stroke="currentColor" strokeOpacity={0.14} />
          <text x={x(t) + 2} y={12} fontSize={10} fill="currentColor" fillOpacity={0.75}>
            {frames ? `${Math.round(t * times.rate)} fr` : `${t.toFixed(step < 1 ? 1 : 0)} s`}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Slide at frames (mm) up to which a foot counts as held. */
const HELD_MM = 0.05;
/** A bar of a contact narrower than this (px) has no room for its number. */
const ROOM_PX = 26;
/** Height (px) of a slide of one millimetre and of the largest one that is drawn. */
const MM_PX = 8;
/** Height (px) of one foot's slides. */
export const SLIDE_ROW = 11;

/** The measured slide of each contact, in millimetres: a number where there is room, a stroke as high as it is. */
export function Slides({ slides, x, top }: { slides: NonNullable<Session['slides']>['each']; x: (t: number) => number; top: number }) {
  return (
    <g data-testid="chart-slides" pointerEvents="none">
      {slides.map(({ left, from, to, mm }, i) => {
        const y = top + (left ? 1 : 2) * SLIDE_ROW;
        const [a, b] = [x(from), x(to)];
        const ink = mm > HELD_MM ? 'var(--fault)' : 'currentColor';
        return (
          <g key={i}>
            <line x1={a} x2={b} y1={y} y2={y} stroke={ink} strokeOpacity={0.4} />
            <line x1={(a + b) / 2} x2={(a + b) / 2} y1={y} y2={y - Math.max(1, MM_PX * Math.min(1, mm))} stroke={ink} strokeWidth={2} />
            {b - a > ROOM_PX && (
              <text x={(a + b) / 2 + 3} y={y - 2} fontSize={9.5} fill={ink}>
                {mm.toFixed(2)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
