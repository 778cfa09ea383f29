import { createWorldPose, forwardKinematics, poseSize, restWorld, type WorldPose } from '../body/skeleton';
import { createFrameReader, type Clip } from '../clip/clip';
import { rotateFrom } from '../math/quaternion';
import { extent } from '../math/scalar';
import { mainInfluence, skinVertex, type Skin } from './skin';

/** Where a figure's limbs run into each other. */
export interface Crossing {
  /** Deepest overlap of legs with each other, and of forearms and hands with trunk and thighs, mm, beyond what the figure has at rest. */
  readonly legsMm: number;
  readonly armsMm: number;
  /** Frame of the deepest of either. */
  readonly worstFrame: number;
  /** Where legs meet deepest, and where arms do. */
  readonly legs: Meeting;
  readonly arms: Meeting;
}

/** Two parts of a figure that run into each other, by joint, and the frame in which they do so deepest. */
export interface Meeting {
  readonly frame: number;
  readonly parts: readonly [string, string] | null;
}

/** Cross-sections a segment's skin is read into along its bone. */
const SLICES = 8;

/** A bone's skin: the vertices that hang on it, and its cross-sections as ellipses about a line through the joint. */
interface Segment {
  readonly joint: number;
  readonly vertices: Int32Array;
  /** Where the vertices are in the frame looked at, 3 each, once they are asked for. */
  readonly places: Float64Array;
  skinned: boolean;
  /** Along, and two axes across, in the joint's frame: 9 numbers. */
  readonly axes: Float64Array;
  readonly from: number;
  readonly length: number;
  /** SLICES × centre across (2) and half widths (2), m. */
  readonly slices: Float64Array;
  /** Middle in the joint's frame, then in the frame looked at, and radius of a ball round it, m. */
  readonly middle: Float64Array;
  readonly radius: number;
}

const LEGS = (side: string): string[] => ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'].map((part) => side + part);
const ARMS = (side: string): string[] => ['LowerArm', 'Hand'].map((part) => side + part);
const TRUNK = ['hips', 'spine', 'chest', 'upperChest', 'leftUpperLeg', 'rightUpperLeg'];

/** Most frames looked at one by one; of longer clips every so many, and all of them around the deepest. */
const CLOSE_FRAMES = 600;
/** Vertices above which fewer frames are looked at, so that no skin takes for ever. */
const LIGHT_VERTICES = 20_000;

/** Measures a clip of a skin whose joints carry the names of roles; null where legs are missing. Yields now and then. */
export function* measuringCrossing(clip: Clip, skin: Skin): Generator<undefined, Crossing | null> {
  const look = createLook(clip, skin);
  if (!look) return null;
  const found = [
    { depth: 0, frame: 0, parts: null as Meeting['parts'] },
    { depth: 0, frame: 0, parts: null as Meeting['parts'] },
  ] as const;
  const at = (f: number) => {
    const parts = look(f, depths);
    for (const k of [0, 1] as const) if (depths[k]! > found[k].depth) Object.assign(found[k], { depth: depths[k]!, frame: f, parts: parts[k] });
  };
  const worst = () => (found[1].depth > found[0].depth ? found[1] : found[0]);
  const depths = new Float64Array(2);
  const looks = Math.max(30, Math.floor(CLOSE_FRAMES / Math.max(1, skin.count / LIGHT_VERTICES)));
  const every = Math.ceil(clip.frames / looks);
  for (let f = 0; f < clip.frames; f += every) {
    at(f);
    if (f % (16 * every) === 0) yield undefined;
  }
  const coarse = worst().frame;
  const fine = Math.ceil((2 * every) / looks);
  if (every > 1) for (let f = Math.max(0, coarse - every + 1); f < Math.min(clip.frames, coarse + every); f += fine) at(f);
  const [legs, arms] = found;
  return {
    legsMm: legs.depth * 1000,
    armsMm: arms.depth * 1000,
    worstFrame: worst().frame,
    legs: { frame: legs.frame, parts: legs.parts },
    arms: { frame: arms.frame, parts: arms.parts },
  };
}

/** Looks at one frame: deepest overlap (m) of legs and of arms to depths[0], depths[1]; returns which parts those are. */
type Look = (f: number, depths: Float64Array) => readonly [legs: Meeting['parts'], arms: Meeting['parts']];

function createLook(clip: Clip, skin: Skin): Look | null {
  const segments = new Map(skinSegments(skin).map((s) => [skin.skeleton.names[s.joint]!, s]));
  const named = (names: readonly string[]) => names.flatMap((n) => segments.get(n) ?? []);
  const [left, right] = [named(LEGS('left')), named(LEGS('right'))];
  if (left.length === 0 || right.length === 0) return null;
  const pair = (a: Segment, b: Segment): Pair => ({ a, b, atRest: new Float64Array(a.vertices.length) });
  const legPairs = left.flatMap((a) => right.flatMap((b) => [pair(a, b), pair(b, a)]));
  const arms = [...named(ARMS('left')), ...named(ARMS('right'))];
  const armPairs = arms.flatMap((a) => named(TRUNK).map((b) => pair(a, b)));
  const moved = new Set([...left, ...right, ...arms]);
  const all = [...segments.values()];
  const placeAll = (world: WorldPose) => {
    for (const s of all) placeMiddle(s, world);
    for (const s of moved) s.skinned = false;
  };
  // Where thighs join the trunk their skins lie in each other at rest, too: that is how they are made.
  const rest = restWorld(skin.skeleton);
  placeAll(rest);
  for (const p of [...legPairs, ...armPairs]) overlap(skin, p, rest, (i, depth) => (p.atRest[i] = depth));
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const read = createFrameReader(clip);
  let deepest = 0,
    rested = legPairs[0]!.atRest;
  const deepen = (i: number, depth: number) => {
    if (depth - rested[i]! > deepest) deepest = depth - rested[i]!;
  };
  const names = skin.skeleton.names;
  const deepestOf = (pairs: readonly Pair[], depths: Float64Array, k: number): Meeting['parts'] => {
    let where: Pair | null = null;
    deepest = 0;
    for (const p of pairs) {
      rested = p.atRest;
      const had = deepest;
      overlap(skin, p, world, deepen);
      if (deepest > had) where = p;
    }
    depths[k] = deepest;
    return where && [names[where.a.joint]!, names[where.b.joint]!];
  };
  return (f, depths) => {
    read(f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    placeAll(world);
    return [deepestOf(legPairs, depths, 0), deepestOf(armPairs, depths, 1)];
  };
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
const cross = (a: readonly number[], b: readonly number[]): number[] => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
];
const unit = (a: readonly number[]): number[] => a.map((v) => v / Math.hypot(a[0]!, a[1]!, a[2]!));

function segment(joint: number, own: readonly { vertex: number; at: readonly number[] }[], parents: Int32Array, offsets: Float64Array): Segment {
  const mean = [0, 1, 2].map((k) => own.reduce((sum, p) => sum + p.at[k]!, 0) / own.length);
  const child = parents.indexOf(joint);
  const towards = child >= 0 ? [...offsets.subarray(child * 3, child * 3 + 3)] : mean;
  const along = unit(Math.hypot(...(towards as [number, number, number])) > 1e-6 ? towards : [0, 1, 0]);
  const across = unit(cross(along, Math.abs(along[0]!) < 0.9 ? [1, 0, 0] : [0, 0, 1]));
  const other = cross(along, across);
  const placed = own.map((p) => [dot(p.at, along), dot(p.at, across), dot(p.at, other)] as const);
  const [from, to] = extent(placed.map((p) => p[0]));
  const length = Math.max(1e-6, to - from);
  const slices = new Float64Array(SLICES * 4);
  for (let i = 0; i < SLICES; i++) {
    // The nearest vertices along the bone, at least a ring of them, tell the section there.
    const a = from + (length * i) / (SLICES - 1);
    const near = [...placed].sort((p, q) => Math.abs(p[0] - a) - Math.abs(q[0] - a)).slice(0, Math.max(6, Math.ceil(placed.length / SLICES)));
    for (const k of [1, 2] as const) {
      const [lo, hi] = extent(near.map((p) => p[k]));
      slices[i * 4 + k - 1] = (lo + hi) / 2;
      slices[i * 4 + k + 1] = (hi - lo) / 2;
    }
  }
  const [, radius] = extent(own.map((p) => Math.hypot(p.at[0]! - mean[0]!, p.at[1]! - mean[1]!, p.at[2]! - mean[2]!)));
  return {
    joint,
    vertices: Int32Array.from(own, (p) => p.vertex),
    places: new Float64Array(own.length * 3),
    skinned: false,
    axes: Float64Array.of(...along, ...across, ...other),
    from,
    length,
    slices,
    middle: Float64Array.of(...mean, 0, 0, 0),
    radius,
  };
}

function placeMiddle({ joint, middle }: Segment, { positions, rotations }: WorldPose): void {
  rotateFrom(middle, 3, rotations, joint * 4, middle, 0);
  for (let k = 0; k < 3; k++) middle[3 + k] = middle[3 + k]! + positions[joint * 3 + k]!;
}

/** Two segments, and how deep (m) each vertex of the first lies in the second when the figure is at rest. */
interface Pair {
  readonly a: Segment;
  readonly b: Segment;
  readonly atRest: Float64Array;
}

/** Tells which of a's vertices lie inside b's skin, and how deep (m). */
function overlap(skin: Skin, { a, b }: Pair, world: WorldPose, tell: (vertex: number, depth: number) => void): void {
  const mx = b.middle[3]!,
    my = b.middle[4]!,
    mz = b.middle[5]!;
  const apart = a.radius + b.radius;
  if ((a.middle[3]! - mx) ** 2 + (a.middle[4]! - my) ** 2 + (a.middle[5]! - mz) ** 2 > apart * apart) return;
  if (!a.skinned) {
    for (let i = 0; i < a.vertices.length; i++) skinVertex(skin, a.vertices[i]!, world, a.places, i * 3);
    a.skinned = true;
  }
  const { positions, rotations } = world;
  const j = b.joint;
  const qx = -rotations[j * 4]!,
    qy = -rotations[j * 4 + 1]!,
    qz = -rotations[j * 4 + 2]!,
    qw = rotations[j * 4 + 3]!;
  const { axes, slices } = b;
  const { places } = a;
  const ball = b.radius * b.radius;
  for (let i = 0; i < places.length; i += 3) {
    const x = places[i]!,
      y = places[i + 1]!,
      z = places[i + 2]!;
    if ((x - mx) ** 2 + (y - my) ** 2 + (z - mz) ** 2 > ball) continue;
    const vx = x - positions[j * 3]!,
      vy = y - positions[j * 3 + 1]!,
      vz = z - positions[j * 3 + 2]!;
    const tx = 2 * (qy * vz - qz * vy),
      ty = 2 * (qz * vx - qx * vz),
      tz = 2 * (qx * vy - qy * vx);
    const lx = vx + qw * tx + qy * tz - qz * ty,
      ly = vy + qw * ty + qz * tx - qx * tz,
      lz = vz + qw * tz + qx * ty - qy * tx;
    const s = ((lx * axes[0]! + ly * axes[1]! + lz * axes[2]! - b.from) / b.length) * (SLICES - 1);
    if (!(s >= 0 && s <= SLICES - 1)) continue;
    const n = Math.min(SLICES - 2, Math.floor(s)) * 4,
      u = s - n / 4;
    const px = lx * axes[3]! + ly * axes[4]! + lz * axes[5]! - (slices[n]! + (slices[n + 4]! - slices[n]!) * u),
      py = lx * axes[6]! + ly * axes[7]! + lz * axes[8]! - (slices[n + 1]! + (slices[n + 5]! - slices[n + 1]!) * u);
    const hx = slices[n + 2]! + (slices[n + 6]! - slices[n + 2]!) * u,
      hy = slices[n + 3]! + (slices[n + 7]! - slices[n + 3]!) * u;
    const r = Math.sqrt((px / hx) ** 2 + (py / hy) ** 2);
    if (r >= 1) continue;
    tell(i / 3, r > 1e-6 ? Math.sqrt(px * px + py * py) * (1 / r - 1) : Math.min(hx, hy));
  }
}
