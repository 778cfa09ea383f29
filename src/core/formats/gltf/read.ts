import type { Animation, AnimationSampler, Document, Node } from '@gltf-transform/core';
import { z } from 'zod';
import type { Sole } from '../../body/body';
import type { Skeleton } from '../../body/skeleton';
import { poseSize } from '../../body/skeleton';
import type { Clip, ClipContact } from '../../clip/clip';
import { slerp } from '../../math/quaternion';
import { seekIndex } from '../../math/seek';
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
      contacts: z.array(z.object({ foot: z.enum(['left', 'right']), landing: z.number(), leaving: z.number() })),
    }),
  ),
});

export interface GltfMotion {
  readonly clips: readonly Clip[];
  /** The sole our own files tell; null for others. */
  readonly sole: Sole | null;
  /** Rest rotation of each joint, 4 numbers. */
  readonly restRotations: Float64Array;
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
  return { clips, sole: extras?.body.sole ?? null, restRotations: Float64Array.from(nodes.flatMap((n) => n.getRotation())) };
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
  const travel = told?.loop && !told.inPlace ? told.travel : [0, 0];
  return { name: animation.getName(), skeleton, frames, rate, loop: told?.loop ?? false, poses, loopTravel: [travel[0]!, 0, travel[1]!], contacts };
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
