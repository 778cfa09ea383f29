import { floorFits, floorShape, heard, heardFloor, toldContactSchema } from '../contacts/told';
import type { Accessor, Animation, AnimationSampler, Document, Node, Primitive, Root, Skin as Bones } from '@gltf-transform/core';
import { z } from 'zod';
import type { Sole } from '../../body/sole';
import type { Skeleton } from '../../body/skeleton';
import { poseSize } from '../../body/skeleton';
import type { Clip, ClipContact } from '../../clip/clip';
import { groundSpecSchema, type GroundSpec } from '../../ground/spec';
import { slerp } from '../../math/quaternion';
import { createPlacement } from '../../math/placement';
import { extent, toRadians } from '../../math/scalar';
import { seekIndex } from '../../math/seek';
import { createSkin, type Skin } from '../../measure/skin';
import { FormatFault, READ_LIMITS } from '../limits';
import { EXTRAS_KEY } from './write';

/** Longest animation (s) that is read, and how far from 1 a rotation's length may be before it is brought to 1. */
const LONGEST_S = 24 * 3600;
const UNIT_EPS = 1e-4;
/** Rounding of a 32-bit float, relative. */
const FLOAT_EPS = 2 ** -23;

/** Most a clip turns, degrees. */
const MOST_TURN_DEG = 3_600_000;

const metres = z.number().min(-READ_LIMITS.metres).max(READ_LIMITS.metres);

export const extrasSchema = z.object({
  format: z.literal('nimbret.clips'),
  version: z.literal(1),
  body: z.object({
    legLength: metres.positive(),
    sole: z.object({
      ankleHeight: metres,
      heelBack: metres,
      ballAhead: metres,
      tipAhead: metres,
      toeJointHeight: metres,
      breadth: metres,
    }),
  }),
  clips: z.array(
    z.object({
      name: z.string(),
      rate: z.number().positive().max(READ_LIMITS.rate),
      frames: z.number().int().positive().max(READ_LIMITS.frames),
      loop: z.boolean(),
      inPlace: z.boolean(),
      travel: z.tuple([metres, metres]),
      turn: z.number().min(-MOST_TURN_DEG).max(MOST_TURN_DEG).default(0),
      contacts: z.array(toldContactSchema).max(100_000),
      ...floorShape,
      ground: groundSpecSchema.optional(),
    }),
  ),
});

export interface GltfMotion {
  readonly clips: readonly Clip[];
  /** The sole our own files tell; null for others. */
  readonly sole: Sole | null;
  /** The skin on the skeleton all clips share; null where there is none. */
  readonly skin: Skin | null;
  /** All skins, as they are shown; read when they are asked for. */
  readonly skins: () => readonly ShownSkin[];
  /** The ground each clip says it was made for, by its name. */
  readonly grounds: ReadonlyMap<string, GroundSpec>;
  /** What is odd and was read all the same, in words. */
  readonly oddities: readonly string[];
}

/** Nodes of a document's scene as joints, parents first, with the scale (one number) that all above each one give its place. */
export interface SceneNodes {
  readonly nodes: readonly Node[];
  readonly parents: readonly number[];
  readonly scales: Float64Array;
}

/** The joints of a document: every node of its scene but those that only carry a skin. Throws FormatFault. */
export function sceneNodes(doc: Document): SceneNodes {
  const root = doc.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) throw new FormatFault('the file has no scene');
  const nodes: Node[] = [];
  const parents: number[] = [];
  const scales: number[] = [];
  const visit = (node: Node, parent: number, depth: number): void => {
    if (depth > READ_LIMITS.depth) throw new FormatFault(`the hierarchy is deeper than ${READ_LIMITS.depth}`);
    if (nodes.length >= READ_LIMITS.joints) throw new FormatFault(`more than ${READ_LIMITS.joints} nodes`);
    if (node.getMesh() && node.listChildren().length === 0 && node.getSkin()) return; // the skin hangs on the joints
    const j = nodes.push(node) - 1;
    parents.push(parent);
    scales.push(parent < 0 ? 1 : scales[parent]! * evenScale(nodes[parent]!));
    for (const child of node.listChildren()) visit(child, j, depth + 1);
  };
  for (const node of scene.listChildren()) visit(node, -1, 0);
  if (scales.some((v) => !(v > 1e-9 && v < READ_LIMITS.metres))) throw new FormatFault('a node is scaled to nothing, or out of bounds');
  return { nodes, parents, scales: Float64Array.from(scales) };
}

/** A node's scale as one number: the geometric mean of its axes. */
const evenScale = (node: Node): number => Math.cbrt(Math.abs(node.getScale().reduce((a, b) => a * b, 1)));

/** Clips of a glTF document: every node becomes a joint, parents first; animations sampled at their own rate. */
export function fromGltf(doc: Document): GltfMotion {
  const root = doc.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const joints = sceneNodes(doc);
  const { nodes } = joints;
  const animations = root.listAnimations();
  if (animations.length === 0) throw new FormatFault('the file has no animation');
  if (nodes.length === 0) throw new FormatFault('the scene has no nodes');
  const known = new Set(nodes);
  const length = (a: Animation) => Math.max(0, ...a.listChannels().map((c) => c.getSampler()?.getInput()?.getCount() ?? 0));
  if (animations.reduce((sum, a) => sum + length(a) * nodes.length, 0) > READ_LIMITS.allJointFrames)
    throw new FormatFault(`the animations hold more than ${READ_LIMITS.allJointFrames} joints × frames together`);
  if (!animations.some((a) => a.listChannels().some((c) => c.getTargetNode() && known.has(c.getTargetNode()!))))
    throw new FormatFault('no animation moves a node of the scene');
  const first = skinnedParts(root)[0];
  const told = extrasSchema.safeParse((scene!.getExtras() as Record<string, unknown>)[EXTRAS_KEY]);
  const extras = told.success ? told.data : null;
  const clips = animations.map((animation) => toClip(animation, joints, extras?.clips.find((c) => c.name === animation.getName()) ?? null));
  return {
    clips,
    sole: extras?.body.sole ?? null,
    skin: first ? readSkin(first.bones, first.primitive, joints, clips[0]!.skeleton) : null,
    skins: () => readSkins(root, joints, clips[0]!.skeleton),
    grounds: new Map(extras?.clips.flatMap((c) => (c.ground ? [[c.name, c.ground] as const] : []))),
    oddities: odditiesOf(root, nodes, animations),
  };
}

function odditiesOf(root: Root, nodes: readonly Node[], animations: readonly Animation[]): string[] {
  const told: string[] = [];
  const uneven = nodes.filter((n) => n.getScale().some((v) => Math.abs(v / n.getScale()[0]! - 1) > 1e-3) || n.getScale().some((v) => v < 0));
  if (uneven.length > 0)
    told.push(`${uneven.length} nodes are scaled unevenly or mirrored (${uneven[0]!.getName() || 'no name'}); one scale for all axes is used`);
  const grown = animations.filter((a) => a.listChannels().some((c) => c.getTargetPath() === 'scale'));
  if (grown.length > 0) told.push(`${grown.length} animations change scales; that is left out`);
  const skins = root.listSkins().length;
  if (skins > 1) told.push(`it has ${skins} skins; the first is measured`);
  return told;
}

/** All parts of skinned meshes, with their faces, as far as they are sound and hang on nodes that are joints here. */
function readSkins(root: Root, joints: SceneNodes, skeleton: Skeleton): ShownSkin[] {
  let vertices = 0;
  return skinnedParts(root).flatMap(({ bones, primitive }): ShownSkin[] => {
    vertices += primitive.getAttribute('POSITION')?.getCount() ?? 0;
    if (primitive.getMode() !== TRIANGLES || vertices > READ_LIMITS.vertices) return [];
    try {
      const skin = readSkin(bones, primitive, joints, skeleton);
      const faces = primitive.getIndices()?.getArray();
      if (!skin || (faces && Uint32Array.from(faces).some((i) => i >= skin.count))) return [];
      return [{ skin, faces: faces ? Uint32Array.from(faces) : Uint32Array.from({ length: skin.count - (skin.count % 3) }, (_, i) => i) }];
    } catch (error) {
      if (error instanceof FormatFault) return [];
      throw error;
    }
  });
}

const skinnedParts = (root: Root) =>
  root
    .listNodes()
    .filter((n) => n.getSkin() && n.getMesh())
    .flatMap((n) =>
      n
        .getMesh()!
        .listPrimitives()
        .map((primitive) => ({ bones: n.getSkin()!, primitive })),
    );

/** A part of a skin as it is shown: its faces are three vertices each. */
export interface ShownSkin {
  readonly skin: Skin;
  readonly faces: Uint32Array;
}

/** Mode of a primitive made of single triangles, as glTF 2.0 has it. */
const TRIANGLES = 4;

/** One part of a skinned mesh; null where a vertex hangs on what is no joint here. */
function readSkin(skin: Bones, primitive: Primitive, { nodes, scales }: SceneNodes, skeleton: Skeleton): Skin | null {
  const [positions, joints, weights] = ['POSITION', 'JOINTS_0', 'WEIGHTS_0'].map((name) => primitive.getAttribute(name));
  const inverse = skin.getInverseBindMatrices();
  if (!positions || !joints || !weights || !inverse) return null;
  if (positions.getCount() > READ_LIMITS.vertices)
    throw new FormatFault(`the skin has ${positions.getCount()} vertices; up to ${READ_LIMITS.vertices} are measured`);
  const at = new Map(nodes.map((n, j) => [n, j]));
  const jointOf = skin.listJoints().map((n) => at.get(n) ?? -1);
  const flat = (a: Accessor, size: number) => {
    const out: number[] = [];
    for (let i = 0; i < a.getCount(); i++) out.push(...a.getElement(i, []).slice(0, size));
    return out;
  };
  const [places, shares] = [flat(positions, 3), flat(weights, 4)];
  if (places.some((v) => !(Math.abs(v) <= READ_LIMITS.metres)) || shares.some((v) => !(v >= 0 && v <= 2)))
    throw new FormatFault('the skin holds places or weights that are no sound numbers');
  const slots = flat(joints, 4);
  if (slots.some((s) => !(jointOf[s]! >= 0)) || positions.getCount() !== joints.getCount()) return null;
  const slotOf = new Map(jointOf.map((j, slot) => [j, slot]));
  const matrices = jointOf.map((_, slot) => inverse.getElement(slot, []));
  if (matrices.some((m) => m.some((v) => !(Math.abs(v) <= READ_LIMITS.metres)))) throw new FormatFault('the skin holds matrices that are no sound numbers');
  return createSkin(
    skeleton,
    places,
    slots.map((s) => jointOf[s]!),
    shares,
    (j, [x, y, z]) => {
      const m = matrices[slotOf.get(j)!]!;
      const scale = scales[j]! * evenScale(nodes[j]!);
      return [0, 1, 2].map((k) => scale * (m[k]! * x + m[4 + k]! * y + m[8 + k]! * z + m[12 + k]!)) as unknown as [number, number, number];
    },
  );
}

type Told = z.infer<typeof extrasSchema>['clips'][number];

function toClip(animation: Animation, { nodes, parents, scales }: SceneNodes, told: Told | null): Clip {
  const indexOf = new Map(nodes.map((n, j) => [n, j]));
  const channels = animation.listChannels().filter((c) => c.getSampler() && indexOf.has(c.getTargetNode()!));
  const moved = new Set(channels.filter((c) => c.getTargetPath() === 'translation').map((c) => indexOf.get(c.getTargetNode()!)!));
  const roots = parents.map((p, j) => (p < 0 ? j : -1)).filter((j) => j >= 0);
  const moving = [...new Set([...roots, ...moved])].filter((j) => j >= 0).sort((a, b) => a - b);
  const skeleton: Skeleton = {
    names: nodes.map((n) => n.getName()),
    parents: Int32Array.from(parents),
    offsets: Float64Array.from(nodes.flatMap((n, j) => n.getTranslation().map((v) => v * scales[j]!))),
    rest: Float64Array.from(nodes.flatMap((n) => n.getRotation())),
    moving: Int32Array.from(moving),
  };
  const keys = channels.map((c, i) => keyTimes(c.getSampler()!, `animation "${animation.getName()}", channel ${i}`));
  if (keys.length === 0) throw new FormatFault('has no channel that moves a node of the scene', `animation "${animation.getName()}"`);
  const longest = keys.reduce((a, b) => (b.length > a.length ? b : a));
  const [, end] = extent(keys.map((k) => k[k.length - 1]!));
  const rate = told?.rate ?? (longest.length > 1 ? Math.round(((longest.length - 1) / (longest[longest.length - 1]! - longest[0]!)) * 1000) / 1000 : 30);
  const frames = Math.round(end * rate) + 1;
  const where = `animation "${animation.getName()}"`;
  if (!(rate > 0 && rate <= READ_LIMITS.rate)) throw new FormatFault(`its keys stand at ${rate} a second; up to ${READ_LIMITS.rate} are read`, where);
  if (!(frames >= 1 && frames <= READ_LIMITS.frames)) throw new FormatFault(`it has ${frames} frames; the limit is ${READ_LIMITS.frames}`, where);
  if (frames * nodes.length > READ_LIMITS.jointFrames)
    throw new FormatFault(`it has ${frames} frames of ${nodes.length} nodes; the limit is ${READ_LIMITS.jointFrames} for both multiplied`, where);
  const size = poseSize(skeleton);
  const poses = new Float64Array(frames * size);
  const quats = moving.length * 3;
  for (let f = 0; f < frames; f++) {
    moving.forEach((j, m) => poses.set(nodes[j]!.getTranslation(), f * size + m * 3));
    nodes.forEach((n, j) => poses.set(n.getRotation(), f * size + quats + j * 4));
  }
  for (const channel of channels) {
    const j = indexOf.get(channel.getTargetNode()!)!;
    const path = channel.getTargetPath();
    if (j < 0 || (path !== 'translation' && path !== 'rotation')) continue;
    const at = path === 'translation' ? moving.indexOf(j) * 3 : quats + j * 4;
    const times = Float64Array.from(channel.getSampler()!.getInput()!.getArray()!);
    for (let f = 0; f < frames; f++) sampleChannel(channel.getSampler()!, times, path, f / rate, poses, f * size + at);
  }
  // Places are told in the parent's own scale; here all is of one.
  moving.forEach((j, m) => {
    if (scales[j] !== 1) for (let f = 0; f < frames; f++) for (let k = 0; k < 3; k++) poses[f * size + m * 3 + k] = poses[f * size + m * 3 + k]! * scales[j]!;
  });
  assertSound(poses, size, quats, where);
  const contacts: ClipContact[] | null = told ? heard(told.contacts, rate) : null;
  const goes = told?.loop && !told.inPlace;
  const loopTravel = goes ? createPlacement(told.travel[0], 0, told.travel[1], toRadians(told.turn)) : createPlacement();
  return {
    name: animation.getName(),
    skeleton,
    frames,
    rate,
    loop: told?.loop ?? false,
    poses,
    loopTravel,
    contacts,
    // A floor that is not this long is another motion's: some program cut the clip and kept what was told of it.
    ...(told && floorFits(told, frames) ? heardFloor(told, frames, where) : {}),
  };
}

/** Key times of a sampler: finite, from 0, each later than the one before. */
function keyTimes(sampler: AnimationSampler, where: string): Float32Array {
  const times = sampler.getInput()!.getArray() as Float32Array;
  for (let i = 0; i < times.length; i++)
    if (!(times[i]! >= 0 && times[i]! < LONGEST_S && (i === 0 || times[i]! > times[i - 1]!)))
      throw new FormatFault(`key time ${i} is ${times[i]}; times must grow from key to key, from 0 to ${LONGEST_S} seconds`, where);
  return times;
}

/** Every number of sampled poses is finite and within bounds, and every rotation turns somewhere. */
function assertSound(poses: Float64Array, size: number, quats: number, where: string): void {
  for (let i = 0; i < poses.length; i++)
    if (!(Math.abs(poses[i]!) <= READ_LIMITS.metres))
      throw new FormatFault(`frame ${Math.floor(i / size)} holds ${poses[i]}; numbers within ±${READ_LIMITS.metres} are read`, where);
  for (let f = 0; f * size < poses.length; f++)
    for (let q = f * size + quats; q < (f + 1) * size; q += 4) {
      const norm = Math.hypot(poses[q]!, poses[q + 1]!, poses[q + 2]!, poses[q + 3]!);
      if (norm < 1e-6) throw new FormatFault(`frame ${f} holds a rotation of length 0`, where);
      if (Math.abs(norm - 1) > UNIT_EPS) for (let k = 0; k < 4; k++) poses[q + k] = poses[q + k]! / norm;
    }
}

function sampleChannel(sampler: AnimationSampler, times: Float64Array, path: 'translation' | 'rotation', t: number, out: Float64Array, at: number): void {
  const values = sampler.getOutput()!.getArray()! as Float32Array;
  const n = path === 'translation' ? 3 : 4;
  const cubic = sampler.getInterpolation() === 'CUBICSPLINE';
  const stride = cubic ? 3 * n : n,
    value = cubic ? n : 0;
  const i = seekIndex(times, times.length, t);
  const next = Math.min(times.length - 1, i + 1);
  const dt = times[next]! - times[i]!;
  const u = dt > 0 ? Math.min(1, Math.max(0, (t - times[i]!) / dt)) : 0;
  const a = i * stride + value,
    b = next * stride + value;
  // A key time is a float: far from 0 it says a frame's time less exactly than a fraction of a frame.
  const near = Math.max(1e-4, dt > 0 ? (times[next]! * FLOAT_EPS) / dt : 0);
  if (u < near || sampler.getInterpolation() === 'STEP') for (let k = 0; k < n; k++) out[at + k] = values[a + k]!;
  else if (u > 1 - near) for (let k = 0; k < n; k++) out[at + k] = values[b + k]!;
  else if (cubic) {
    const u2 = u * u,
      u3 = u2 * u;
    let norm = 0;
    for (let k = 0; k < n; k++) {
      const v =
        (2 * u3 - 3 * u2 + 1) * values[a + k]! +
        dt * (u3 - 2 * u2 + u) * values[a + n + k]! +
        (3 * u2 - 2 * u3) * values[b + k]! +
        dt * (u3 - u2) * values[b - n + k]!;
      out[at + k] = v;
      norm += v * v;
    }
    if (n === 4) for (let k = 0; k < 4; k++) out[at + k] = out[at + k]! / Math.sqrt(norm);
  } else if (n === 4) slerp(out, at, values, a, values, b, u);
  else for (let k = 0; k < 3; k++) out[at + k] = values[a + k]! + (values[b + k]! - values[a + k]!) * u;
}
