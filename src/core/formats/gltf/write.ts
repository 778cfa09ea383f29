import { Document, type Accessor, type Buffer, type Node } from '@gltf-transform/core';
import type { Body } from '../../body/body';
import { createMannequin } from '../../body/mannequin';
import type { SkinnedMesh } from '../../body/mesh-builder';
import { JOINT } from '../../body/roles';
import type { Skeleton } from '../../body/skeleton';
import { carriedByHips } from '../../clip/carried';
import type { Clip } from '../../clip/clip';
import type { ClipDocument } from '../clip-info';

/** Name of our extras on the scene. */
export const EXTRAS_KEY = 'nimbret';

/**
 * glTF 2.0 document of one body with one animation per clip: joints named by role, a skinned mannequin, LINEAR samplers,
 * travel on `root` (on the hips where it is asked for, or none for clips in place). The scene's extras tell contacts, speed, stride and direction of each clip.
 */
export function toGltf(documents: readonly ClipDocument[]): Document {
  const first = documents[0];
  if (!first) throw new RangeError('toGltf: at least one clip is needed');
  const doc = new Document();
  doc.getRoot().getAsset().generator = 'Nimbret';
  const buffer = doc.createBuffer();
  const { body, rig } = first;
  const nodes = skeletonNodes(doc, rig.skeleton);
  const scene = doc.createScene(body.spec.name).addChild(nodes[JOINT.root]!);
  doc.getRoot().setDefaultScene(scene);
  scene.addChild(skinnedFigure(doc, buffer, body, nodes));
  const times = new Map<string, Accessor>();
  for (const { clip, info, carrier } of documents) animate(doc, buffer, carrier === 'hips' ? carriedByHips(clip) : clip, info.name, nodes, times);
  scene.setExtras({
    [EXTRAS_KEY]: {
      format: 'nimbret.clips',
      version: 1,
      body: { name: body.spec.name, stature: body.spec.stature, legLength: body.legLength, sole: { ...body.legs[0].sole } },
      clips: documents.map((d) => d.info),
    },
  });
  return doc;
}

function skeletonNodes(doc: Document, { names, parents, offsets, rest }: Skeleton): Node[] {
  const turn = (j: number) => [...rest.subarray(j * 4, j * 4 + 4)] as [number, number, number, number];
  const nodes = names.map((name, j) =>
    doc
      .createNode(name)
      .setTranslation([offsets[j * 3]!, offsets[j * 3 + 1]!, offsets[j * 3 + 2]!])
      .setRotation(turn(j)),
  );
  parents.forEach((parent, j) => parent >= 0 && nodes[parent]!.addChild(nodes[j]!));
  return nodes;
}

function skinnedFigure(doc: Document, buffer: Buffer, body: Body, nodes: readonly Node[]): Node {
  const mesh: SkinnedMesh = createMannequin(body);
  const accessor = (array: Float32Array | Uint16Array | Uint32Array, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4') =>
    doc.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const primitive = doc
    .createPrimitive()
    .setIndices(accessor(mesh.indices, 'SCALAR'))
    .setAttribute('POSITION', accessor(mesh.positions, 'VEC3'))
    .setAttribute('NORMAL', accessor(mesh.normals, 'VEC3'))
    .setAttribute('COLOR_0', accessor(mesh.colors, 'VEC3'))
    .setAttribute('JOINTS_0', accessor(mesh.joints, 'VEC4'))
    .setAttribute('WEIGHTS_0', accessor(mesh.weights, 'VEC4'))
    .setMaterial(doc.createMaterial('clay').setRoughnessFactor(0.9).setMetallicFactor(0));
  const skin = doc
    .createSkin(body.spec.name)
    .setSkeleton(nodes[JOINT.root]!)
    .setInverseBindMatrices(accessor(inverseBind(body), 'MAT4'));
  nodes.forEach((n) => skin.addJoint(n));
  return doc.createNode('figure').setMesh(doc.createMesh('figure').addPrimitive(primitive)).setSkin(skin);
}

/** Rest rotations are identity, so an inverse bind matrix is a translation by minus the rest position. */
function inverseBind(body: Body): Float32Array {
  const { parents, offsets } = body.skeleton;
  const out = new Float32Array(parents.length * 16);
  const world = new Float64Array(offsets);
  parents.forEach((parent, j) => {
    if (parent >= 0) for (let k = 0; k < 3; k++) world[j * 3 + k] = world[j * 3 + k]! + world[parent * 3 + k]!;
    out.set([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -world[j * 3]!, -world[j * 3 + 1]!, -world[j * 3 + 2]!, 1], j * 16);
  });
  return out;
}

function animate(doc: Document, buffer: Buffer, clip: Clip, name: string, nodes: readonly Node[], times: Map<string, Accessor>): void {
  const key = `${clip.frames}@${clip.rate}`;
  let input = times.get(key);
  if (!input) {
    input = doc
      .createAccessor()
      .setType('SCALAR')
      .setBuffer(buffer)
      .setArray(Float32Array.from({ length: clip.frames }, (_, f) => f / clip.rate));
    times.set(key, input);
  }
  const animation = doc.createAnimation(name);
  const size = clip.poses.length / clip.frames;
  const add = (joint: number, at: number, count: 3 | 4) => {
    const values = new Float32Array(clip.frames * count);
    for (let f = 0; f < clip.frames; f++) for (let k = 0; k < count; k++) values[f * count + k] = clip.poses[f * size + at + k]!;
    const output = doc
      .createAccessor()
      .setType(count === 3 ? 'VEC3' : 'VEC4')
      .setArray(values)
      .setBuffer(buffer);
    const sampler = doc.createAnimationSampler().setInput(input).setOutput(output).setInterpolation('LINEAR');
    const channel = doc
      .createAnimationChannel()
      .setTargetNode(nodes[joint]!)
      .setTargetPath(count === 3 ? 'translation' : 'rotation')
      .setSampler(sampler);
    animation.addSampler(sampler).addChannel(channel);
  };
  clip.skeleton.moving.forEach((joint, m) => add(joint, m * 3, 3));
  const quats = clip.skeleton.moving.length * 3;
  for (let j = 0; j < clip.skeleton.names.length; j++) add(j, quats + j * 4, 4);
}
