import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt } from '../body/skeleton';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { recording, RECORDINGS } from '../tests/recordings';
import { analyseClip } from './analysis';
import { bodyWay } from './body-way';
import { correctedClip } from './correct';
import { newLayer, type Layer, type LayerTarget } from './layer-spec';
import { clipPhase } from './clip-phase';
import { countingLayers, layerValue, layerWeight } from './layer-value';
import { prepareClip } from './prepare';
import { defaultLock, defaultTravel } from './spec';

const body = shippedBody('marlo');
const { clip } = cycleClip(presetFor('walk', body), body, 30);
const figure = ownFigure(clip);
const { places } = bodyWay(figure);
const size = poseSize(clip.skeleton);
const layer = (target: LayerTarget, move: [number, number, number], turn: [number, number, number] = [0, 0, 0], more: Partial<Layer> = {}): Layer => ({
  ...newLayer('x', target),
  keys: [{ at: 0, move, turn }],
  ...more,
});
const held = [{ foot: 'left' as const, from: 0, to: 18 }];

/** Where joints are in a picture. */
function at(of: typeof clip, f: number): Float64Array {
  const world = createWorldPose(of.skeleton);
  forwardKinematics(of.skeleton, of.poses, f * size, world);
  return world.positions;
}
const place = (p: Float64Array, role: keyof typeof JOINT) => [0, 1, 2].map((k) => p[JOINT[role] * 3 + k]!);
const apart = (a: number[], b: number[]) => Math.hypot(...a.map((v, k) => v - b[k]!));

describe('layers of corrections', () => {
  it('move the hips before the legs: feet stay to the nanometre, the head goes along', () => {
    const moved = correctedClip(figure, [layer('hips', [0.03, -0.06, 0.02])], places, held);
    for (const f of [0, 7, 15, 26]) {
      const [a, b] = [at(clip, f), at(moved, f)];
      for (const role of ['leftFoot', 'leftToes', 'rightFoot', 'rightToes'] as const)
        expect(apart(place(a, role), place(b, role)), `${role} ${f}`).toBeLessThan(1e-6);
      expect(place(b, 'head').map((v, k) => v - place(a, 'head')[k]!)).toEqual([expect.closeTo(0.03, 6), expect.closeTo(-0.06, 6), expect.closeTo(0.02, 6)]);
    }
  });

  it('hips raised out of reach give way to the leg that stands', () => {
    const raised = correctedClip(figure, [layer('hips', [0, 0.3, 0])], places, held);
    const [a, b] = [at(clip, 9), at(raised, 9)];
    expect(apart(place(a, 'leftFoot'), place(b, 'leftFoot'))).toBeLessThan(1e-3);
    expect(place(b, 'hips')[1]!).toBeLessThan(place(a, 'hips')[1]! + 0.1);
  });

  it('turn single joints, and change nothing that does not hang on them', () => {
    const out = correctedClip(figure, [layer('joint leftUpperArm', [0, 0, 0], [0, 0, 0.4])], places, held);
    for (let f = 0; f < clip.frames; f++)
      for (let j = 0; j < clip.skeleton.names.length; j++) {
        const o = f * size + rotationAt(clip.skeleton, j);
        for (let k = 0; k < 4; k++) if (j !== JOINT.leftUpperArm) expect(out.poses[o + k]).toBe(clip.poses[o + k]);
      }
    // Turned about forward by 0.4 rad, the left arm is lifted to the side.
    expect(place(at(out, 5), 'leftHand')[0]!).toBeGreaterThan(place(at(clip, 5), 'leftHand')[0]! + 0.1);
  });

  it('take hands and feet to a place, and replace what is there where that is asked for', () => {
    const hand = correctedClip(figure, [layer('rightHand', [0, 0.15, 0.1])], places, held);
    const [a, b] = [at(clip, 4), at(hand, 4)];
    expect(place(b, 'rightHand').map((v, k) => v - place(a, 'rightHand')[k]!)).toEqual([expect.closeTo(0, 6), expect.closeTo(0.15, 6), expect.closeTo(0.1, 6)]);
    const foot = correctedClip(figure, [layer('rightFoot', [0, 0.05, 0])], places, held);
    expect(place(at(foot, 20), 'rightFoot')[1]! - place(at(clip, 20), 'rightFoot')[1]!).toBeCloseTo(0.05, 4);
    const still = correctedClip(figure, [layer('joint head', [0, 0, 0], [0, 0.2, 0], { mode: 'replacing' })], places, held);
    const world = createWorldPose(clip.skeleton);
    for (const f of [0, 9, 20]) {
      forwardKinematics(clip.skeleton, still.poses, f * size, world);
      expect(2 * Math.atan2(world.rotations[JOINT.head * 4 + 1]!, world.rotations[JOINT.head * 4 + 3]!)).toBeCloseTo(0.2, 4);
    }
  });

  it('count where they fade in, and nowhere else; muted not at all, soloed alone', () => {
    const some = layer('hips', [0, -0.05, 0], [0, 0, 0], { fade: { from: 0.3, to: 0.7, in: 0.1, out: 0.1, over: 'time' } });
    const faded = correctedClip(figure, [some], places, held);
    for (const f of [0, 8, 22, 30]) expect([...faded.poses.subarray(f * size, (f + 1) * size)]).toEqual([...clip.poses.subarray(f * size, (f + 1) * size)]);
    expect(place(at(faded, 15), 'hips')[1]! - place(at(clip, 15), 'hips')[1]!).toBeCloseTo(-0.05, 6);
    expect(layerWeight(some, 0.35, null)).toBeCloseTo(0.5, 9);
    expect(correctedClip(figure, [{ ...some, mute: true }], places, held)).toBe(figure.clip);
    const [a, b] = [layer('hips', [0, 0, 0]), layer('look', [0, 0, 0])];
    expect(countingLayers([a, b, { ...a, keys: [] }])).toEqual([a, b]);
    expect(countingLayers([a, { ...b, solo: true }])).toEqual([{ ...b, solo: true }]);
  });

  it('fade over the phase of every stride, also over its end; a clip without strides has none', () => {
    const fade = { from: 0.8, to: 0.2, in: 0.1, out: 0.1, over: 'phase' as const };
    const some = layer('hips', [0, -0.05, 0], [0, 0, 0], { fade });
    const weight = (phase: number | null) => layerWeight(some, 0, phase);
    expect([0.5, 0.79, 0.85, 0.95, 1, 3.15, 0.21].map(weight).map((w) => +w.toFixed(6))).toEqual([0, 0, 0.5, 1, 1, 0.5, 0]);
    expect(weight(null)).toBe(0);
    const phase = clipPhase(clip, held)!;
    const lands = held.filter((c) => c.foot === 'left')[0]!.from / clip.rate;
    expect(phase(lands)).toBeCloseTo(0, 9);
    expect(phase(lands + clip.frames / clip.rate / 2) - phase(lands)).toBeCloseTo(0.5, 9);
    expect(clipPhase({ ...clip, loop: false }, [])).toBeNull();
    const faded = correctedClip(figure, [some], places, held);
    const full = Math.round((lands + 0.95 * (clip.frames / clip.rate)) * clip.rate) % clip.frames;
    const none = Math.round((lands + 0.5 * (clip.frames / clip.rate)) * clip.rate) % clip.frames;
    expect(place(at(faded, full), 'hips')[1]! - place(at(clip, full), 'hips')[1]!).toBeCloseTo(-0.05, 4);
    expect(place(at(faded, none), 'hips')[1]!).toBe(place(at(clip, none), 'hips')[1]!);
  });

  it('go through their keys, smoothly, and round and round in a loop', () => {
    const keys = [0.1, 0.5, 0.8].map((time, i) => ({
      at: time,
      move: [i * 0.1, 0, 0] as [number, number, number],
      turn: [0, 0, 0] as [number, number, number],
    }));
    const out = new Float64Array(6);
    const x = (value: ReturnType<typeof layerValue>, t: number) => {
      value(t, out);
      return out[0]!;
    };
    const once = layerValue({ keys }, null);
    keys.forEach((k) => expect(x(once, k.at)).toBeCloseTo(k.move[0], 12));
    expect([x(once, -3), x(once, 9)]).toEqual([0, 0.2]);
    const round = layerValue({ keys }, 1);
    for (const t of [0, 0.13, 0.5, 0.97]) {
      expect(x(round, t + 3)).toBeCloseTo(x(round, t), 12);
      // Its rate is continuous, over the seam as well.
      const h = 1e-5;
      expect((x(round, t + h) - x(round, t)) / h).toBeCloseTo((x(round, t) - x(round, t - h)) / h, 2);
    }
    expect(x(layerValue({ keys: [] }, null), 1)).toBe(0);
  });

  it('on a recording whose feet are locked leave them locked', async () => {
    const whole = (await recording(RECORDINGS.jumps)).brought.figure;
    const found = analyseClip(whole);
    const { after } = prepareClip(whole, { ...defaultTravel(), lock: defaultLock() }, found, [
      [layer('hips', [0.02, -0.03, 0], [0, 0.15, 0]), layer('chest', [0, 0, 0], [0.2, 0, 0])],
    ]);
    for (const s of after) expect(s.atFramesMm / 1000).toBeLessThan(5e-4);
  });
});
