import { finish } from '../math/finish';
import { CONTACT_NUMBERS, contactPoints, type FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip } from '../clip/clip';
import type { Ground } from '../ground/ground';

/** Frames known on either side of a clip's own: a loop's go on, another's stand still. */
export const TRACE_MARGIN = 3;

/** One foot's sole through a clip. Index of frame f in every array: f + TRACE_MARGIN. */
export interface SoleTrace {
  readonly foot: FootModel;
  /** Contact points per frame, CONTACT_NUMBERS each, m. */
  readonly points: Float64Array;
  /** Height of each contact point over the ground under it, 3 a frame, m. */
  readonly heights: Float64Array;
  /** Lowest height per frame, m, and which point it is (0 heel, 1 ball, 2 tip). */
  readonly lowest: Float64Array;
  readonly pivot: Uint8Array;
}

/** Where all joints and soles of a clip are, looked up once for every measure. */
export interface ClipTrace {
  readonly clip: Clip;
  /** Joint positions per frame, 3 a joint, m, from frame −TRACE_MARGIN on. */
  readonly positions: Float64Array;
  readonly soles: readonly SoleTrace[];
  /** The ground heights are told from; null where it is taken as level at a height still to be found. */
  readonly ground: Ground | null;
}

/** Offset of frame f's joints in `positions`. */
export const jointsAt = ({ clip }: ClipTrace, f: number): number => (f + TRACE_MARGIN) * clip.skeleton.names.length * 3;
/** Offset of frame f's contact points in a sole's `points`. */
export const pointsAt = (f: number): number => (f + TRACE_MARGIN) * CONTACT_NUMBERS;

/** Frames traced between two looks at whether to go on. */
const STEP_FRAMES = 128;

/** Traces a clip at once. */
export function traceClip(clip: Clip, feet: readonly FootModel[], ground: Ground | null = null): ClipTrace {
  return finish(tracing(clip, feet, ground));
}

/** Traces a clip's soles alone, without the places of joints. */
export function traceSoles(clip: Clip, feet: readonly FootModel[]): ClipTrace {
  const joints = withAncestors(
    clip.skeleton,
    feet.flatMap((f) => [f.ankle, f.toes]),
  );
  return finish(tracing(clip, feet, null, joints));
}

/** Traces a clip bit by bit: all joints, or the soles alone, with the joints in `only` (parents first) that they hang on. */
export function* tracing(clip: Clip, feet: readonly FootModel[], ground: Ground | null = null, only?: Int32Array): Generator<undefined, ClipTrace> {
  const n = clip.frames + 2 * TRACE_MARGIN;
  const numbers = clip.skeleton.names.length * 3;
  const positions = new Float64Array(only ? 0 : n * numbers);
  const soles = feet.map((foot) => ({
    foot,
    points: new Float64Array(n * CONTACT_NUMBERS),
    heights: new Float64Array(n * 3),
    lowest: new Float64Array(n),
    pivot: new Uint8Array(n),
  }));
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const readFrame = createFrameReader(clip);
  for (let i = 0; i < n; i++) {
    readFrame(i - TRACE_MARGIN, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world, only);
    if (!only) positions.set(world.positions, i * numbers);
    for (const { foot, points, heights, lowest, pivot } of soles) {
      const at = i * CONTACT_NUMBERS;
      contactPoints(foot, world, points, at);
      for (let p = 0; p < 3; p++) heights[3 * i + p] = heightOver(ground, points, at + 3 * p);
      let k = 0;
      for (let p = 1; p < 3; p++) if (heights[3 * i + p]! < heights[3 * i + k]!) k = p;
      pivot[i] = k;
      lowest[i] = heights[3 * i + k]!;
    }
    if (i % STEP_FRAMES === STEP_FRAMES - 1) yield undefined;
  }
  return { clip, positions, soles, ground };
}

/** Height (m) of a point at points[o..] over the ground under it, or over the origin's level. */
export const heightOver = (ground: Ground | null, points: Float64Array, o: number): number =>
  ground ? points[o + 1]! - ground.height(points[o]!, points[o + 2]!) : points[o + 1]!;

/** The trace of the same clip with a constant velocity (m/s) added to its travel; `clip` is the clip so changed. */
export function movedTrace(trace: ClipTrace, clip: Clip, vx: number, vz: number): ClipTrace {
  if (vx === 0 && vz === 0) return trace;
  const moved = (values: Float64Array, numbers: number) =>
    values.map((v, i) => {
      const t = (Math.floor(i / numbers) - TRACE_MARGIN) / clip.rate;
      return i % 3 === 0 ? v + vx * t : i % 3 === 2 ? v + vz * t : v;
    });
  return {
    ...trace,
    clip,
    positions: moved(trace.positions, clip.skeleton.names.length * 3),
    soles: trace.soles.map((s) => ({ ...s, points: moved(s.points, CONTACT_NUMBERS) })),
  };
}

/** Velocity (m/s, x and z) of the sole point that is lowest at frame f, by central difference, written to out[0..1]. */
export function pivotVelocity(trace: SoleTrace, frames: number, rate: number, f: number, out: Float64Array): void {
  const k = trace.pivot[f + TRACE_MARGIN]! * 3;
  const first = Math.max(-1, f - 1),
    last = Math.min(frames, f + 1);
  const dt = (last - first) / rate;
  const a = pointsAt(first) + k,
    b = pointsAt(last) + k;
  out[0] = (trace.points[b]! - trace.points[a]!) / dt;
  out[1] = (trace.points[b + 2]! - trace.points[a + 2]!) / dt;
}

/** How far (m) a point of a sole moves from a picture to the next. */
export function pointMoves({ points }: SoleTrace, f: number, k: number): number {
  const [a, b] = [pointsAt(f) + k * 3, pointsAt(f + 1) + k * 3];
  return Math.hypot(points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!);
}
