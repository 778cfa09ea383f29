import { createApart } from '@/core/measure/apart';
import type { Motion } from '@/core/motion/motion';
import { trackValue } from '@/core/math/track';
import type { TrackSpec } from '@/core/steps/plan';
import type { StageMotion } from '../stage/motion';

/** Looks at a walk over its whole time. */
export const LOOKS = 240;

/** Distance walked and speed at even times of a walk. */
export function courseOf(motion: Motion): { readonly way: Float64Array; readonly speed: Float64Array } {
  const place = new Float64Array(4);
  const way = new Float64Array(LOOKS + 1),
    speed = new Float64Array(LOOKS + 1);
  let x = 0,
    z = 0;
  for (let i = 0; i <= LOOKS; i++) {
    motion.place((motion.duration * i) / LOOKS, place);
    if (i > 0) way[i] = way[i - 1]! + Math.hypot(place[0]! - x, place[2]! - z);
    [x, z] = [place[0]!, place[2]!];
  }
  const dt = motion.duration / LOOKS;
  for (let i = 0; i <= LOOKS; i++) {
    const a = Math.max(0, i - 1),
      b = Math.min(LOOKS, i + 1);
    speed[i] = (way[b]! - way[a]!) / ((b - a) * dt);
  }
  return { way, speed };
}

/** How far (m) the walk beside it is away, over time, and at the least; null where there is none. */
export function apartOf({ source, beside, duration }: StageMotion): { readonly gaps: Float64Array; readonly least: number } | null {
  if (!beside[0]) return null;
  const gapAt = createApart(source, beside[0]);
  const gaps = Float64Array.from({ length: LOOKS + 1 }, (_, i) => gapAt((duration * i) / LOOKS));
  return { gaps, least: gaps.reduce((a, b) => Math.min(a, b), Infinity) };
}

/** A track over a walk's time as points of a line. */
export function trackLine(track: TrackSpec, duration: number, walkedAt: (t: number) => number, x: (t: number) => number, y: (v: number) => number): string {
  return Array.from({ length: LOOKS + 1 }, (_, i) => {
    const t = (duration * i) / LOOKS;
    return `${x(t).toFixed(1)},${y(trackValue(track, t, walkedAt(t))).toFixed(1)}`;
  }).join(' ');
}
