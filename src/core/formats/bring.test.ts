import { describe, expect, it } from 'vitest';
import { JOINT, ROLES, type Role } from '../body/roles';
import { poseSize } from '../body/skeleton';
import { makeClip } from '../handover/make-clip';
import { cycleOrder, presetFor, shippedBody } from '../tests/cast';
import { readWithBvhLoader, readWithGltfLoader } from '../tests/readers';
import { prepareClip } from '../travel/prepare';
import { defaultTravel } from '../travel/spec';
import { bring, NOTHING_SAID } from './bring';
import { decodeBvh } from './bvh/decode';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import type { BvhPackage } from './bvh/package';
import { eulerNear, rewrittenBvh } from './bvh/rewrite';
import { decodeGlb, encodeGlb } from './gltf/bytes';
import { rewrittenGlb } from './gltf/rewrite';
import { readMotionFile } from './motion-file';
import { seeded } from '../math/random';

const body = shippedBody('marlo');
const { document } = makeClip(cycleOrder(presetFor('walk', body), body, 30), 30, { inPlace: false });
const own = toBvh(document);
const bytesOf = (pkg: BvhPackage) => new Uint8Array(Buffer.from(encodeBvh(pkg)));
const foundIn = async (pkg: BvhPackage) => (await readMotionFile(bytesOf(pkg), 'x.bvh')).clips[0]!;

/** The package with joints renamed, scaled, or its world turned so that Z is up. */
const renamed = (name: (role: Role, j: number) => string): BvhPackage => ({
  ...own,
  joints: own.joints.map((j, i) => ({ ...j, name: name(j.name as Role, i) })),
});
const scaled = (pkg: BvhPackage, by: number): BvhPackage => ({
  ...pkg,
  joints: pkg.joints.map((j) => ({ ...j, offset: j.offset.map((v) => v * by) as never, end: j.end && (j.end.map((v) => v * by) as never) })),
  values: pkg.values.map((v, i) => (i % (own.values.length / own.frames) < 3 ? v * by : v)),
});

const FOREIGN: Readonly<Partial<Record<Role, string>>> = {
  hips: 'Pelvis',
  spine: 'Spine',
  chest: 'Spine1',
  upperChest: 'Spine2',
  leftShoulder: 'L Clavicle',
  leftUpperArm: 'L UpperArm',
  leftLowerArm: 'L Forearm',
  leftHand: 'L Hand',
  rightShoulder: 'R Clavicle',
  rightUpperArm: 'R UpperArm',
  rightLowerArm: 'R Forearm',
  rightHand: 'R Hand',
  leftUpperLeg: 'L Thigh',
  leftLowerLeg: 'L Calf',
  leftFoot: 'L Foot',
  leftToes: 'L Toe0',
  rightUpperLeg: 'R Thigh',
  rightLowerLeg: 'R Calf',
  rightFoot: 'R Foot',
  rightToes: 'R Toe0',
};
const SPELLED: readonly [string, (role: Role, j: number) => string][] = [
  ['as they are', (r) => r],
  ['with a prefix', (r) => `rig01:${r}`],
  ['words and one letter', (r) => `Rig01 ${FOREIGN[r] ?? r}`],
  ['letter behind', (r) => r.replace(/^(left|right)(.*)$/, (_, side: string, part: string) => `${part}.${side[0]!.toUpperCase()}`)],
  ['capitals and underscores', (r) => r.replace(/([A-Z])/g, '_$1').toUpperCase()],
  ['no names at all', (_, j) => `joint${j}`],
];

describe('roles', () => {
  it.each(SPELLED)('are found in our own skeleton, names %s', async (how, name) => {
    const { figure, doubts, unit, up } = bring(await foundIn(renamed(name)));
    own.joints.forEach(({ name: role }, j) => expect(figure.roles[JOINT[role as Role]], role).toBe(j));
    expect(doubts.length === 0).toBe(how !== 'no names at all');
    expect([unit, up]).toEqual([1, '+y']);
  });

  it('given by hand count, and what is unsure is said', async () => {
    const found = await foundIn(own);
    const { figure } = bring(found, { ...NOTHING_SAID, roles: { head: -1, neck: 5 } });
    expect(figure.roles[JOINT.head]).toBe(-1);
    expect(figure.roles[JOINT.neck]).toBe(5);
    expect(bring(await foundIn(renamed((_, j) => `joint${j}`))).unsure).toContain('leftFoot');
  });

  it('of an animal and of a thing without legs are refused in words', async () => {
    // A dog stands level on four legs of about one length, its trunk ahead of its hind legs.
    const leg = (name: string, x: number, z: number) => ({
      text: `JOINT ${name}Leg { OFFSET ${x} 0 ${z} CHANNELS 3 Zrotation Xrotation Yrotation JOINT ${name}Shin { OFFSET 0 -0.3 0 CHANNELS 3 Zrotation Xrotation Yrotation JOINT ${name}Paw { OFFSET 0 -0.3 0 CHANNELS 3 Zrotation Xrotation Yrotation End Site { OFFSET 0 0 0.08 } } } }\n`,
    });
    const head =
      'JOINT Neck { OFFSET 0 0.2 0.15 CHANNELS 3 Zrotation Xrotation Yrotation JOINT Head { OFFSET 0 0.1 0.1 CHANNELS 3 Zrotation Xrotation Yrotation End Site { OFFSET 0 0 0.2 } } }';
    const dog = `HIERARCHY\nROOT Hips { OFFSET 0 0 0 CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n${leg('left', 0.1, 0).text}${leg('right', -0.1, 0).text}JOINT Chest { OFFSET 0 0 0.7 CHANNELS 3 Zrotation Xrotation Yrotation\n${leg(
      'leftFore',
      0.1,
      0,
    )
      .text.replace(/leftForeLeg/, 'leftShoulder')
      .replace('leftForeShin', 'leftElbow')
      .replace('leftForePaw', 'leftHand')}${leg('rightFore', -0.1, 0)
      .text.replace(/rightForeLeg/, 'rightShoulder')
      .replace('rightForeShin', 'rightElbow')
      .replace('rightForePaw', 'rightHand')}${head} } }\nMOTION\nFrames: 1\nFrame Time: 0.0333\n${'0 '.repeat(6 + 3 * 15)}\n`;
    const file = await readMotionFile(new Uint8Array(Buffer.from(dog)), 'dog.bvh');
    expect(() => bring(file.clips[0]!)).toThrow(/four legs/);
    const pole = `HIERARCHY\nROOT a { OFFSET 0 0 0 CHANNELS 3 Xposition Yposition Zposition End Site { OFFSET 0 1 0 } }\nMOTION\nFrames: 1\nFrame Time: 0.0333\n0 0 0\n`;
    const thing = await readMotionFile(new Uint8Array(Buffer.from(pole)), 'a.bvh');
    expect(() => bring(thing.clips[0]!)).toThrow(/no two legs/);
  });
});

describe('unit and up', () => {
  it.each([
    [100, 0.01],
    [1000, 0.001],
    [10, 0.1],
    [39.3700787, 0.0254],
  ])('a file %d times as large is read in units of %d m', async (by, unit) => {
    const { figure, unit: guessed } = bring(await foundIn(scaled(own, by)));
    expect(guessed).toBe(unit);
    expect(figure.legLength).toBeCloseTo(body.legLength, 5);
  });

  it('with Z up is turned so that the same feet stand on the same floor', async () => {
    // The root's channels turned by a quarter about X, as a program with Z up writes them: its rotation channel X comes first.
    const width = own.values.length / own.frames;
    const joints = own.joints.map((j, i) =>
      i === 0 ? { ...j, channels: ['Xposition', 'Yposition', 'Zposition', 'Zrotation', 'Xrotation', 'Yrotation'] as const } : j,
    );
    const source = bring(await foundIn(own));
    const turned: BvhPackage = { ...own, joints, values: own.values.slice() };
    const size = poseSize(source.figure.clip.skeleton);
    for (let f = 0; f < own.frames; f++) {
      const [x, y, z] = [0, 1, 2].map((k) => own.values[f * width + k]!) as [number, number, number];
      turned.values.set([x, -z, y], f * width);
      const q = source.figure.clip.poses.slice(f * size + 3, f * size + 7);
      const [qx, qy, qz, qw] = [...q] as [number, number, number, number];
      const h = Math.SQRT1_2;
      // A quarter about X, then the root's own.
      const r = Float64Array.of(h * qx + h * qw, h * qy - h * qz, h * qz + h * qy, h * qw - h * qx);
      turned.values.set(eulerNear(r, [2, 0, 1], [0, 90, 0]), f * width + 3);
    }
    const { figure, up, doubts } = bring(await foundIn(turned));
    expect([up, doubts]).toEqual(['+z', []]);
    for (let i = 0; i < figure.clip.poses.length; i += 7)
      expect(Math.abs(Math.abs(figure.clip.poses[i]!) - Math.abs(source.figure.clip.poses[i]!))).toBeLessThan(1e-5);
  });
});

describe('a clip written on its own skeleton again', () => {
  it('has names, offsets, orders and every unchanged channel as the file has them, to 1e-5', async () => {
    const pkg = decodeBvh(bytesOf(scaled(own, 100)));
    const { figure, unit, turn } = bring(await foundIn(scaled(own, 100)), { ...NOTHING_SAID, heading: 30 });
    // One joint is changed in one picture.
    const clip = { ...figure.clip, poses: figure.clip.poses.slice() };
    const size = poseSize(clip.skeleton);
    const at = 5 * size + clip.skeleton.moving.length * 3 + figure.roles[JOINT.head]! * 4;
    clip.poses.set([0, Math.sin(0.1), 0, Math.cos(0.1)], at);
    const again = rewrittenBvh(pkg, clip, unit, turn, (f) => f);
    expect(again.joints).toEqual(pkg.joints);
    const width = pkg.values.length / pkg.frames;
    const head = own.joints.findIndex((j) => j.name === 'head') * 3 + 3;
    pkg.values.forEach((v, i) => {
      const changed = Math.floor(i / width) === 5 && i % width >= head && i % width < head + 3;
      if (!changed) expect(Math.abs(again.values[i]! - v)).toBeLessThan(1e-5);
    });
    // Read by a reader that is not ours, the head is turned by 0.2 rad, and nothing else moved.
    const [theirs, before] = [readWithBvhLoader(encodeBvh(again), ROLES), readWithBvhLoader(encodeBvh(pkg), ROLES)];
    for (const role of ['hips', 'leftFoot', 'rightHand'] as const)
      for (let k = 0; k < 3; k++) expect(theirs(5, 30).get(role)![k]).toBeCloseTo(before(5, 30).get(role)![k]!, 3);
  });

  it('as GLB: a second animation, the mesh, and channels of joints that move as they did stay as they are; the rest reads back in place', async () => {
    const bytes = await encodeGlb([document, document]);
    const [found] = (await readMotionFile(bytes, 'x.glb')).clips;
    const { figure, unit, turn } = bring(found!);
    const { clip } = prepareClip(figure, { ...defaultTravel(), kind: 'none' });
    const again = await rewrittenGlb(await decodeGlb(bytes), 0, figure.clip, clip, unit, turn);
    const [before, after] = [(await decodeGlb(bytes)).getRoot(), (await decodeGlb(again)).getRoot()];
    const channels = (root: typeof before, n: number) => {
      const all = root.listAnimations()[n]!.listChannels();
      return new Map(all.map((c) => [`${c.getTargetNode()!.getName()} ${c.getTargetPath()}`, [...c.getSampler()!.getOutput()!.getArray()!]]));
    };
    const [was, is] = [channels(before, 0), channels(after, 0)];
    const changed = [...is].filter(([name, values]) => values.join() !== was.get(name)!.join()).map(([name]) => name);
    // A straight walk's travel lies in its root's place alone.
    expect(changed).toEqual(['root translation']);
    expect(channels(after, 1)).toEqual(channels(before, 1));
    expect(after.listMeshes().length).toBe(before.listMeshes().length);
    const [still, goes] = (await readMotionFile(again, 'x.glb')).clips.map((c) => bring(c).figure.clip);
    const way = ({ poses, frames, skeleton }: typeof clip) => Math.abs(poses[(frames - 1) * poseSize(skeleton) + 2]! - poses[2]!);
    expect(way(still!)).toBeLessThan(1e-6);
    expect(way(goes!)).toBeGreaterThan(1);
    // As three.js reads it the hips stay over where they were.
    const theirs = await readWithGltfLoader(again, ROLES);
    expect(Math.abs(theirs(clip.frames - 1, 30).get('hips')![2] - theirs(0, 30).get('hips')![2])).toBeLessThan(0.05);
  });

  it('has angles in any order of axes that make the same rotation, nearest to those that were there', () => {
    const rand = seeded(21);
    for (const axes of [
      [0, 1, 2],
      [0, 2, 1],
      [1, 0, 2],
      [1, 2, 0],
      [2, 0, 1],
      [2, 1, 0],
    ])
      for (let n = 0; n < 300; n++) {
        const angles = [0, 1, 2].map((k) => (n % 10 === 0 && k === 1 ? 90 : (rand() - 0.5) * 700));
        const q = Float64Array.of(0, 0, 0, 1);
        axes.forEach((axis, i) => {
          const half = (angles[i]! * Math.PI) / 360;
          const [s, c] = [Math.sin(half), Math.cos(half)];
          const [x, y, z, w] = [...q] as [number, number, number, number];
          if (axis === 0) q.set([x * c + w * s, y * c + z * s, z * c - y * s, w * c - x * s]);
          else if (axis === 1) q.set([x * c - z * s, y * c + w * s, z * c + x * s, w * c - y * s]);
          else q.set([x * c + y * s, y * c - x * s, z * c + w * s, w * c - z * s]);
        });
        eulerNear(q, axes, angles).forEach((a, i) => expect(a).toBeCloseTo(angles[i]!, n % 10 === 0 ? 2 : 5));
      }
  });
});
