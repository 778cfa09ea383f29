import type { CheckResult } from '../src/core/check/check';

const fixed = (v: number | null, digits: number): string => (v === null ? '–' : v.toFixed(digits));

/** One line of what a check found. */
export function summary(c: CheckResult): string {
  return [
    `${c.frames} frames at ${c.rate} fps`,
    `speed ${fixed(c.travel.speedMps, 3)} m/s`,
    `stride ${fixed(c.timing.strideLengthM, 3)} m in ${fixed(c.timing.strideTimeS, 4)} s`,
    `slide ${fixed(c.slideMm.atFrames, 3)} mm (between frames ${fixed(c.slideMm.between, 2)})`,
    ...(c.dragged.length > 0 ? [`dragged ${fixed(Math.max(...c.dragged.map((d) => d.mm)), 0)} mm`] : []),
    `sink ${fixed(c.sinkMm, 3)} mm`,
    ...(c.floorGoesM ? [`its floor goes ${fixed(Math.hypot(...c.floorGoesM), 3)} m, all told over it`] : []),
    c.seam ? (c.seam.positionM <= 1e-6 ? 'the loop closes' : `the loop jumps ${(c.seam.positionM * 1000).toFixed(3)} mm`) : 'no loop',
  ].join(', ');
}
