import { describe, expect, it } from 'vitest';
import { poseSize, rotationAt } from '../body/skeleton';
import { JOINT } from '../body/roles';
import { createFrameReader, type Clip } from '../clip/clip';
import { traceClip } from '../travel/trace';
import { createInterpolator } from '../clip/interpolate';
import { createPlacement } from '../math/placement';
import { angleBetween, multiplyAxis } from '../math/quaternion';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { measureBody } from './body-measures';
import { measureSeam } from './seam';
import { ownFeet } from '../body/foot-model';

const body = shippedBody('marlo');
const feet = ownFeet(body);
const { clip } = cycleClip(presetFor('walk', body), body, 30);
const size = poseSize(clip.skeleton);
const trace = (c: Clip) => traceClip(c, feet);
/** The clip with its hips raised by `dy` metres. */
const raised = (dy: number) => ({ ...clip, poses: clip.poses.map((v, i) => (i % size === 4 ? v + dy : v)) });

describe('measures of the whole clip', () => {
  it('find a figure sunk into or floating over the ground, to the tenth of a millimetre', () => {
    expect(measureBody(trace(raised(-0.004)), clip.contacts!).sinkMm).toBeCloseTo(4, 1);
    expect(measureBody(trace(raised(0.003)), clip.contacts!).floatMm).toBeCloseTo(3, 1);
    expect(measureBody(trace(raised(0)), clip.contacts!)).toMatchObject({ floatMm: expect.closeTo(0, 6) as number });
  });

  it('find a snapping knee', () => {
    const poses = clip.poses.slice();
    const knee = 12 * size + rotationAt(clip.skeleton, JOINT.leftLowerLeg);
    multiplyAxis(poses, knee, poses, knee, 0, 0.5);
    const calm = measureBody(trace(clip), clip.contacts!).kneeSnap;
    expect(measureBody(trace({ ...clip, poses }), clip.contacts!).kneeSnap).toBeGreaterThan(calm + 400);
  });

  it('find a loop whose speed jumps at its seam, and none in a clip that does not loop', () => {
    const eased = clip.poses.slice();
    // Travel that is slow at the start and fast at the end: smooth inside, a jolt where the loop closes.
    for (let f = 0; f < clip.frames; f++) {
      const u = f / clip.frames;
      eased[f * size + 2] = eased[f * size + 2]! + 0.2 * (u * u - u);
    }
    expect(measureSeam(trace({ ...clip, poses: eased }))!.velocityShare).toBeGreaterThan(0.2);
    // Frames far apart cannot tell a brisk knee from a jolt: the natural walk is looked at with 240 a second.
    expect(measureSeam(trace(cycleClip(presetFor('walk', body), body, 240).clip))!.velocityShare).toBeLessThan(0.01);
    expect(measureSeam(trace({ ...clip, loop: false }))).toBeNull();
  });

  it('find a loop that does not come back to where it began, without being told its closing picture', () => {
    expect(measureSeam(trace(clip))!.positionM).toBe(0);
    // The whole figure arrives 3 mm too high; the travel of the loop is 5 mm off.
    const drift = clip.poses.slice();
    for (let f = 0; f < clip.frames; f++) drift[f * size + 1] = (0.003 * f) / (clip.frames - 1);
    expect(measureSeam(trace({ ...clip, poses: drift }))!.positionM).toBeCloseTo(0.003, 3);
    expect(measureSeam(trace({ ...clip, loopTravel: createPlacement(0, 0, clip.loopTravel[2]! + 0.005) }))!.positionM).toBeCloseTo(0.005, 3);
  });
});

describe('reading a clip between and beyond its frames', () => {
  it('goes on through the seam with the travel added', () => {
    const a = new Float64Array(size);
    const b = new Float64Array(size);
    const readFrame = createFrameReader(clip);
    readFrame(3, a, 0);
    readFrame(3 + 2 * clip.frames, b, 0);
    expect(b[2]! - a[2]!).toBeCloseTo(2 * clip.loopTravel[2]!, 12);
    readFrame(-1, b, 0);
    readFrame(clip.frames - 1, a, 0);
    expect(b[2]! - a[2]!).toBeCloseTo(-clip.loopTravel[2]!, 12);
  });

  it('interpolates as glTF’s LINEAR: positions evenly, rotations along the arc', () => {
    const read = createInterpolator(clip);
    const [a, b, middle] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
    read(8, a, 0);
    read(9, b, 0);
    read(8.5, middle, 0);
    for (let k = 0; k < 6; k++) expect(middle[k]).toBeCloseTo((a[k]! + b[k]!) / 2, 12);
    for (let q = 6; q < size; q += 4) expect(angleBetween(a, q, middle, q)).toBeCloseTo(angleBetween(a, q, b, q) / 2, 9);
    read(clip.frames - 0.5, middle, 0);
    expect(middle[2]).toBeGreaterThan(clip.poses[(clip.frames - 1) * size + 2]!);
  });
});
