import { describe, expect, it } from 'vitest';
import { assign } from '../gait/assign';
import { gaitSpecSchema } from '../gait/schema';
import type { GaitSpec } from '../gait/spec';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { recording, RECORDINGS } from '../tests/recordings';
import { analyseClip } from './analysis';
import { clipStride, takingGait } from './take-gait';

const body = shippedBody('marlo');

/** A gait taken from a clip of another that tells nothing but its poses. */
function taken(gait: GaitSpec) {
  const found = clipStride(analyseClip(ownFigure(cycleClip(gait, body, 60).clip)), 'taken')!;
  const fit = takingGait(found.stride, found.body, 'taken');
  let last = 0;
  for (let step = fit.next(); ; step = fit.next()) {
    if (step.done) return { ...step.value, ...found };
    expect(step.value).toBeGreaterThanOrEqual(last);
    expect(step.value).toBeLessThanOrEqual(1);
    last = step.value;
  }
}

const LEGS_AND_TRUNK = ['hips', 'upperChest', 'leftUpperLeg', 'leftLowerLeg', 'leftFoot', 'rightUpperLeg', 'rightLowerLeg', 'rightFoot'] as const;
const ARMS = ['leftUpperArm', 'leftLowerArm', 'rightUpperArm', 'rightLowerArm'] as const;

/** Gaits the library does not have: its own with some numbers changed. */
const CHANGED: readonly (readonly [string, Readonly<Record<string, string>>])[] = [
  [
    'walk',
    {
      'feet.lift': '0.13',
      'feet.stepWidth': '0.18',
      'hips.list.amount': '0.14',
      'trunk.lean.offset': '0.16',
      'arms.swing.amount': '0.7',
      'hips.crouch': '0.05',
    },
  ],
  ['run', { 'feet.landingPitch': '0', 'hips.turn.amount': '0.2', 'trunk.lean.offset': '0.2' }],
  // What waves alone do not do: curves through keys.
  ['limp', { 'hips.list.amount': '0.1', 'arms.elbow.amount': '0.5', 'arms.elbow.offset': '1' }],
  ['sneak', { 'feet.lift': '0.09', 'head.nod.offset': '0.2', 'hips.turn.amount': '0.05' }],
];

describe('a gait taken from a clip of ours whose numbers were thrown away', () => {
  it.each(CHANGED)('%s, changed by %o: legs and trunk within 1.5°, arms within 3°', { timeout: 120_000 }, (key, changes) => {
    const changed = assign(presetFor(key, body), Object.entries(changes));
    if (!('gait' in changed)) throw new Error(changed.faults[0]!.message);
    const { gait } = changed;
    const { gait: found, off } = taken(gait);
    for (const role of LEGS_AND_TRUNK) expect(off[role], role).toBeLessThan(1.5);
    for (const role of ARMS) expect(off[role], role).toBeLessThan(3);
    expect(gaitSpecSchema.parse(found)).toEqual(found);
    // Whole frames move its time a little.
    expect(found.timing.strideTime).toBeCloseTo(gait.timing.strideTime, 1);
    expect(found.timing.strideLength / gait.timing.strideLength).toBeCloseTo(1, 2);
    expect(Math.abs(found.timing.dutyFactor - gait.timing.dutyFactor)).toBeLessThan(0.03);
  });
});

describe('a gait taken from a recording', () => {
  it('bends hips, knees and ankles within 6° of a walk along a bend', { timeout: 120_000 }, async () => {
    const found = clipStride(analyseClip((await recording(RECORDINGS.ladder)).brought.figure), 'recorded')!;
    // The walk to the ladder, not the shifting of feet before it.
    expect(found.stride.strideLength).toBeGreaterThan(1);
    expect(found.stride.strides.length).toBeGreaterThan(1);
    const fit = takingGait(found.stride, found.body, 'recorded');
    let step = fit.next();
    while (!step.done) step = fit.next();
    const { bent, gait } = step.value;
    for (const joint of ['hip', 'knee', 'ankle'] as const) expect(bent[joint], joint).toBeLessThan(6);
    expect(gaitSpecSchema.parse(gait)).toEqual(gait);
  });
});
