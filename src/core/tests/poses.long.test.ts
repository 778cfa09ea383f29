import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { weigh, weighedMotions, type WeighedMotion } from './weighed-poses';

/**
 * Poses as they were when last looked at, weighed: what a change moves that was to move nothing shows here
 * (`npx tsx scripts/record-poses.ts` records them anew where motion is changed on purpose).
 */
const bytes = readFileSync(join(import.meta.dirname, 'files', 'poses.f64'));
const record = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));

/** A sum of 98 numbers that agree to 1e-9 may differ by as much as chance adds up. */
const SAME = 1e-9 * Math.sqrt(98);
/**
 * Sprints whose nearly straight knees show what both versions' one-sided differences of 10 µs round off (a hundredth of a
 * nanometre at the ankle is three nanoradians there).
 */
const ROUNDED = (m: WeighedMotion) => m.gait === 'sprint' && typeof m.kind === 'number';

describe('what the figure does', () => {
  it('is what it was, to 1e-9, for every style on every body: cycles, directions with twins, straight plans', () => {
    let at = 0;
    const off: string[] = [];
    let compared = 0;
    for (const motion of weighedMotions()) {
      const sums = weigh(motion);
      const worst = sums.reduce((most, v, i) => Math.max(most, Math.abs(v - record[at + i]!)), 0);
      at += sums.length;
      // Not a number is no agreement.
      if (!(worst <= (ROUNDED(motion) ? 2 * SAME : SAME))) off.push(`${motion.body} ${motion.gait} ${motion.kind}: ${worst.toExponential(1)}`);
      compared++;
    }
    expect(at).toBe(record.length);
    expect(off).toEqual([]);
    expect(compared).toBeGreaterThan(900);
  });
});
