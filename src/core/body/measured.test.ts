import { describe, expect, it } from 'vitest';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { footSkin } from './clay/foot';
import { restPositions } from './clay/clay';
import { contactPoints, CONTACT_NUMBERS, ownFeet } from './foot-model';
import { measuredBody } from './measured';
import { MeshBuilder } from './mesh-builder';
import { JOINT, JOINT_COUNT } from './roles';
import { createWorldPose, forwardKinematics, poseSize, restWorld } from './skeleton';

describe('a body measured on a skeleton made elsewhere', () => {
  it.each(['marlo', 'pip', 'bosun'] as const)('of our own %s is the body itself, and its poses come back', (key) => {
    const body = shippedBody(key);
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const measured = measuredBody(
      body.skeleton,
      { roles: Int32Array.from({ length: JOINT_COUNT }, (_, j) => j), feet: ownFeet(body), legLength: body.legLength },
      'x',
    );
    expect(measured.body.legLength).toBeCloseTo(body.legLength, 9);
    body.skeleton.offsets.forEach((v, i) => expect(measured.body.skeleton.offsets[i]).toBeCloseTo(v, 9));
    const size = poseSize(body.skeleton);
    const [own, back] = [createWorldPose(body.skeleton), createWorldPose(body.skeleton)];
    const taken = new Float64Array(size);
    for (let f = 0; f < clip.frames; f += 3) {
      forwardKinematics(body.skeleton, clip.poses, f * size, own);
      measured.rig.take(clip.poses, f * size, taken, 0);
      forwardKinematics(measured.body.skeleton, taken, 0, back);
      for (let i = 3; i < own.positions.length; i++) expect(back.positions[i]).toBeCloseTo(own.positions[i]!, 9);
    }
  });

  it('is shown with shoes whose undersides lie where its soles do, wherever its legs hang and whatever each sole is', () => {
    const body = shippedBody('marlo');
    const offsets = body.skeleton.offsets.slice();
    // Legs that hang behind the hips, feet whose toes point out.
    for (const [side, out] of [
      ['left', 1],
      ['right', -1],
    ] as const) {
      offsets[JOINT[`${side}UpperLeg`] * 3 + 2] = -0.05;
      offsets[JOINT[`${side}Toes`] * 3] = 0.03 * out;
    }
    const feet = ownFeet(body).map((foot, i) => ({ ...foot, heel: [0, foot.heel[1], foot.heel[2] - 0.02 * i] as const }));
    const roles = Int32Array.from({ length: JOINT_COUNT }, (_, j) => j);
    const measured = measuredBody({ ...body.skeleton, offsets }, { roles, feet, legLength: body.legLength }, 'x').body;
    const world = restWorld(measured.skeleton);
    const points = new Float64Array(CONTACT_NUMBERS);
    ownFeet(measured).forEach((foot) => {
      const mesh = new MeshBuilder();
      footSkin(mesh, measured, restPositions(measured), foot.name);
      const { positions } = mesh.build();
      const of = (k: number) => Array.from({ length: positions.length / 3 }, (_, i) => positions[i * 3 + k]!);
      contactPoints(foot, world, points, 0);
      expect(Math.min(...of(1))).toBeCloseTo(Math.min(points[1]!, points[4]!, points[7]!), 4);
      expect(Math.min(...of(2))).toBeCloseTo(points[2]!, 2);
      expect(Math.max(...of(2))).toBeCloseTo(points[8]!, 2);
      const most = Math.max(...of(2));
      const foremost = of(0).filter((_, i) => positions[i * 3 + 2]! > most - 1e-3);
      expect(Math.abs(foremost.reduce((sum, x) => sum + x, 0) / foremost.length - points[6]!)).toBeLessThan(0.01);
    });
  });
});
