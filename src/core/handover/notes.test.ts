import { describe, expect, it } from 'vitest';
import { setTiming } from '../gait/timing';
import type { Motion } from '../motion/motion';
import { retimed } from '../motion/retimed';
import { cycle, walk } from '../motion/solved';
import { kept, missing } from '../motion/survey';
import { toRadians } from '../math/scalar';
import { presetFor, shippedBody } from '../tests/cast';
import { FROM_ONE } from '../steps/frame-numbers';
import { notesOf } from './notes';

const body = shippedBody('marlo');
const gait = presetFor('walk', body);
const words = (motion: Motion, of = gait) => notesOf(of, motion, 60, null, { rate: 24, shot: FROM_ONE }).map((n) => n.words);

/** A motion surveyed as it is played. */
const surveyed = (motion: Motion): Motion => ({
  ...motion,
  ...kept(function* () {
    const short = { tooFar: 0, tooNear: 0, farSide: 0 as const, nearSide: 0 as const, handMissed: 0 };
    return { ...motion.survey(), ...(yield* missing(motion, short)) };
  }),
});

describe('a note', () => {
  it('of a stride out of reach names foot, moment and the longest stride that is reached, which is', () => {
    const long = setTiming(gait, 'strideLength', 3.2);
    const note = words(cycle(long, body), long).find((w) => /out of the leg's reach/.test(w))!;
    expect(note).toMatch(/^The (left|right) foot lies up to \d+ mm out of the leg's reach at \d\.\d\d s, frame \d+ at 24 a second \(\d+ % of a stride\): /);
    const reached = Number(/A stride of (\d\.\d\d) m is reached\.$/.exec(note)![1]);
    const out = (stride: number) => words(cycle(setTiming(gait, 'strideLength', stride), body)).some((w) => /out of the leg's reach/.test(w));
    expect(out(reached)).toBe(false);
    expect(out(reached + 0.09)).toBe(true);
  });

  it('of a jerked knee names the knee, its print and how much slower it looks smooth; so much slower it is told no more', () => {
    // The left shank is thrown by a tenth of a radian within two looks, once.
    const plain = walk('w', gait, body, 8, 0);
    const at = 0.5 * plain.duration;
    const knee = 6 + body.skeleton.names.indexOf('leftLowerLeg') * 4;
    const pose: Motion['pose'] = (t, out, o) => {
      plain.pose(t, out, o);
      const half = Math.acos(Math.min(1, Math.abs(out[o + knee + 3]!))) + 0.05 * Math.exp(-(((t - at) * 60) ** 2));
      const axis = Math.hypot(out[o + knee]!, out[o + knee + 1]!, out[o + knee + 2]!);
      for (let k = 0; k < 3; k++) out[o + knee + k] = (out[o + knee + k]! / axis) * Math.sin(half) * Math.sign(out[o + knee + 3]!);
      out[o + knee + 3] = Math.cos(half) * Math.sign(out[o + knee + 3]!);
    };
    const jerked = surveyed({ ...plain, pose });
    const [note] = words(jerked).filter((w) => /knee/.test(w));
    expect(notesOf(gait, jerked, 60, null, { rate: 24, shot: FROM_ONE }).find((n) => n.words === note)!.at).toBe(jerked.survey().worst.kneeSnap.at);
    const told = /^The left knee is jerked at (\d\.\d\d) s, frame (\d+) at 24 a second \(print (\d) [LR]\): .* played at (\d+) % of its speed it does\.$/.exec(
      note!,
    )!;
    expect(Number(told[1])).toBeCloseTo(at, 1);
    expect(Number(told[2])).toBe(Math.floor(jerked.survey().worst.kneeSnap.at * 24) + 1);
    const slower = Number(told[4]) / 100;
    expect(slower).toBeLessThan(1);
    expect(words(surveyed(retimed(jerked, slower))).filter((w) => /knee/.test(w))).toEqual([]);
    expect(words(surveyed(retimed(jerked, slower + 0.03))).filter((w) => /knee/.test(w))).toHaveLength(1);
  });

  it('of a walk that changes its gait is measured by the bars of all of them: what a run does to knees is no fault of the walk before it', () => {
    const [slow, fast] = [gait, presetFor('run', body)];
    const keys = [
      { at: 0, stretch: 0, gait: slow },
      { at: 4, stretch: 3, gait: fast },
    ];
    const changing = walk('w', slow, body, 16, 0, { gaits: { over: 'distance', keys } });
    const turned = (motion: Motion) => words({ ...motion, survey: () => ({ ...motion.survey(), kneeSnap: toRadians(25_000) }) });
    expect(turned(changing).filter((w) => /knee/.test(w))).toEqual([]);
    expect(turned(walk('w', slow, body, 6, 0)).filter((w) => /knee/.test(w))).toHaveLength(1);
  });
});
