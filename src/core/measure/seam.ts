import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { jointsAt, TRACE_MARGIN, type ClipTrace } from '../travel/trace';

/** Jump from a loop's last frame to its first. Clips that do not loop have none. */
export interface Seam {
  /**
   * Largest position jump of a joint in m. With the pose after the last frame known: against the first frame moved on by the
   * travel. Without: the part of the step over the seam that the smoothness of the other steps does not explain.
   */
  readonly positionM: number;
  /** Largest velocity jump of a joint, as a part of its largest speed, beyond the largest jump inside the clip; null for too few frames. */
  readonly velocityShare: number | null;
}

/** Frames on each side that the velocity estimate at a frame looks at; a trace knows as many. */
const REACH = TRACE_MARGIN;
/**
 * A step's third difference may be this many times the largest inside the clip: a landing that falls just on a frame shows whole
 * in one difference, the others' between frames are split over two.
 */
const EXPLAINED = 2;

/** Seam of a loop; null for others. `closing` is the pose after the last frame, where it is computed or stored apart from the first. */
export function measureSeam(trace: ClipTrace, closing?: Float64Array): Seam | null {
  const { clip, positions } = trace;
  if (!clip.loop) return null;
  const joints = clip.skeleton.names.length;
  const enough = clip.frames >= 3 * REACH;
  let jump = closing ? closingJump(trace, closing) : 0;
  let share = 0;
  for (let j = 0; enough && j < joints; j++) {
    const at: JointAt = (f, k) => positions[((f + TRACE_MARGIN) * joints + j) * 3 + k]!;
    // What stays while others carry the travel has no part in it.
    if (stays(at, clip.frames)) continue;
    if (!closing) jump = Math.max(jump, unexplainedJump(at, clip.frames));
    share = Math.max(share, velocityJump(at, clip.frames));
  }
  return { positionM: jump, velocityShare: enough ? share : null };
}

/** Coordinate k of one joint at frame f, which may lie outside the stored frames. */
type JointAt = (f: number, k: number) => number;

function stays(at: JointAt, frames: number): boolean {
  for (let f = 1; f < frames; f++) for (let k = 0; k < 3; k++) if (at(f, k) !== at(0, k)) return false;
  return true;
}

const span = (read: (k: number) => number): number => Math.hypot(read(0), read(1), read(2));

function closingJump(trace: ClipTrace, closing: Float64Array): number {
  const { clip, positions } = trace;
  const world = createWorldPose(clip.skeleton);
  forwardKinematics(clip.skeleton, closing, 0, world);
  const next = jointsAt(trace, clip.frames);
  return world.positions.reduce((most, v, i) => Math.max(most, Math.abs(v - positions[next + i]!)), 0);
}

/** A jump δ between two frames shows as 2δ in the third difference around them; what the clip shows elsewhere is its own motion. */
function unexplainedJump(at: JointAt, frames: number): number {
  const third = (f: number) => span((k) => at(f + 1, k) - 3 * at(f, k) + 3 * at(f - 1, k) - at(f - 2, k));
  let inside = 0;
  for (let f = 2; f <= frames - 2; f++) inside = Math.max(inside, third(f));
  return Math.max(0, third(0) - EXPLAINED * inside) / 2;
}

/** Velocity changes from frame to frame everywhere; a seam is what it changes more there than anywhere else. */
function velocityJump(at: JointAt, frames: number): number {
  // Velocity after frame f against velocity before it, both by third-order one-sided differences.
  const side = (f: number, s: 1 | -1, k: number) => (s * (-11 * at(f, k) + 18 * at(f + s, k) - 9 * at(f + 2 * s, k) + 2 * at(f + 3 * s, k))) / 6;
  const change = (f: number) => span((k) => side(f, 1, k) - side(f, -1, k));
  let fastest = 0;
  let roughest = 0;
  for (let f = 0; f < frames; f++) {
    fastest = Math.max(
      fastest,
      span((k) => at(f + 1, k) - at(f, k)),
    );
    // Nearer to the seam the estimate itself looks across it.
    if (f >= REACH && f <= frames - REACH) roughest = Math.max(roughest, change(f));
  }
  return fastest > 1e-9 ? Math.max(0, change(0) - roughest) / fastest : 0;
}
