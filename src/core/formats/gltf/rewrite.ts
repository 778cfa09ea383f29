import { WebIO, type Accessor, type Animation, type Document, type Node } from '@gltf-transform/core';
import { poseSize } from '../../body/skeleton';
import type { Clip } from '../../clip/clip';
import { multiply, rotateFrom } from '../../math/quaternion';
import { toDegrees } from '../../math/scalar';
import { tell } from '../contacts/told';
import { extrasSchema, sceneNodes } from './read';
import { EXTRAS_KEY } from './write';

/** What of a joint's poses differs by less than this from the clip as it was read stays as the file has it. */
const SAME = 1e-9;

/**
 * The document with one of its animations changed to the motion of `clip`, on its own nodes: meshes, materials, skins and other
 * animations as they were, and of this one every channel whose joint moves as it did. `before` is the clip as it was brought in
 * (null: every channel is written), `unit` and `turn` what brought it in. What our own files tell of a clip is told anew.
 * Changes the document it is given.
 */
export async function rewrittenGlb(doc: Document, index: number, before: Clip | null, clip: Clip, unit: number, turn: Float64Array): Promise<Uint8Array> {
  const { nodes, scales } = sceneNodes(doc);
  const animation = doc.getRoot().listAnimations()[index]!;
  const size = poseSize(clip.skeleton);
  const quats = clip.skeleton.moving.length * 3;
  const back = [-turn[0]!, -turn[1]!, -turn[2]!, turn[3]!];
  const sameLength = before !== null && before.frames === clip.frames && before.rate === clip.rate;
  const changed = (at: number, count: number): boolean => {
    if (!before || !sameLength) return true;
    for (let f = 0; f < clip.frames; f++)
      for (let k = 0; k < count; k++) if (Math.abs(clip.poses[f * size + at + k]! - before.poses[f * size + at + k]!) > SAME) return true;
    return false;
  };
  const times = doc
    .createAccessor()
    .setType('SCALAR')
    .setBuffer(doc.getRoot().listBuffers()[0] ?? doc.createBuffer())
    .setArray(Float32Array.from({ length: clip.frames }, (_, f) => f / clip.rate));
  const values = new Float64Array(4);
  let used = false;
  nodes.forEach((node, j) => {
    const root = clip.skeleton.parents[j]! < 0;
    const m = clip.skeleton.moving.indexOf(j);
    if (m >= 0 && (changed(m * 3, 3) || !sameLength)) {
      const out = new Float32Array(clip.frames * 3);
      for (let f = 0; f < clip.frames; f++) {
        for (let k = 0; k < 3; k++) values[k] = clip.poses[f * size + m * 3 + k]! / unit / scales[j]!;
        if (root) rotateFrom(values, 0, back, 0, values, 0);
        out.set(values.subarray(0, 3), f * 3);
      }
      put(doc, animation, node, 'translation', times, out);
      used = true;
    }
    if (!changed(quats + j * 4, 4)) return;
    const out = new Float32Array(clip.frames * 4);
    for (let f = 0; f < clip.frames; f++) {
      for (let k = 0; k < 4; k++) values[k] = clip.poses[f * size + quats + j * 4 + k]!;
      if (root) multiply(values, 0, back, 0, values, 0);
      out.set(values, f * 4);
    }
    put(doc, animation, node, 'rotation', times, out);
    used = true;
  });
  if (used) tellAnew(doc, animation.getName(), clip, back);
  else times.dispose();
  return new WebIO().writeBinary(doc);
}

/** What our own files tell of a clip, as it now is; its pace, of which nothing is known any more, is left out, and so is how its floor moved. */
function tellAnew(doc: Document, name: string, clip: Clip, back: number[]): void {
  const scene = doc.getRoot().getDefaultScene() ?? doc.getRoot().listScenes()[0]!;
  const extras = scene.getExtras();
  const told = extrasSchema.safeParse(extras[EXTRAS_KEY]);
  if (!told.success) return;
  const { poses, frames, rate, loop, loopTravel } = clip;
  const last = poses.length - poses.length / frames;
  const way = loop ? [loopTravel[0]!, 0, loopTravel[2]!] : [poses[last]! - poses[0]!, 0, poses[last + 2]! - poses[2]!];
  rotateFrom(way, 0, back, 0, way, 0);
  const turn = loop ? toDegrees(loopTravel[3]!) : 0;
  const anew = (c: (typeof told.data.clips)[number]) => ({
    name,
    rate,
    frames,
    loop,
    inPlace: loop && Math.hypot(...way) < SAME && turn === 0,
    travel: [way[0]!, way[2]!],
    turn,
    contacts: (clip.contacts ?? []).map((contact) => tell(contact, rate)),
    ...(c.ground ? { ground: c.ground } : {}),
  });
  const { clips } = extras[EXTRAS_KEY] as { clips: typeof told.data.clips };
  scene.setExtras({ ...extras, [EXTRAS_KEY]: { ...(extras[EXTRAS_KEY] as object), clips: clips.map((c) => (c.name === name ? anew(c) : c)) } });
}

function put(doc: Document, animation: Animation, node: Node, path: 'translation' | 'rotation', times: Accessor, values: Float32Array): void {
  for (const channel of animation.listChannels()) {
    if (channel.getTargetNode() !== node || channel.getTargetPath() !== path) continue;
    animation.removeChannel(channel);
    channel.dispose();
  }
  const output = doc
    .createAccessor()
    .setType(path === 'translation' ? 'VEC3' : 'VEC4')
    .setArray(values)
    .setBuffer(times.getBuffer());
  const sampler = doc.createAnimationSampler().setInput(times).setOutput(output).setInterpolation('LINEAR');
  animation.addSampler(sampler).addChannel(doc.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
}
