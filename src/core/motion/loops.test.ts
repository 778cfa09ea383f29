import { describe, expect, it } from 'vitest';
import { checkFile } from '../check/check';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { encodeGlb } from '../formats/gltf/bytes';
import { fitToFrames, structuredCloneGait } from '../gait/timing';
import { makeClip } from '../handover/make-clip';
import { ownFeet } from '../body/foot-model';
import { traceClip } from '../travel/trace';
import { measureSeam } from '../measure/seam';
import { rotate } from '../math/quaternion';
import { cycleClip, cycleOrder, presetFor, reportOf, shippedBody } from '../tests/cast';

const body = shippedBody('marlo');
const walk = presetFor('walk', body);
const pose = (clip: ReturnType<typeof cycleClip>['clip'], f: number) => [...clip.poses.subarray(f * 98, (f + 1) * 98)];

describe('pictures of a loop', () => {
  it('are N for N/fps seconds; the closing picture is stored only when asked for, and is the first one moved on', () => {
    const { clip } = cycleClip(walk, body, 24);
    expect(clip.frames).toBe(25);
    const closed = cycleClip(walk, body, 24, { closing: true }).clip;
    expect([closed.frames, closed.loop]).toEqual([26, false]);
    const [first, last] = [pose(closed, 0), pose(closed, 25)];
    expect(last[2]! - first[2]!).toBeCloseTo(clip.loopTravel[2], 9);
    for (let k = 3; k < 98; k++) expect(last[k]).toBeCloseTo(first[k]!, 9);
    const report = reportOf(closed, body);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
  });

  it.each([2, 3])('held for %i show every pose so long, with feet that stand still in it', (hold) => {
    const { clip } = cycleClip(walk, body, 24, { hold });
    // Whole held pictures: 25 frames become 26 on twos and 24 on threes.
    expect(clip.frames % hold).toBe(0);
    const ones = cycleClip(fitToFrames(walk, 24, hold), body, 24).clip;
    expect(ones.frames).toBe(clip.frames);
    for (let f = 0; f < clip.frames; f++) expect(pose(clip, f)).toEqual(pose(ones, f - (f % hold)));
    const report = reportOf(clip, body);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
    expect(report.sinkMm).toBeLessThan(0.1);
  });

  it('repeated travel on, and stay still at every foot', () => {
    const { clip } = cycleClip(walk, body, 30, { cycles: 3 });
    const one = cycleClip(walk, body, 30).clip;
    expect(clip.frames).toBe(3 * one.frames);
    expect(clip.loopTravel[2]).toBeCloseTo(3 * one.loopTravel[2], 9);
    expect(reportOf(clip, body).slideMm.atFrames).toBeLessThan(0.05);
  });

  it('are as many as a slow look around needs: the head comes back only after all its cycles', () => {
    const gait = structuredCloneGait(walk);
    gait.head.lookAround = 0.6;
    gait.head.lookCycles = 3;
    const { clip } = cycleClip(gait, body, 24);
    expect(clip.frames).toBe(75);
    const world = createWorldPose(body.skeleton);
    const gaze = (f: number) => {
      forwardKinematics(body.skeleton, clip.poses, f * 98, world);
      const out = [0, 0, 0];
      rotate(out, 0, world.rotations, JOINT.head * 4, 0, 0, 1);
      return Math.atan2(out[0]!, out[2]!);
    };
    const seen = Array.from({ length: 75 }, (_, f) => gaze(f));
    expect(Math.max(...seen)).toBeGreaterThan(0.4);
    expect(Math.min(...seen)).toBeLessThan(-0.4);
    // After one stride it still looks elsewhere; after three it is back without a jump.
    expect(Math.abs(seen[25]! - seen[0]!)).toBeGreaterThan(0.2);
    expect(Math.abs(seen[74]! - seen[0]!)).toBeLessThan(0.1);
    expect(measureSeam(traceClip(clip, ownFeet(body)))!.positionM).toBe(0);
  });

  it('keep what they are through a file: twos, repeated, with the closing picture', async () => {
    const made = makeClip(cycleOrder(walk, body, 24, 2), 24, { inPlace: false, cycles: 2, hold: 2, closing: true });
    const [check] = await checkFile(await encodeGlb([made.document]), 'twos.glb');
    expect(check!.frames).toBe(53);
    expect(check!.slideMm.atFrames).toBeLessThan(0.05);
  });
});
