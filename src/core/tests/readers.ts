import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AnimationMixer, Matrix4, Quaternion, Vector3, type AnimationClip, type Object3D } from 'three';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** Joint positions (m, world) by name at one frame, as a reader that is not ours sees them. */
type Positions = ReadonlyMap<string, readonly [number, number, number]>;
export type Reader = (frame: number, rate: number) => Positions;

function posed(root: Object3D, clip: AnimationClip, names: readonly string[]): Reader {
  const mixer = new AnimationMixer(root);
  mixer.clipAction(clip).play();
  return (frame, rate) => {
    mixer.setTime(Math.min(frame / rate, clip.duration - 1e-9));
    root.updateMatrixWorld(true);
    const out = new Map<string, [number, number, number]>();
    const v = new Vector3();
    root.traverse((o) => names.includes(o.name) && out.set(o.name, o.getWorldPosition(v).toArray()));
    return out;
  };
}

/** three.js GLTFLoader. */
export async function readWithGltfLoader(bytes: Uint8Array, names: readonly string[]): Promise<Reader> {
  const gltf = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  return posed(gltf.scene, gltf.animations[0]!, names);
}

/** three.js BVHLoader. */
export function readWithBvhLoader(text: string, names: readonly string[]): Reader {
  const { skeleton, clip } = new BVHLoader().parse(text);
  return posed(skeleton.bones[0]!, clip, names);
}

/** assimp (Debian's assimp-utils): its dump of the scene, posed by its own keys. */
export function readWithAssimp(bytes: Uint8Array, extension: string, names: readonly string[]): Reader {
  const folder = mkdtempSync(join(tmpdir(), 'nimbret-'));
  try {
    const file = join(folder, `clip${extension}`);
    const dump = join(folder, 'dump.xml');
    writeFileSync(file, bytes);
    execFileSync('assimp', ['dump', file, dump], { stdio: 'ignore' });
    return assimpReader(readFileSync(dump, 'utf8'), names);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

interface DumpNode {
  readonly name: string;
  readonly parent: DumpNode | null;
  readonly rest: Matrix4;
}

function assimpReader(xml: string, names: readonly string[]): Reader {
  const nodes: DumpNode[] = [];
  const stack: DumpNode[] = [];
  for (const match of xml.slice(0, xml.indexOf('</Scene>') + 1 || undefined).matchAll(/<Node name="([^"]*)">\s*<Matrix4>([^<]*)<\/Matrix4>|<\/Node>/g)) {
    if (match[1] === undefined) stack.pop();
    else {
      const m = match[2]!.trim().split(/\s+/).map(Number);
      const node = { name: match[1], parent: stack[stack.length - 1] ?? null, rest: new Matrix4().fromArray(m).transpose() };
      nodes.push(node);
      stack.push(node);
    }
  }
  const channels = new Map<string, { positions: number[][]; rotations: number[][] }>();
  for (const [, node, body] of xml.matchAll(/<NodeAnim node="([^"]*)">([\s\S]*?)<\/NodeAnim>/g)) {
    const keys = (tag: string) => [...body!.matchAll(new RegExp(`<${tag} [^>]*>([^<]*)<`, 'g'))].map((k) => k[1]!.trim().split(/\s+/).map(Number));
    channels.set(node!, { positions: keys('PositionKey'), rotations: keys('RotationKey') });
  }
  return (frame) => {
    const world = new Map<DumpNode, Matrix4>();
    const out = new Map<string, [number, number, number]>();
    for (const node of nodes) {
      const channel = channels.get(node.name);
      let local = node.rest;
      if (channel) {
        const p = channel.positions[Math.min(frame, channel.positions.length - 1)]!;
        const q = channel.rotations[Math.min(frame, channel.rotations.length - 1)]!;
        local = new Matrix4().compose(new Vector3(p[0], p[1], p[2]), new Quaternion(q[0], q[1], q[2], q[3]).normalize(), new Vector3(1, 1, 1));
      }
      const at = node.parent ? world.get(node.parent)!.clone().multiply(local) : local.clone();
      world.set(node, at);
      if (names.includes(node.name)) out.set(node.name, new Vector3().setFromMatrixPosition(at).toArray());
    }
    return out;
  };
}
