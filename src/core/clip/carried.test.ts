import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { splitTravel } from '../travel/split';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { canCarry, carried, carriedByHips } from './carried';
import type { Clip } from './clip';

const body = shippedBody('marlo');
const { clip } = cycleClip(presetFor('walk', body), body, 30);

/** Where all joints but the topmost are, picture by picture. */
function joints({ skeleton, poses, frames }: Clip): Float64Array {
  const world = createWorldPose(skeleton);
  const all = new Float64Array(frames * (skeleton.names.length - 1) * 3);
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * poseSize(skeleton), world);
    all.set(world.positions.subarray(3), f * (skeleton.names.length - 1) * 3);
  }
  return all;
}
const apart = (a: Float64Array, b: Float64Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);

describe('who carries the travel', () => {
  it('on the hips the root stays, and back on the root it goes again; no other joint moves by either', () => {
    const onHips = carriedByHips(clip);
    const size = poseSize(clip.skeleton);
    const way = (c: Clip, o: number) =>
      Math.hypot(c.poses[(c.frames - 1) * size + o]! - c.poses[o]!, c.poses[(c.frames - 1) * size + o + 2]! - c.poses[o + 2]!);
    expect(way(onHips, 0)).toBe(0);
    expect(way(onHips, 3)).toBeGreaterThan(1);
    expect(apart(joints(onHips), joints(clip))).toBeLessThan(1e-12);
    const { values } = splitTravel(clip).travel;
    const places = Float64Array.from({ length: clip.frames * 4 }, (_, i) =>
      i % 4 === 0 ? values[(i / 4) * 3]! : i % 4 === 2 ? values[((i - 2) / 4) * 3 + 1]! : 0,
    );
    const back = carried(onHips, JOINT.hips, places, 'root');
    expect(way(back, 0)).toBeCloseTo(way(clip, 0), 9);
    expect(apart(joints(back), joints(clip))).toBeLessThan(1e-12);
  });

  it('asks for a joint over the hips', () => {
    const alone: Clip = { ...clip, skeleton: { ...clip.skeleton, moving: Int32Array.of(JOINT.hips) } };
    expect([canCarry(clip, JOINT.hips), canCarry(alone, JOINT.hips), canCarry(clip, JOINT.root)]).toEqual([true, false, false]);
    expect(() => carried(alone, JOINT.hips, new Float64Array(4), 'root')).toThrow(/no joint over its hips/);
  });
});
