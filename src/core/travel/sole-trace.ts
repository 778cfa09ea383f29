import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { readFrame, type Clip } from '../clip/clip';
import { CONTACT_NUMBERS, contactPoints, type FootModel } from '../measure/foot-model';

/** One foot's sole through a clip, from one frame before the first to one after the last. */
export interface SoleTrace {
  readonly foot: FootModel;
  /** Contact points per frame (f = −1 … frames), CONTACT_NUMBERS each. */
  readonly points: Float64Array;
  /** Lowest height per frame, m, and which point it is (0 heel, 1 ball, 2 tip). */
  readonly lowest: Float64Array;
  readonly pivot: Uint8Array;
}

export function traceSoles(clip: Clip, feet: readonly FootModel[]): SoleTrace[] {
  const n = clip.frames + 2;
  const traces = feet.map((foot) => ({ foot, points: new Float64Array(n * CONTACT_NUMBERS), lowest: new Float64Array(n), pivot: new Uint8Array(n) }));
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  for (let f = -1; f <= clip.frames; f++) {
    readFrame(clip, f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    for (const { foot, points, lowest, pivot } of traces) {
      const at = (f + 1) * CONTACT_NUMBERS;
      contactPoints(foot, world, points, at);
      let k = 0;
      for (let i = 1; i < 3; i++) if (points[at + i * 3 + 1]! < points[at + k * 3 + 1]!) k = i;
      pivot[f + 1] = k;
      lowest[f + 1] = points[at + k * 3 + 1]!;
    }
  }
  return traces;
}

/** Velocity (m/s, x and z) of the sole point that is lowest at frame f, by central difference, written to out[0..1]. */
export function pivotVelocity(trace: SoleTrace, rate: number, f: number, out: Float64Array): void {
  const k = trace.pivot[f + 1]! * 3;
  const before = Math.max(0, f) * CONTACT_NUMBERS + k,
    after = Math.min(trace.lowest.length - 1, f + 2) * CONTACT_NUMBERS + k;
  const dt = (after - before) / CONTACT_NUMBERS / rate;
  out[0] = (trace.points[after]! - trace.points[before]!) / dt;
  out[1] = (trace.points[after + 2]! - trace.points[before + 2]!) / dt;
}
