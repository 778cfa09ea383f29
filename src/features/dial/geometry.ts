import { TAU, wrapPhase } from '@/core/math/scalar';

/** Point on the dial: phase 0 at the top, running clockwise. */
export function dialPoint(phase: number, radius: number, centre: number): [number, number] {
  const a = TAU * phase;
  return [centre + radius * Math.sin(a), centre - radius * Math.cos(a)];
}

/** SVG path of an arc from phase `from` over `span` (part of a turn, up to 1). */
export function dialArc(from: number, span: number, radius: number, centre: number): string {
  const s = Math.min(0.9999, Math.max(0, span));
  const [x0, y0] = dialPoint(from, radius, centre);
  const [x1, y1] = dialPoint(from + s, radius, centre);
  return `M ${x0.toFixed(2)} ${y0.toFixed(2)} A ${radius} ${radius} 0 ${s > 0.5 ? 1 : 0} 1 ${x1.toFixed(2)} ${y1.toFixed(2)}`;
}

/** Phase under a point of the dial. */
export const phaseAt = (x: number, y: number, centre: number): number => wrapPhase(Math.atan2(x - centre, centre - y) / TAU);
