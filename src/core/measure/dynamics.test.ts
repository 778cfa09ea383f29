import { finish } from '../math/finish';
import { describe, expect, it } from 'vitest';
import { ownFeet } from '../body/foot-model';
import { poseSize, rotationAt } from '../body/skeleton';
import { JOINT } from '../body/roles';
import type { Clip } from '../clip/clip';
import { multiplyAxis } from '../math/quaternion';
import { GRAVITY } from '../math/scalar';
import { structuredCloneGait } from '../gait/timing';
import { cycle } from '../motion/solved';
import { sampleClip } from '../motion/sample';
import { cycleClip, presetCycle, presetFor, shippedBody } from '../tests/cast';
import { traceClip } from '../travel/trace';
import { measureBody } from './body-measures';
import { measuringCrossing } from './crossing';
import { plausibility } from './plausibility';
import { mannequinSkin } from './skin';

const body = shippedBody('marlo');
/** Turns a hanging left arm in across the body. */
const INWARD_RAD = -0.4;
const size = poseSize(body.skeleton);
const measure = (clip: Clip) => measureBody(traceClip(clip, ownFeet(body)), clip.contacts!);
const crossingOf = (clip: Clip) => {
  return finish(measuringCrossing(clip, mannequinSkin(body)))!;
};

describe('what joints and body are put through', () => {
  it('a figure thrown and caught on a known curve shows its acceleration, at the hips, at every joint, and as load', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 60);
    // A still pose carried up and down by a sine: y″ = −a ω² sin.
    const still = clip.poses.slice(0, size);
    const frames = 120,
      omega = 2 * Math.PI;
    const poses = new Float64Array(frames * size);
    for (let f = 0; f < frames; f++) {
      poses.set(still, f * size);
      poses[f * size + 4] = still[4]! + 0.05 * Math.sin((omega * f) / 60);
    }
    const thrown = measure({ ...clip, frames, poses, loop: false, contacts: [] });
    const peak = 0.05 * omega * omega;
    for (const [got, sign] of [
      [thrown.hipsAcceleration[0], -1],
      [thrown.hipsAcceleration[1], 1],
    ] as const)
      expect(got).toBeCloseTo(sign * peak, 2);
    expect(thrown.acceleration.mps2).toBeCloseTo(peak, 2);
    expect(thrown.load![1] - 1).toBeCloseTo(peak / GRAVITY, 3);
  });

  it('find the joint that is thrown hardest', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 60);
    const poses = clip.poses.slice();
    const at = 20 * size + rotationAt(clip.skeleton, JOINT.rightLowerArm);
    multiplyAxis(poses, at, poses, at, 1, 0.6);
    expect(measure({ ...clip, poses }).acceleration.joint).toBe('rightHand');
    expect(measure({ ...clip, poses }).acceleration.mps2).toBeGreaterThan(2 * measure(clip).acceleration.mps2);
  });

  it('the natural walk and the run as they are now: numbers of a body, not of a machine', () => {
    const walk = measure(sampleClip(presetCycle('walk'), 240));
    expect(walk.load![0]).toBeGreaterThan(0);
    expect(walk.load![1]).toBeLessThan(3);
    const run = measure(sampleClip(presetCycle('run'), 240));
    // In flight nothing carries the body; on the ground it is thrown up again.
    expect(run.load![0]).toBeCloseTo(0, 0);
    expect(run.load![0]).toBeGreaterThan(-0.2);
    expect(run.hipsAcceleration[1]).toBeGreaterThan(0.5 * GRAVITY);
  });

  it('is null where the joints it takes are not known', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const skeleton = { ...clip.skeleton, names: clip.skeleton.names.map((n) => `joint ${n}`) };
    expect(measureBody(traceClip({ ...clip, skeleton }, ownFeet(body)), clip.contacts!).load).toBeNull();
  });
});

describe('limbs that run into each other', () => {
  it('legs that are brought together overlap by as much more as they are brought, legs apart do not', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 24);
    const wide = structuredCloneGait(presetFor('walk', body));
    wide.feet.stepWidth = 0.5;
    expect(crossingOf(cycleClip(wide, body, 24).clip).legsMm).toBeLessThan(crossingOf(clip).legsMm + 1e-9);
    // A gait's own legs go round each other, so they are turned in by hand.
    const turned = (rad: number) => {
      const poses = clip.poses.slice();
      for (let f = 0; f < clip.frames; f++) {
        const at = f * size + rotationAt(clip.skeleton, JOINT.leftUpperLeg);
        multiplyAxis(poses, at, poses, at, 2, -rad);
      }
      return crossingOf({ ...clip, poses });
    };
    expect(turned(0.2).legsMm).toBeGreaterThan(turned(0.1).legsMm + 5);
    expect(turned(0.2).legsMm).toBeGreaterThan(10);
    expect(turned(0.2).legs.parts?.some((p) => p.startsWith('left'))).toBe(true);
  });

  it('even a walk on one line has legs that go round each other', () => {
    const line = structuredCloneGait(presetFor('walk', body));
    line.feet.stepWidth = 0;
    line.feet.swingOut = 0;
    expect(crossingOf(sampleClip(cycle(line, body), 60)).legsMm).toBeLessThan(3);
  });

  it('a hand pushed into the thigh is found, and where', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 24);
    const free = crossingOf(clip);
    expect(free.armsMm).toBeLessThan(3);
    const poses = clip.poses.slice();
    // The left arm turned in across the body in one picture.
    const at = 5 * size + rotationAt(clip.skeleton, JOINT.leftUpperArm);
    multiplyAxis(poses, at, poses, at, 2, INWARD_RAD);
    const pushed = crossingOf({ ...clip, poses });
    expect(pushed.armsMm).toBeGreaterThan(free.armsMm + 10);
    expect(pushed.worstFrame).toBe(5);
  });
});

describe('plausibility', () => {
  it('is read from poses and footholds: a parameter that the motion does not follow is no evidence', () => {
    const motion = presetCycle('walk');
    const value = (m: typeof motion, label: string) => plausibility(m).values.find((v) => v.label === label)!.value;
    const wide = structuredCloneGait(presetFor('walk', body));
    wide.feet.stepWidth = 0.2;
    wide.feet.toeOut = 0.3;
    expect(value(cycle(wide, body), 'Step width') - value(motion, 'Step width')).toBeCloseTo(10, 6);
    expect(value(cycle(wide, body), 'Toe-out')).toBeCloseTo((0.3 * 180) / Math.PI, 6);
    // The same footholds, told of poses that stand still: nothing of the pelvis moves any more.
    const frozen = { ...motion, pose: (_t: number, out: Float64Array, at: number) => motion.pose(0, out, at) };
    expect(value(frozen, 'Pelvis turn')).toBeCloseTo(0, 9);
    expect(value(frozen, 'Hips up and down')).toBeCloseTo(0, 9);
    expect(value(motion, 'Pelvis turn')).toBeGreaterThan(3);
    expect(value(motion, 'Time on the ground')).toBeCloseTo(60.5, 6);
    expect(value(motion, 'Each double support')).toBeCloseTo(10.5, 6);
  });
});
