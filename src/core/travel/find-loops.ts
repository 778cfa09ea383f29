import { JOINT, type Role } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createPlacement, type Placement } from '../math/placement';

/** A stretch of a clip that may be repeated: frames `from` up to and without `to`, whose picture is nearly that of `from` again. */
export interface LoopCandidate {
  readonly from: number;
  readonly to: number;
  /** How far joints are apart at the seam (root mean square, m), and how much faster or slower they go (m/s). */
  readonly seam: number;
  readonly velocity: number;
  /** Landings of the left and of the right foot in it. */
  readonly landings: readonly [number, number];
  /** Farthest (m) that closing it moves a joint: at its ends, half of what they are apart there. */
  readonly closing: number;
  /** Whether joints are so far apart, or so unlike in speed, that closing it is seen. */
  readonly poor: boolean;
}

/** Joints that are compared. */
const COMPARED: readonly Role[] = [
  'hips',
  'upperChest',
  'head',
  'leftUpperArm',
  'leftLowerArm',
  'leftHand',
  'rightUpperArm',
  'rightLowerArm',
  'rightHand',
  'leftLowerLeg',
  'leftFoot',
  'leftToes',
  'rightLowerLeg',
  'rightFoot',
  'rightToes',
];
/** A loop is poor whose joints are farther apart (m, root mean square, with their difference of speed). */
const POOR_M = 0.07;
/** Shortest and longest loop, s, and shortest of feet that stay where they are; a part of the usual stride it takes at least; a difference of speed counts as the way it makes in so long, s. */
const SHORTEST_S = 0.4;
const STAYS_S = 1;
const STRIDE_SHARE = 0.9;
const LONGEST_S = 4;
const SPEED_S = 0.04;
/** Starts and ends are tried this far apart first, s. */
const COARSE_S = 0.034;
/** Candidates kept. */
const KEPT = 12;
/** Two candidates whose starts and ends are both nearer than this (s) are one. */
const SAME_S = 0.2;

/** Places of the compared joints and their velocities through a clip. */
interface Looks {
  readonly joints: number;
  readonly places: Float64Array;
  readonly speeds: Float64Array;
}

/**
 * Candidate loops of a clip, the best first: by how near the joints of the picture behind the end are to those of the first one,
 * in place and in velocity, wherever on the ground and which way it faces. A loop is at least a stride, with a landing of each
 * foot; where both feet stay on the ground, any second or more; where no foot ever stands, any stretch.
 */
export function findLoops(figure: ClipFigure, contacts: readonly ClipContact[], first = 0): LoopCandidate[] {
  const { clip } = figure;
  const looks = lookAt(figure);
  const step = Math.max(1, Math.round(COARSE_S * clip.rate));
  const [short, long] = [Math.ceil(SHORTEST_S * clip.rate), Math.floor(LONGEST_S * clip.rate)];
  const landed = (foot: 'left' | 'right') => {
    const sums = new Int32Array(clip.frames + 1);
    for (const c of contacts)
      if (c.foot === foot && c.from > first) sums[Math.min(clip.frames, Math.ceil(c.from))] = sums[Math.min(clip.frames, Math.ceil(c.from))]! + 1;
    for (let f = 0; f < clip.frames; f++) sums[f + 1] = sums[f + 1]! + sums[f]!;
    return sums;
  };
  const [left, right] = [landed('left'), landed('right')];
  const landings = (a: number, b: number): [number, number] => [left[b]! - left[a]!, right[b]! - right[a]!];
  const stride = STRIDE_SHARE * usualStride(contacts, clip.rate);
  const stays = bothStay(contacts, clip.frames);
  const rounds = (a: number, b: number, [l, r]: readonly [number, number]): boolean =>
    l === 0 && r === 0 ? b - a >= STAYS_S * clip.rate && stays(a, b) : l > 0 && r > 0 && Math.abs(l - r) <= 1 && b - a >= stride;
  const found: { from: number; to: number; score: number }[] = [];
  for (let a = first + 1; a + short < clip.frames - 1; a += step) {
    let best: { from: number; to: number; score: number } | null = null;
    for (let b = a + short; b <= Math.min(clip.frames - 2, a + long); b += step) {
      if (contacts.length > 0 && !rounds(a, b, landings(a, b))) continue;
      const score = difference(looks, a, b);
      if (!best || score < best.score) best = { from: a, to: b, score };
    }
    if (best) found.push(best);
  }
  found.sort((p, q) => p.score - q.score);
  const kept: LoopCandidate[] = [];
  const near = SAME_S * clip.rate;
  for (const c of found) {
    if (kept.length === KEPT) break;
    const at = refined(looks, c, step, clip.frames, first, short);
    if (kept.some((k) => Math.abs(k.from - at.from) < near && Math.abs(k.to - at.to) < near)) continue;
    const [place, velocity] = apart(looks, at.from, at.to);
    if (contacts.length > 0 && !rounds(at.from, at.to, landings(at.from, at.to))) continue;
    const closing = farthestApart(looks, at.from, at.to) / 2;
    kept.push({ ...at, seam: place, velocity, landings: landings(at.from, at.to), closing, poor: place + SPEED_S * velocity > POOR_M });
  }
  return kept.sort((p, q) => p.seam + SPEED_S * p.velocity - q.seam - SPEED_S * q.velocity);
}

/** The usual time (frames) from a landing of a foot to its next; 0 where none lands twice. */
function usualStride(contacts: readonly ClipContact[], rate: number): number {
  const times = (['left', 'right'] as const).flatMap((foot) => {
    const lands = contacts
      .filter((c) => c.foot === foot)
      .map((c) => c.from)
      .sort((a, b) => a - b);
    return lands.slice(1).map((f, i) => f - lands[i]!);
  });
  const steps = times.filter((t) => t < LONGEST_STRIDE_S * rate).sort((a, b) => a - b);
  return steps[steps.length >> 1] ?? 0;
}
/** Longer (s) from landing to landing is no stride. */
const LONGEST_STRIDE_S = 2.5;

/** Whether both feet are on the ground from one frame to another. */
function bothStay(contacts: readonly ClipContact[], frames: number): (a: number, b: number) => boolean {
  const gaps = new Int32Array(frames + 1);
  const on = (['left', 'right'] as const).map((foot) => {
    const stands = new Uint8Array(frames);
    for (const c of contacts) if (c.foot === foot) stands.fill(1, Math.max(0, Math.ceil(c.from)), Math.min(frames, Math.floor(c.to) + 1));
    return stands;
  });
  for (let f = 0; f < frames; f++) gaps[f + 1] = gaps[f]! + (on[0]![f] && on[1]![f] ? 0 : 1);
  return (a, b) => gaps[Math.min(frames, b)] === gaps[a];
}

/** How far (m) the joint that is farthest apart is, with b put on a's place and heading. */
function farthestApart({ joints, places }: Looks, a: number, b: number): number {
  const n = joints * 3;
  const [s, c] = alignment(places, joints, a, b);
  const [ax, az, bx, bz] = centres(places, joints, a, b);
  let most = 0;
  for (let i = 0; i < n; i += 3) {
    const [p, q] = [a * n + i, b * n + i];
    const [x, z] = [places[q]! - bx, places[q + 2]! - bz];
    most = Math.max(most, Math.hypot(c * x + s * z + ax - places[p]!, places[q + 1]! - places[p + 1]!, -s * x + c * z + az - places[p + 2]!));
  }
  return most;
}

function lookAt({ clip, roles }: ClipFigure): Looks {
  const { skeleton, frames, rate, poses } = clip;
  const joints = COMPARED.map((r) => roles[JOINT[r]]!).filter((j) => j >= 0);
  const only = withAncestors(skeleton, joints);
  const world = createWorldPose(skeleton);
  const size = poseSize(skeleton);
  const n = joints.length * 3;
  const places = new Float64Array(frames * n),
    speeds = new Float64Array(frames * n);
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    joints.forEach((j, i) => places.set(world.positions.subarray(j * 3, j * 3 + 3), f * n + i * 3));
  }
  for (let f = 1; f + 1 < frames; f++) for (let k = 0; k < n; k++) speeds[f * n + k] = ((places[(f + 1) * n + k]! - places[(f - 1) * n + k]!) * rate) / 2;
  return { joints: joints.length, places, speeds };
}

/** Score of a seam, m. */
function difference(looks: Looks, a: number, b: number): number {
  const [place, velocity] = apart(looks, a, b);
  return place + SPEED_S * velocity;
}

/** How far the joints of frame b are from those of a (m), and their velocities (m/s), with b put on a's place and heading. */
function apart({ joints, places, speeds }: Looks, a: number, b: number): [number, number] {
  const n = joints * 3;
  const [s, c, ,] = alignment(places, joints, a, b);
  const [ax, az, bx, bz] = centres(places, joints, a, b);
  let [way, fast] = [0, 0];
  for (let i = 0; i < n; i += 3) {
    const [p, q] = [a * n + i, b * n + i];
    const x = places[q]! - bx,
      z = places[q + 2]! - bz;
    way += (c * x + s * z + ax - places[p]!) ** 2 + (places[q + 1]! - places[p + 1]!) ** 2 + (-s * x + c * z + az - places[p + 2]!) ** 2;
    const vx = speeds[q]!,
      vz = speeds[q + 2]!;
    fast += (c * vx + s * vz - speeds[p]!) ** 2 + (speeds[q + 1]! - speeds[p + 1]!) ** 2 + (-s * vx + c * vz - speeds[p + 2]!) ** 2;
  }
  return [Math.sqrt(way / joints), Math.sqrt(fast / joints)];
}

function centres(places: Float64Array, joints: number, a: number, b: number): [number, number, number, number] {
  const n = joints * 3;
  let [ax, az, bx, bz] = [0, 0, 0, 0];
  for (let i = 0; i < n; i += 3) {
    ax += places[a * n + i]!;
    az += places[a * n + i + 2]!;
    bx += places[b * n + i]!;
    bz += places[b * n + i + 2]!;
  }
  return [ax / joints, az / joints, bx / joints, bz / joints];
}

/** Sine and cosine of the turn about the vertical that brings frame b's joints nearest to a's (least squares), and that turn. */
function alignment(places: Float64Array, joints: number, a: number, b: number): [number, number, number] {
  const n = joints * 3;
  const [ax, az, bx, bz] = centres(places, joints, a, b);
  let [cross, dot] = [0, 0];
  for (let i = 0; i < n; i += 3) {
    const px = places[a * n + i]! - ax,
      pz = places[a * n + i + 2]! - az,
      qx = places[b * n + i]! - bx,
      qz = places[b * n + i + 2]! - bz;
    dot += px * qx + pz * qz;
    cross += px * qz - pz * qx;
  }
  const l = Math.hypot(dot, cross) || 1;
  return [cross / l, dot / l, Math.atan2(cross, dot)];
}

/** What takes frame `from` to where frame `to` is: the travel of the loop between them. */
export function seamPlacement(figure: ClipFigure, from: number, to: number): Placement {
  const { joints, places } = lookAt({ ...figure, clip: figure.clip });
  const [s, c, turn] = alignment(places, joints, from, to);
  const [ax, az, bx, bz] = centres(places, joints, from, to);
  // b's place = R(yaw) a's place + t, with yaw = −turn.
  const yaw = -turn;
  return createPlacement(bx - (c * ax - s * az), 0, bz - (s * ax + c * az), yaw);
}

/** The best start and end about a candidate, picture by picture. */
function refined(
  looks: Looks,
  { from, to }: { from: number; to: number },
  step: number,
  frames: number,
  first: number,
  short: number,
): { from: number; to: number } {
  let best = { from, to, score: difference(looks, from, to) };
  for (let a = Math.max(first + 1, from - step); a <= Math.min(frames - 2, from + step); a++)
    for (let b = Math.max(a + short, to - step); b <= Math.min(frames - 2, to + step); b++) {
      const score = difference(looks, a, b);
      if (score < best.score) best = { from: a, to: b, score };
    }
  return { from: best.from, to: best.to };
}
