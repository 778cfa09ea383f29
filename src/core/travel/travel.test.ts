import { describe, expect, it } from 'vitest';
import { poseSize, rotationAt } from '../body/skeleton';
import { angleBetween, setAxis } from '../math/quaternion';
import { ownFeet } from '../body/foot-model';
import { reportClip } from '../measure/report';
import { measureSlide } from './slide';
import { ALL_CLIPS, cycleClip, presetFor, shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import { createPlacement } from '../math/placement';
import { detectContacts } from './contacts';
import { traceClip } from './trace';
import { joinTravel, splitTravel } from './split';

const body = shippedBody('marlo');
const feet = ownFeet(body);

describe('splitting and joining travel', () => {
  it('reproduces the clip to 1e-9 m and 1e-9 rad, also when the root turns', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const size = poseSize(clip.skeleton);
    const poses = clip.poses.slice();
    const rand = seeded(5);
    for (let f = 0; f < clip.frames; f++) setAxis(poses, f * size + rotationAt(clip.skeleton, 0), 1, (rand() - 0.5) * 6);
    const turning = { ...clip, poses };
    const split = splitTravel(turning);
    const joined = joinTravel(split);
    for (let f = 0; f < clip.frames; f++) {
      for (let k = 0; k < 6; k++) expect(Math.abs(joined.poses[f * size + k]! - poses[f * size + k]!)).toBeLessThan(1e-9);
      for (let q = 6; q < size; q += 4) expect(angleBetween(joined.poses, f * size + q, poses, f * size + q)).toBeLessThan(1e-9);
      expect(split.inPlace.poses[f * size]).toBe(0);
      expect(split.inPlace.poses[f * size + 2]).toBe(0);
    }
    expect(joined.loopTravel).toEqual(clip.loopTravel);
  });
});

describe('finding contacts and speed from the feet alone', () => {
  it.each(ALL_CLIPS.filter((c) => c.body === 'marlo'))(
    '$gait at $rate fps, in place and without being told: speed, stride and duty come back',
    ({ gait: name, rate }) => {
      const { clip, motion } = cycleClip(presetFor(name, body), body, rate);
      const timing = motion.pace;
      const report = reportClip({ ...splitTravel(clip).inPlace, contacts: null }, feet, body.legLength);
      expect(report.inPlace).toBe(true);
      expect(report.travel.speedMps / timing.speed).toBeCloseTo(1, 9);
      expect(report.timing.strideLengthM! / timing.strideLength).toBeCloseTo(1, 9);
      for (const foot of ['left', 'right'] as const) expect(Math.abs(report.timing.dutyFactor[foot]! / timing.dutyFactor - 1)).toBeLessThan(0.02);
    },
  );

  it('does not believe contacts that the soles do not bear out', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const wrong = { ...clip, contacts: clip.contacts!.map((c) => ({ ...c, from: c.from + 5, to: c.to + 5 })) };
    const report = reportClip(wrong, feet, body.legLength);
    expect(report.contacts).not.toBe(wrong.contacts);
    expect(report.contacts.find((c) => c.foot === 'left')!.from).toBeCloseTo(0, 0);
  });

  it('sees both feet standing in a still clip', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const size = poseSize(clip.skeleton);
    const still = { ...clip, loop: false, poses: Float64Array.from({ length: 20 * size }, (_, i) => clip.poses[i % size]!), frames: 20, contacts: null };
    expect(detectContacts(traceClip(still, feet), body.legLength).contacts.some((c) => c.from === 0 && c.to === 19)).toBe(true);
  });
});

describe('the slide measure', () => {
  it('finds a slide that was put in, to a hundredth of a millimetre', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const size = poseSize(clip.skeleton);
    const poses = clip.poses.slice();
    // Frames 8 and later lie 2 mm ahead: a planted foot jumps by that once.
    for (let f = 8; f < clip.frames; f++) poses[f * size + 2] = poses[f * size + 2]! + 0.002;
    const slides = measureSlide(traceClip({ ...clip, poses, loopTravel: createPlacement(0, 0, clip.loopTravel[2]! * 1.01) }, feet), clip.contacts!);
    const left = slides.find((s) => s.contact.foot === 'left')!;
    expect(left.atFramesMm).toBeCloseTo(2, 1);
    expect(left.worstFrame).toBeGreaterThanOrEqual(7);
  });

  it('finds a wrong travel speed: 1 % of it over a stance', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 60);
    const size = poseSize(clip.skeleton);
    const poses = clip.poses.slice();
    for (let f = 0; f < clip.frames; f++) poses[f * size + 2] = poses[f * size + 2]! * 1.01;
    const worst = Math.max(
      ...measureSlide(traceClip({ ...clip, poses, loopTravel: createPlacement(0, 0, clip.loopTravel[2]! * 1.01) }, feet), clip.contacts!).map(
        (s) => s.atFramesMm,
      ),
    );
    expect(worst).toBeGreaterThan(2);
    expect(worst).toBeLessThan(9);
  });
});
