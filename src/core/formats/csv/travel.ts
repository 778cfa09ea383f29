import { toDegrees } from '../../math/scalar';
import type { Clip, ClipContact } from '../../clip/clip';

/** Rows of a travel table end as RFC 4180 has it. */
const LINE = '\r\n';

/** Travel and contacts of a clip as a table (RFC 4180), a row a picture: where the travel is, how fast, and which feet stand. */
export function travelCsv({ frames, rate }: Clip, places: Float64Array, contacts: readonly ClipContact[]): string {
  const head = ['frame', 'time (s)', 'x (m)', 'y (m)', 'z (m)', 'heading (deg)', 'speed (m/s)', 'left foot stands', 'right foot stands'];
  const stands = (foot: 'left' | 'right', f: number) => (contacts.some((c) => c.foot === foot && within(c, f, frames)) ? 1 : 0);
  const rows = Array.from({ length: frames }, (_, f) => {
    const [a, b] = [Math.max(0, f - 1) * 4, Math.min(frames - 1, f + 1) * 4];
    const speed = b > a ? (Math.hypot(places[b]! - places[a]!, places[b + 2]! - places[a + 2]!) * rate * 4) / (b - a) : 0;
    return [
      f,
      (f / rate).toFixed(6),
      ...[0, 1, 2].map((k) => places[f * 4 + k]!.toFixed(6)),
      toDegrees(places[f * 4 + 3]!).toFixed(4),
      speed.toFixed(4),
      stands('left', f),
      stands('right', f),
    ].join(',');
  });
  return [head.join(','), ...rows].join(LINE) + LINE;
}

/** A loop's contact may end in the next round. */
const within = ({ from, to }: ClipContact, f: number, frames: number): boolean => (f >= from && f <= to) || f + frames <= to;
