import { describe, expect, it } from 'vitest';
import { createFrameReader } from '../clip/clip';
import { toDegrees } from '../math/scalar';
import { cycleInPlace, shaken } from '../tests/clips';
import { analyseClip } from './analysis';
import { travelFacts, travelsOf, stretchedTo } from './kinds';
import type { TravelKind } from './names';
import { prepareClip } from './prepare';
import { worstSlide } from './slide';
import { defaultTravel } from './spec';
import { exchangeTravel, stayingTrack, withAxes } from './track';

/** Travel a kind finds for a figure: speed in parts of the true one, direction in degrees. */
function found(figure: ReturnType<typeof cycleInPlace>['figure'], made: ReturnType<typeof cycleInPlace>['made'], kind: TravelKind) {
  const analysis = analyseClip(figure);
  const { round } = travelsOf(analysis.figure, { ...analysis, smooth: 0.5 }).of(kind);
  const rounds = figure.clip.frames / made.frames;
  return {
    contacts: analysis.contacts.length / rounds,
    inPlace: analysis.inPlace,
    share: Math.hypot(round[0]!, round[2]!) / (rounds * made.loopTravel[2]!),
    direction: Math.abs(toDegrees(Math.atan2(round[0]!, round[2]!))),
  };
}

describe('the travel that standing feet ask for', () => {
  it.each(['walk', 'run', 'sneak', 'limp', 'skip', 'plod', 'march', 'tired'])('%s, travel thrown away: comes back within 0.5 % and 0.3°', (gait) => {
    const { made, figure } = cycleInPlace(gait, 60);
    for (const kind of ['contacts', 'constant'] as const) {
      const { share, direction, inPlace } = found(figure, made, kind);
      expect(inPlace).toBe(true);
      expect(Math.abs(share - 1), `${kind} ${share}`).toBeLessThan(0.005);
      expect(direction).toBeLessThan(0.3);
    }
  });

  it.each([
    ['walk', 5],
    ['run', 3],
    ['sneak', 8],
    ['limp', 2],
    ['plod', 6],
  ] as const)('%s, shaken by 2 mm a joint over six strides: within 2 %%', (gait, seed) => {
    const { made, figure } = cycleInPlace(gait, 60, 6);
    const { share, contacts } = found(shaken(figure, 0.002, seed), made, 'constant');
    expect(contacts).toBe(made.contacts!.length);
    expect(Math.abs(share - 1), String(share)).toBeLessThan(0.02);
  });

  it('each kind leaves the slide it means: none from contacts, its share of a wrong distance', () => {
    const { made, figure } = cycleInPlace('walk', 60);
    const worst = (kind: TravelKind) => Math.max(...prepareClip(figure, { ...defaultTravel(), kind }).before.map((s) => s.atFramesMm / 1000));
    expect(worst('contacts')).toBeLessThan(1e-4);
    expect(worst('constant')).toBeLessThan(1e-4);
    // In place it is measured with the steady travel that its feet ask for, as a check of the file does it.
    const { analysis } = prepareClip(figure, defaultTravel());
    expect(analysis.inPlace).toBe(true);
    expect(analysis.missing[1]).toBeCloseTo((made.loopTravel[2]! * made.rate) / made.frames, 3);
    expect(worst('asIs')).toBeLessThan(1e-4);
    // A wrong distance carries a standing foot along by its share of the stride.
    const stance = made.contacts![0]!.to - made.contacts![0]!.from;
    const { before } = prepareClip(figure, { ...defaultTravel(), kind: 'constant', distance: 0.001 });
    expect(worstSlide(before)! / 1000).toBeGreaterThan((0.25 * stance * made.loopTravel[2]!) / made.frames);
  });

  it('a typed distance means the slide it makes', () => {
    const { made, figure } = cycleInPlace('walk', 60);
    const told = (distance: number | null) => {
      const { before, travel, analysis } = prepareClip(figure, { ...defaultTravel(), kind: 'constant', distance });
      return { slide: Math.max(...before.map((s) => s.atFramesMm / 1000)), facts: travelFacts(travel, figure.clip, analysis.first) };
    };
    const right = told(null).facts.distance;
    expect(right).toBeCloseTo(made.loopTravel[2]!, 3);
    const more = told(right * 1.1);
    expect(more.facts.distance).toBeCloseTo(right * 1.1, 9);
    // A tenth too far slides by a tenth of what is walked while one point of the sole stands.
    expect(more.slide).toBeGreaterThan(0.02);
    expect(more.slide).toBeLessThan(0.1 * right);
    expect(told(-1).facts.distance).toBeCloseTo(1, 9);
  });
});

describe('splitting and joining', () => {
  it.each(['walk', 'run', 'skip'])('%s: out and in again is the clip, axis by axis, to 1e-9', (gait) => {
    const { figure } = cycleInPlace(gait, 30);
    const analysis = analyseClip(figure);
    const travels = travelsOf(analysis.figure, { ...analysis, smooth: 0.5 });
    const whole = travels.of('contacts');
    const clip = exchangeTravel(figure.clip, travels.own, whole);
    for (const axes of [
      { forward: true, sideways: false, height: true, turn: true },
      { forward: false, sideways: true, height: true, turn: false },
      { forward: false, sideways: false, height: false, turn: false },
    ]) {
      const some = withAxes(whole, axes);
      const parted = exchangeTravel(clip, whole, some);
      if (!axes.forward && !axes.sideways) expect(Math.hypot(parted.loopTravel[0]!, parted.loopTravel[2]!)).toBeLessThan(1e-9);
      const back = exchangeTravel(parted, some, whole);
      for (let i = 0; i < clip.poses.length; i++) expect(Math.abs(back.poses[i]! - clip.poses[i]!)).toBeLessThan(1e-9);
      for (let k = 0; k < 4; k++) expect(back.loopTravel[k]).toBeCloseTo(clip.loopTravel[k]!, 9);
    }
  });

  it('a loop whose travel is exchanged is a loop still: the picture after its last leads on from it', () => {
    const { figure } = cycleInPlace('walk', 60);
    const analysis = analyseClip(figure);
    const travels = travelsOf(analysis.figure, { ...analysis, smooth: 0.5 });
    const clip = exchangeTravel(figure.clip, travels.own, travels.of('constant'));
    const size = clip.poses.length / clip.frames;
    const read = createFrameReader(clip);
    const out = new Float64Array(3 * size);
    for (let i = 0; i < 3; i++) read(clip.frames - 2 + i, out, i * size);
    const step = (a: number, b: number) => Math.hypot(out[b * size]! - out[a * size]!, out[b * size + 2]! - out[a * size + 2]!);
    expect(step(1, 2)).toBeCloseTo(step(0, 1), 6);
  });

  it('a travel that stays goes nowhere, and one that goes nowhere is stretched along its heading', () => {
    const { figure } = cycleInPlace('walk', 30);
    const analysis = analyseClip(figure);
    const own = stayingTrack(travelsOf(analysis.figure, { ...analysis, smooth: 0.5 }).own);
    const far = stretchedTo(own, 2, figure.clip, 0);
    expect(far.round[2]).toBeCloseTo(2, 6);
    expect(far.round[0]).toBeCloseTo(0, 6);
  });
});
