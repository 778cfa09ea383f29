import type { Accessor, Animation, AnimationSampler, Document, Node, Root } from '@gltf-transform/core';
import { z } from 'zod';
import type { Sole } from '../../body/sole';
import type { Skeleton } from '../../body/skeleton';
import { poseSize } from '../../body/skeleton';
import type { Clip, ClipContact } from '../../clip/clip';
import { slerp } from '../../math/quaternion';
import { createPlacement } from '../../math/placement';
import { toRadians } from '../../math/scalar';
import { seekIndex } from '../../math/seek';
import { createSkin, type Skin } from '../../measure/skin';
import { FormatFault, READ_LIMITS } from '../limits';
import { EXTRAS_KEY } from './write';

const extrasSchema = z.object({
  format: z.literal('nimbret.clips'),
  version: z.literal(1),
  body: z.object({
    legLength: z.number().positive(),
    sole: z.object({
      ankleHeight: z.number(),
      heelBack: z.number(),
      ballAhead: z.number(),
      tipAhead: z.number(),
      toeJointHeight: z.number(),
      breadth: z.number(),
    }),
  }),
  clips: z.array(
    z.object({
      name: z.string(),
      rate: z.number().positive(),
      frames: z.number().int().positive(),
      loop: z.boolean(),
      inPlace: z.boolean(),
      travel: z.tuple([z.number(), z.number()]),
      turn: z.number().default(0),
      contacts: z.array(z.object({ foot: z.enum(['left', 'right']), landing: z.number(), leaving: z.number() })),
    }),
  ),
});

export interface GltfMotion {
  readonly clips: readonly Clip[];
  /** The sole our own files tell; null for others. */
  readonly sole: Sole | null;
  /** The skin on the skeleton all clips share; null where there is none. */
  readonly skin: Skin | null;
}

/** Clips of a glTF document: every node becomes a joint, parents first; animations sampled at their own rate. */
export function fromGltf(doc: Document): GltfMotion {
  const root = doc.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) throw new FormatFault('the file has no scene');
  const nodes: Node[] = [];
  const parents: number[] = [];
  const visit = (node: Node, parent: number, depth: number): void => {
    if (depth > READ_LIMITS.depth) throw new FormatFault(`the hierarchy is deeper than ${READ_LIMITS.depth}`);
    if (nodes.length >= READ_LIMITS.joints) throw new FormatFault(`more than ${READ_LIMITS.joints} nodes`);
    if (node.getMesh() && node.listChildren().length === 0 && node.getSkin()) return; // the skin hangs on the joints
    const j = nodes.push(node) - 1;
    parents.push(parent);
    for (const child of node.listChildren()) visit(child, j, depth + 1);
  };
  for (const node of scene.listChildren()) visit(node, -1, 0);
  const animations = root.listAnimations();
  if (animations.length === 0) throw new FormatFault('the file has no animation');
  const told = extrasSchema.safeParse((scene.getExtras() as Record<string, unknown>)[EXTRAS_KEY]);
  const extras = told.success ? told.data : null;
  const clips = animations.map((animation) => toClip(animation, nodes, parents, extras?.clips.find((c) => c.name === animation.getName()) ?? null));
  return { clips, sole: extras?.body.sole ?? null, skin: readSkin(root, nodes, clips[0]!.skeleton) };
}

/** The first skinned mesh whose every vertex hangs on nodes that are joints here; null where there is none. */
function readSkin(root: Root, nodes: readonly Node[], skeleton: Skeleton): Skin | null {
  const figure = root.listNodes().find((n) => n.getSkin() && n.getMesh());
  const skin = figure?.getSkin();
  const primitive = figure?.getMesh()?.listPrimitives()[0];
  const [positions, joints, weights] = ['POSITION', 'JOINTS_0', 'WEIGHTS_0'].map((name) => primitive?.getAttribute(name));
  const inverse = skin?.getInverseBindMatrices();
  if (!skin || !positions || !joints || !weights || !inverse) return null;
  const jointOf = skin.listJoints().map((n) => nodes.indexOf(n));
  const flat = (a: Accessor, size: number) => {
    const out: number[] = [];
    for (let i = 0; i < a.getCount(); i++) out.push(...a.getElement(i, []).slice(0, size));
    return out;
  };
  const slots = flat(joints, 4);
  if (slots.some((s) => !(jointOf[s]! >= 0)) || positions.getCount() !== joints.getCount()) return null;
  const slotOf = new Map(jointOf.map((j, slot) => [j, slot]));
  const matrices = jointOf.map((_, slot) => inverse.getElement(slot, []));
  return createSkin(
    skeleton,
    flat(positions, 3),
    slots.map((s) => jointOf[s]!),
    flat(weights, 4),
    (j, [x, y, z]) => {
      const m = matrices[slotOf.get(j)!]!;
      return [0, 1, 2].map((k) => m[k]! * x + m[4 + k]! * y + m[8 + k]! * z + m[12 + k]!) as unknown as [number, number, number];
    },
  );
}

type Told = z.infer<typeof extrasSchema>['clips'][number];

function toClip(animation: Animation, nodes: readonly Node[], parents: readonly number[], told: Told | null): Clip {
  const channels = animation.listChannels().filter((c) => c.getTargetNode() && c.getSampler());
  const moved = new Set(channels.filter((c) => c.getTargetPath() === 'translation').map((c) => nodes.indexOf(c.getTargetNode()!)));
  const roots = parents.map((p, j) => (p < 0 ? j : -1)).filter((j) => j >= 0);
  const moving = [...new Set([...roots, ...moved])].filter((j) => j >= 0).sort((a, b) => a - b);
  const skeleton: Skeleton = {
    names: nodes.map((n) => n.getName()),
    parents: Int32Array.from(parents),
    offsets: Float64Array.from(nodes.flatMap((n) => n.getTranslation())),
    rest: Float64Array.from(nodes.flatMap((n) => n.getRotation())),
    moving: Int32Array.from(moving),
  };
  const keys = channels.map((c) => c.getSampler()!.getInput()!.getArray()!);
  const longest = keys.reduce((a, b) => (b.length > a.length ? b : a), keys[0] ?? new Float32Array([0]));
  const end = Math.max(...keys.map((k) => k[k.length - 1]!));
  const rate = told?.rate ?? (longest.length > 1 ? Math.round(((longest.length - 1) / (longest[longest.length - 1]! - longest[0]!)) * 1000) / 1000 : 30);
  const frames = Math.round(end * rate) + 1;
  if (!(frames >= 1 && frames <= READ_LIMITS.frames)) throw new FormatFault(`the animation has ${frames} frames; the limit is ${READ_LIMITS.frames}`);
  const size = poseSize(skeleton);
  const poses = new Float64Array(frames * size);
  const quats = moving.length * 3;
  for (let f = 0; f < frames; f++) {
    moving.forEach((j, m) => poses.set(nodes[j]!.getTranslation(), f * size + m * 3));
    nodes.forEach((n, j) => poses.set(n.getRotation(), f * size + quats + j * 4));
  }
  for (const channel of channels) {
    const j = nodes.indexOf(channel.getTargetNode()!);
    const path = channel.getTargetPath();
    if (j < 0 || (path !== 'translation' && path !== 'rotation')) continue;
    const at = path === 'translation' ? moving.indexOf(j) * 3 : quats + j * 4;
    const times = Float64Array.from(channel.getSampler()!.getInput()!.getArray()!);
    for (let f = 0; f < frames; f++) sampleChannel(channel.getSampler()!, times, path, f / rate, poses, f * size + at);
  }
  if (poses.some((v) => !Number.isFinite(v))) throw new FormatFault('the animation holds numbers that are not finite', animation.getName());
  const contacts: ClipContact[] | null = told ? told.contacts.map((c) => ({ foot: c.foot, from: c.landing * rate, to: c.leaving * rate })) : null;
  const goes = told?.loop && !told.inPlace;
  const loopTravel = goes ? createPlacement(told.travel[0], 0, told.travel[1], toRadians(told.turn)) : createPlacement();
  return { name: animation.getName(), skeleton, frames, rate, loop: told?.loop ?? false, poses, loopTravel, contacts };
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
  if (u < 1e-4 || sampler.getInterpolation() === 'STEP') for (let k = 0; k < n; k++) out[at + k] = values[a + k]!;
  else if (u > 1 - 1e-4) for (let k = 0; k < n; k++) out[at + k] = values[b + k]!;
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
