import { createWorldPose, forwardKinematics, poseSize, type WorldPose } from '../body/skeleton';
import { createFrameReader, type Clip } from '../clip/clip';
import { rotate } from '../math/quaternion';
import { mainInfluence, skinVertex, type Skin } from './skin';

/** Where a figure's limbs run into each other. */
export interface Crossing {
  /** Deepest overlap of legs with each other, and of forearms and hands with trunk and thighs, mm; 0 where they keep clear. */
  readonly legsMm: number;
  readonly armsMm: number;
  /** Frame of the deepest of either. */
  readonly worstFrame: number;
}

/** Cross-sections a segment's skin is read into along its bone. */
const SLICES = 8;

/** A bone's skin: the vertices that hang on it, and its cross-sections as ellipses about a line through the joint. */
interface Segment {
  readonly joint: number;
  readonly vertices: readonly number[];
  /** Along, and two axes across, in the joint's frame. */
  readonly axes: readonly [readonly number[], readonly number[], readonly number[]];
  readonly from: number;
  readonly length: number;
  /** SLICES × centre across (2) and half widths (2), m. */
  readonly slices: Float64Array;
  /** Middle (in the joint's frame) and radius of a ball round it, m. */
  readonly middle: readonly number[];
  readonly radius: number;
}

const LEGS = (side: string): string[] => ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => side + part);
const ARMS = (side: string): string[] => ['LowerArm', 'Hand'].map((part) => side + part);
const TRUNK = ['hips', 'spine', 'chest', 'upperChest', 'leftUpperLeg', 'rightUpperLeg'];

/** Measures a clip of a skin whose joints carry the names of roles, frame by frame; null where legs are missing. Yields now and then. */
export function* measuringCrossing(clip: Clip, skin: Skin): Generator<undefined, Crossing | null> {
  const segments = new Map(skinSegments(skin).map((s) => [skin.skeleton.names[s.joint]!, s]));
  const named = (names: readonly string[]) => names.flatMap((n) => segments.get(n) ?? []);
  const [left, right] = [named(LEGS('left')), named(LEGS('right'))];
  if (left.length === 0 || right.length === 0) return null;
  const legPairs = left.flatMap((a) => right.flatMap((b) => [[a, b] as const, [b, a] as const]));
  const armPairs = [...named(ARMS('left')), ...named(ARMS('right'))].flatMap((a) => named(TRUNK).map((b) => [a, b] as const));
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const read = createFrameReader(clip);
  const scratch: Scratch = { place: new Float64Array(3), local: [0, 0, 0] };
  let [legs, arms, worst, worstFrame] = [0, 0, 0, 0];
  for (let f = 0; f < clip.frames; f++) {
    read(f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    for (const [a, b] of legPairs) legs = Math.max(legs, overlap(skin, a, b, world, scratch));
    for (const [a, b] of armPairs) arms = Math.max(arms, overlap(skin, a, b, world, scratch));
    if (Math.max(legs, arms) > worst) {
      worst = Math.max(legs, arms);
      worstFrame = f;
    }
    if (f % 64 === 63) yield undefined;
  }
  return { legsMm: legs * 1000, armsMm: arms * 1000, worstFrame };
}

function skinSegments(skin: Skin): Segment[] {
  const { skeleton } = skin;
  const byJoint = new Map<number, { vertex: number; at: readonly number[] }[]>();
  for (let v = 0; v < skin.count; v++) {
    const { joint, influence } = mainInfluence(skin, v);
    if (joint < 0) continue;
    const own = byJoint.get(joint) ?? [];
    own.push({ vertex: v, at: [...skin.bound.subarray(influence * 3, influence * 3 + 3)] });
    byJoint.set(joint, own);
  }
  return [...byJoint].flatMap(([joint, own]) => (own.length < 6 ? [] : [segment(joint, own, skeleton.parents, skeleton.offsets)]));
}

const dot = (a: readonly number[], b: readonly number[]): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
const cross = (a: readonly number[], b: readonly number[]): number[] => [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!];
const unit = (a: readonly number[]): number[] => a.map((v) => v / Math.hypot(a[0]!, a[1]!, a[2]!));

function segment(joint: number, own: readonly { vertex: number; at: readonly number[] }[], parents: Int32Array, offsets: Float64Array): Segment {
  const mean = [0, 1, 2].map((k) => own.reduce((sum, p) => sum + p.at[k]!, 0) / own.length);
  const child = parents.indexOf(joint);
  const towards = child >= 0 ? [...offsets.subarray(child * 3, child * 3 + 3)] : mean;
  const along = unit(Math.hypot(...(towards as [number, number, number])) > 1e-6 ? towards : [0, 1, 0]);
  const across = unit(cross(along, Math.abs(along[0]!) < 0.9 ? [1, 0, 0] : [0, 0, 1]));
  const other = cross(along, across);
  const placed = own.map((p) => [dot(p.at, along), dot(p.at, across), dot(p.at, other)] as const);
  const from = Math.min(...placed.map((p) => p[0])),
    length = Math.max(1e-6, Math.max(...placed.map((p) => p[0])) - from);
  const slices = new Float64Array(SLICES * 4);
  for (let i = 0; i < SLICES; i++) {
    // The nearest vertices along the bone, at least a ring of them, tell the section there.
    const a = from + (length * i) / (SLICES - 1);
    const near = [...placed].sort((p, q) => Math.abs(p[0] - a) - Math.abs(q[0] - a)).slice(0, Math.max(6, Math.ceil(placed.length / SLICES)));
    for (const k of [1, 2] as const) {
      const [lo, hi] = [Math.min(...near.map((p) => p[k])), Math.max(...near.map((p) => p[k]))];
      slices[i * 4 + k - 1] = (lo + hi) / 2;
      slices[i * 4 + k + 1] = (hi - lo) / 2;
    }
  }
  const radius = Math.max(...own.map((p) => Math.hypot(p.at[0]! - mean[0]!, p.at[1]! - mean[1]!, p.at[2]! - mean[2]!)));
  return { joint, vertices: own.map((p) => p.vertex), axes: [along, across, other], from, length, slices, middle: mean, radius };
}

/** Scratch of one measuring. */
interface Scratch {
  readonly place: Float64Array;
  readonly local: number[];
}

/** Deepest place (m) of a's vertices inside b's skin; 0 where there is none. */
function overlap(skin: Skin, a: Segment, b: Segment, world: WorldPose, scratch: Scratch): number {
  const { place, local } = scratch;
  if (apart(a, b, world, scratch) > a.radius + b.radius) return 0;
  const { positions, rotations } = world;
  const j = b.joint;
  const inverse = [-rotations[j * 4]!, -rotations[j * 4 + 1]!, -rotations[j * 4 + 2]!, rotations[j * 4 + 3]!];
  let deepest = 0;
  for (const v of a.vertices) {
    skinVertex(skin, v, world, place);
    rotate(local, 0, inverse, 0, place[0]! - positions[j * 3]!, place[1]! - positions[j * 3 + 1]!, place[2]! - positions[j * 3 + 2]!);
    const s = ((dot(local, b.axes[0]) - b.from) / b.length) * (SLICES - 1);
    if (!(s >= 0 && s <= SLICES - 1)) continue;
    const i = Math.min(SLICES - 2, Math.floor(s)),
      u = s - i;
    const at = (k: number) => b.slices[i * 4 + k]! + (b.slices[i * 4 + 4 + k]! - b.slices[i * 4 + k]!) * u;
    const x = dot(local, b.axes[1]) - at(0),
      y = dot(local, b.axes[2]) - at(1);
    const r = Math.hypot(x / at(2), y / at(3));
    if (r < 1) deepest = Math.max(deepest, r > 1e-6 ? Math.hypot(x, y) * (1 / r - 1) : Math.min(at(2), at(3)));
  }
  return deepest;
}

/** Distance (m) between the middles of two segments. */
function apart(a: Segment, b: Segment, { positions, rotations }: WorldPose, { local }: Scratch): number {
  const middle = ({ joint, middle: m }: Segment) => {
    rotate(local, 0, rotations, joint * 4, m[0]!, m[1]!, m[2]!);
    return [0, 1, 2].map((k) => local[k]! + positions[joint * 3 + k]!);
  };
  const p = middle(a),
    q = middle(b);
  return Math.hypot(p[0]! - q[0]!, p[1]! - q[1]!, p[2]! - q[2]!);
}
