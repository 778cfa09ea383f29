import { describe, expect, it } from 'vitest';
import { mannequinSkin, skinVertex } from '../measure/skin';
import { encodeClip } from '../formats/encode';
import { EXPORT_FORMATS } from '../formats/format';
import { makeClip } from '../handover/make-clip';
import { BODY_KEYS, cycleOrder, presetFor, shippedBody } from '../tests/cast';
import type { Body } from './body';
import { createMannequin } from './mannequin';
import { JOINT, type Role } from './roles';
import { createWorldPose, forwardKinematics, poseSize, restWorld } from './skeleton';

/** Places (m, 3 a vertex) of the skin with some joints turned from the rest pose: role, degrees, axis (0, 1, 2). */
function posed(body: Body, ...turns: readonly (readonly [Role, number, 0 | 1 | 2])[]): Float64Array {
  const { moving, offsets, names } = body.skeleton;
  const pose = new Float64Array(poseSize(body.skeleton));
  const quats = moving.length * 3;
  moving.forEach((j, m) => pose.set(offsets.subarray(j * 3, j * 3 + 3), m * 3));
  for (let j = 0; j < names.length; j++) pose[quats + j * 4 + 3] = 1;
  for (const [role, degrees, axis] of turns) {
    const at = quats + JOINT[role] * 4,
      half = (degrees * Math.PI) / 360;
    pose[at + axis] = Math.sin(half);
    pose[at + 3] = Math.cos(half);
  }
  const world = createWorldPose(body.skeleton);
  forwardKinematics(body.skeleton, pose, 0, world);
  const skin = mannequinSkin(body);
  const out = new Float64Array(skin.count * 3);
  for (let v = 0; v < skin.count; v++) skinVertex(skin, v, world, out, v * 3);
  return out;
}

type Triple = readonly [number, number, number];
const six = (a: Triple, b: Triple, c: Triple): number =>
  (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;

/** Volume (m³) of the part of a skin whose vertices are chosen, closed with fans where it was cut. */
function volume(indices: Uint32Array, p: Float64Array, chosen: (v: number) => boolean): number {
  const at = (v: number): Triple => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
  const open = new Map<string, readonly [number, number]>();
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const face = [indices[i]!, indices[i + 1]!, indices[i + 2]!] as const;
    if (!face.every(chosen)) continue;
    sum += six(at(face[0]), at(face[1]), at(face[2]));
    face.forEach((v, k) => {
      const next = face[(k + 1) % 3]!;
      if (!open.delete(`${next}>${v}`)) open.set(`${v}>${next}`, [next, v]);
    });
  }
  const cut = new Map(open.values());
  for (const seen = new Set<number>(); cut.size > seen.size;) {
    const loop: number[] = [];
    for (let v = [...cut.keys()].find((k) => !seen.has(k)); v !== undefined && !seen.has(v); v = cut.get(v)) {
      seen.add(v);
      loop.push(v);
    }
    const middle = [0, 1, 2].map((k) => loop.reduce((s, v) => s + p[v * 3 + k]!, 0) / loop.length) as unknown as Triple;
    loop.forEach((v, i) => (sum += six(at(v), at(loop[(i + 1) % loop.length]!), middle)));
  }
  return sum;
}

/** Vertices that hang together, as a number for each vertex. */
function parts(indices: Uint32Array, count: number): Int32Array {
  const of = Int32Array.from({ length: count }, (_, i) => i);
  const root = (v: number): number => {
    while (of[v] !== v) v = of[v]!;
    return v;
  };
  for (let i = 0; i < indices.length; i += 3) for (const k of [1, 2]) of[root(indices[i + k]!)] = root(indices[i]!);
  return Int32Array.from(of, (_, v) => root(v));
}

describe.each(BODY_KEYS)('the clay of %s', (key) => {
  const body = shippedBody(key);
  const mesh = createMannequin(body);
  const count = mesh.positions.length / 3;
  const rest = posed(body);
  const of = parts(mesh.indices, count);
  const H = body.spec.stature;
  const joint = (role: Role) => [...restWorld(body.skeleton).positions.subarray(JOINT[role] * 3, JOINT[role] * 3 + 3)] as unknown as Triple;

  it('is one skin from head to ankles and fingertips, beside two thumbs and two shoes, none of them inside out', () => {
    const all = [...new Set(of)];
    expect(all).toHaveLength(5);
    const volumes = all.map((part) => volume(mesh.indices, rest, (v) => of[v] === part)).sort((a, b) => a - b);
    expect(volumes[0]).toBeGreaterThan(0);
    // By far the most of the figure is the one skin, and as heavy as a person: about as dense as water.
    expect(volumes[4]! / (body.spec.mass / 1000)).toBeGreaterThan(0.75);
    expect(volumes[4]! / (body.spec.mass / 1000)).toBeLessThan(1.35);
    // Normals look outward: along them the surface grows.
    const grown = rest.map((x, i) => x + 0.001 * mesh.normals[i]!);
    expect(volume(mesh.indices, grown, () => true)).toBeGreaterThan(volume(mesh.indices, rest, () => true));
  });

  it.each([
    ['a knee bent 150°', [['leftLowerLeg', 150, 0]], (v: number) => Math.abs(rest[v * 3 + 1]! - joint('leftLowerLeg')[1]) < 0.06 * H && rest[v * 3]! > 0.001],
    ['an elbow bent 150°', [['leftLowerArm', -150, 1]], (v: number) => Math.abs(rest[v * 3]! - joint('leftLowerArm')[0]) < 0.05 * H],
    [
      'a hip bent 90°',
      [['leftUpperLeg', -90, 0]],
      (v: number) => Math.abs(rest[v * 3 + 1]! - joint('leftUpperLeg')[1]) < 0.14 * H && Math.abs(rest[v * 3]!) < 0.12 * H,
    ],
    [
      'both hips bent 90°',
      [
        ['leftUpperLeg', -90, 0],
        ['rightUpperLeg', -90, 0],
      ],
      (v: number) => Math.abs(rest[v * 3 + 1]! - joint('leftUpperLeg')[1]) < 0.14 * H && Math.abs(rest[v * 3]!) < 0.12 * H,
    ],
  ] as const)('keeps its volume around %s within 15 %%', (_, turns, near) => {
    const region = (v: number) => of[v] === of[0] && near(v);
    const was = volume(mesh.indices, rest, region);
    const is = volume(mesh.indices, posed(body, ...(turns as readonly (readonly [Role, number, 0 | 1 | 2])[])), region);
    expect(was).toBeGreaterThan(0);
    expect(Math.abs(is / was - 1)).toBeLessThan(0.15);
  });

  it('shows where it faces at 40 pixels: the front of the head is dark, its back is not', () => {
    // The head is some six pixels high: what counts is the mean tone of its front and of its back.
    const tone = (front: boolean) => {
      const own = [...Array(count).keys()].filter((v) => rest[v * 3 + 1]! > 0.88 * H && rest[v * 3 + 2]! > 0.012 * H === front);
      return own.reduce((s, v) => s + mesh.colors[v * 3]!, 0) / own.length;
    };
    expect(tone(true)).toBeLessThan(0.8 * tone(false));
  });

  it('keeps its thighs apart and its file small', async () => {
    const thigh = [...Array(count).keys()].filter(
      (v) => Math.abs(rest[v * 3 + 1]! - (joint('leftUpperLeg')[1] - 0.12 * H)) < 0.03 * H && Math.abs(rest[v * 3]!) < 0.12 * H,
    );
    expect(Math.min(...thigh.map((v) => Math.abs(rest[v * 3]!)))).toBeGreaterThan(0.003 * H);
    const clip = makeClip(cycleOrder(presetFor('walk', body), body, 30), 30, { inPlace: false }).document;
    expect(
      (
        await encodeClip(
          EXPORT_FORMATS.find((f) => f.id === 'glb')!,
          clip,
        )
      ).byteLength,
    ).toBeLessThan(250_000);
  });
});
