import { describe, expect, it } from 'vitest';
import { traceClip } from '../travel/trace';
import { centreOfMass } from '../body/centre-of-mass';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { measureSeam } from '../measure/seam';
import { ownFeet } from '../body/foot-model';
import { reportClip } from '../measure/report';
import { ALL_CLIPS, BODY_KEYS, cycleClip, presetCycle, presetFor, shippedBody } from '../tests/cast';

describe('every preset on every body at every rate', () => {
  it.each(ALL_CLIPS)('$gait, $body, $rate fps: feet hold, nothing sinks, the loop closes', ({ body: key, gait: name, rate }) => {
    const body = shippedBody(key);
    const { clip, motion } = cycleClip(presetFor(name, body), body, rate);
    // The picture after the last one as the solver reaches it from before the seam, not as the loop defines it.
    const closing = new Float64Array(poseSize(body.skeleton));
    motion.pose(motion.duration * (1 - 1e-12), closing, 0);
    const report = reportClip(clip, ownFeet(body), body.legLength, { closing });
    expect(report.contacts).toBe(clip.contacts);
    expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    expect(report.sinkMm).toBeLessThanOrEqual(0.1);
    expect(report.floatMm).toBeLessThanOrEqual(0.1);
    expect(report.stretch).toBeLessThanOrEqual(1);
    expect(report.seam!.positionM).toBeLessThanOrEqual(1e-6);
    // Between frames the file's own interpolation moves the foot.
    if (rate === 60) expect(report.slideMm.between).toBeLessThanOrEqual(1);
    expect(motion.survey().tooFar).toBe(0);
    expect(motion.survey().tooNear).toBe(0);
  });

  it.each(BODY_KEYS)('velocity is continuous over the seam and at every landing and lift-off: %s', (key) => {
    for (const name of ['walk', 'run', 'sneak']) {
      const motion = presetCycle(name, key);
      const size = poseSize(motion.body.skeleton);
      const d = 1e-5;
      const pose = (t: number) => {
        const p = new Float64Array(size);
        motion.pose(t, p, 0);
        return p;
      };
      const { strideTime: T, dutyFactor } = motion.pace;
      for (const t of [T, 0.5 * T, dutyFactor * T, (dutyFactor - 0.5 + 1) * T]) {
        const before = pose(t - d - 1e-9);
        const at = pose(t - 1e-9);
        const on = pose(t + 1e-9);
        const after = pose(t + d + 1e-9);
        for (let k = 6; k < size; k++) {
          const jump = Math.abs((after[k]! - on[k]!) / d - (at[k]! - before[k]!) / d);
          // Accelerations up to 1,500 rad/s² pass; a kick would show as several rad/s.
          expect(jump).toBeLessThan(0.05);
        }
      }
    }
  });

  it('finds a seam that is not closed', () => {
    const body = shippedBody('marlo');
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const closing = clip.poses.slice(0, poseSize(body.skeleton));
    closing[0] = clip.loopTravel[0]!;
    closing[2] = clip.loopTravel[2]! + 0.003;
    expect(measureSeam(traceClip(clip, ownFeet(body)), closing)!.positionM).toBeCloseTo(0.003, 9);
  });
});

describe('a run', () => {
  it.each(BODY_KEYS)('its centre of mass flies as a thrown body, y″ = −9.81 ± 0.05 m/s²: %s', (key) => {
    const motion = presetCycle('run', key);
    const { strideTime: T, dutyFactor } = motion.pace;
    const { skeleton } = motion.body;
    const p = new Float64Array(98),
      centre = new Float64Array(3);
    const world = createWorldPose(skeleton);
    const y = (t: number) => {
      motion.pose(t, p, 0);
      forwardKinematics(skeleton, p, 0, world);
      centreOfMass(world, centre, 0);
      return centre[1]!;
    };
    const flight = (0.5 - dutyFactor) * T;
    const d = 2e-3;
    for (const start of [dutyFactor * T, (dutyFactor + 0.5) * T])
      for (let u = 0.1; u <= 0.9; u += 0.1) {
        const t = start + u * flight;
        expect(Math.abs((y(t + d) - 2 * y(t) + y(t - d)) / d ** 2 + 9.81)).toBeLessThan(0.05);
      }
  });

  it('looks like running at about 3 m/s: duty 0.33–0.40, cadence 160–175, 60–100 mm up and down (values from memory of the sources in the notes)', () => {
    const motion = presetCycle('run');
    const { strideTime: T, dutyFactor, speed } = motion.pace;
    expect(speed).toBeCloseTo(3, 1);
    expect(dutyFactor).toBeGreaterThanOrEqual(0.33);
    expect(dutyFactor).toBeLessThanOrEqual(0.4);
    expect(120 / T).toBeGreaterThanOrEqual(160);
    expect(120 / T).toBeLessThanOrEqual(175);
    const p = new Float64Array(98);
    const heights = Array.from({ length: 200 }, (_, i) => {
      motion.pose((i / 200) * T, p, 0);
      return p[4]!;
    });
    const travel = Math.max(...heights) - Math.min(...heights);
    expect(travel).toBeGreaterThan(0.06);
    expect(travel).toBeLessThan(0.1);
    // Lowest at mid-stance.
    const lowest = heights.slice(0, 100).indexOf(Math.min(...heights.slice(0, 100))) / 200;
    expect(Math.abs(lowest - dutyFactor / 2)).toBeLessThan(0.05);
  });
});
