import { describe, expect, it } from 'vitest';
import type { Body } from '../body/body';
import { setMembers } from '../directions/set';
import { defaultSet } from '../directions/spec';
import { PRESETS } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { notesOf } from '../handover/notes';
import { finish } from '../math/finish';
import { measuringCrossing } from '../measure/crossing';
import { mannequinSkin } from '../measure/skin';
import type { Motion } from '../motion/motion';
import { sampleClip } from '../motion/sample';
import { cycle, walk } from '../motion/solved';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { meter } from '../tests/meters';

/** Bars for knees (°/s², for a leg of 0.845 m) and hips (m/s² upward) by style; our own, by what is seen to pop. */
const KNEES: Record<string, number> = {
  walk: 12_000,
  march: 35_000,
  plod: 35_000,
  doubleBounce: 35_000,
  bounce: 35_000,
  skip: 35_000,
  hop: 35_000,
  run: 30_000,
  jog: 30_000,
  gallop: 30_000,
  sprint: 60_000,
};
const HIPS: Record<string, number> = { march: 20, doubleBounce: 20, bounce: 20, brisk: 25, skip: 30, hop: 30, run: 30, jog: 30, gallop: 30, sprint: 40 };
/** Nothing falls faster than this, m/s²; where the whole body is thrown, hips go as limbs have it, within their bar. */
const FALL = 9.86;
const THROWN = new Set(['run', 'jog', 'sprint', 'skip', 'gallop']);
const OVERLAP_MM = 3;

/** The worst of each measure over many motions, with who has it. */
class Worst {
  private readonly found = new Map<string, { value: number; who: string }>();
  see(what: string, value: number, who: string): void {
    if (value > (this.found.get(what)?.value ?? -Infinity)) this.found.set(what, { value, who });
  }
  print(title: string): void {
    console.log(`${title}\n${[...this.found].map(([what, { value, who }]) => `  ${what.padEnd(34)} ${value.toFixed(1).padStart(8)}  ${who}`).join('\n')}`);
  }
}

/** Measures a motion and returns what is over its bars and not said in its notes. */
function unsaid(worst: Worst, kind: string, style: string, who: string, motion: Motion, gait: GaitSpec, body: Body): string[] {
  const got = meter(motion);
  const crossing = finish(measuringCrossing(sampleClip(motion, 30), mannequinSkin(body)))!;
  const notes = notesOf({ ...gait, timing: { ...gait.timing, strideTime: motion.strideTime } }, motion, 30, crossing)
    .map((n) => n.words)
    .join(' ');
  worst.see(`${kind}: knee, part of its bar`, got.snap / (KNEES[style] ?? 20_000), who);
  worst.see(`${kind}: hips up, part of their bar`, got.hips[1] / (HIPS[style] ?? 15), who);
  worst.see(`${kind}: hips down, m/s²`, -got.hips[0], who);
  worst.see(`${kind}: legs in each other, mm`, crossing.legsMm, who);
  worst.see(`${kind}: arms in the body, mm`, crossing.armsMm, who);
  const faults: string[] = [];
  const bar = (over: boolean, word: string, told: string) => {
    if (over && !notes.includes(word)) faults.push(`${who}: ${told}`);
  };
  bar(got.snap > (KNEES[style] ?? 20_000), 'knee is jerked', `knee ${got.snap.toFixed(0)} °/s²`);
  bar(got.hips[1] > (HIPS[style] ?? 15), 'jolted upward', `hips ${got.hips[1].toFixed(1)} m/s² up`);
  const falls = gait.timing.wholeBody > 0 && THROWN.has(style) ? HIPS[style]! : FALL;
  bar(-got.hips[0] > falls, 'pulled down', `hips ${got.hips[0].toFixed(1)} m/s² down`);
  bar(crossing.legsMm > OVERLAP_MM, 'Legs run', `legs ${crossing.legsMm.toFixed(1)} mm in each other`);
  bar(crossing.armsMm > OVERLAP_MM, 'An arm runs', `arms ${crossing.armsMm.toFixed(1)} mm in the body`);
  if (motion.survey().tooFar > 1e-6 && !notes.includes('reach')) faults.push(`${who}: out of reach`);
  return faults;
}

describe('what knees, hips and limbs are put through, at 240 looks a second', () => {
  it.each(BODY_KEYS)('%s: every style as a cycle, and as plans of 4, 10 and 25 steps', { timeout: 300_000 }, (key) => {
    const body = shippedBody(key);
    const worst = new Worst();
    const faults: string[] = [];
    for (const { key: style } of PRESETS) {
      const gait = presetFor(style, body);
      const round = cycle(gait, body);
      // A cycle holds its bars; nothing of it needs saying.
      const own = unsaid(worst, 'cycle', style, `${key} ${style}`, round, gait, body);
      faults.push(...own);
      expect(
        notesOf(gait, round, 60).filter((n) => n.kind === 'fault'),
        `${key} ${style}`,
      ).toEqual([]);
      for (const steps of [4, 10, 25])
        faults.push(...unsaid(worst, `plan of ${steps}`, style, `${key} ${style} × ${steps}`, walk('w', gait, body, steps, 0), gait, body));
    }
    worst.print(key);
    expect(faults).toEqual([]);
  });

  it.each(BODY_KEYS)('%s: eight directions of walk, run and sneak, with their twins and side steps', { timeout: 180_000 }, (key) => {
    const body = shippedBody(key);
    const worst = new Worst();
    const faults = ['walk', 'run', 'sneak'].flatMap((style) =>
      (['turned', 'side'] as const)
        .flatMap((stepping) => setMembers({ ...defaultSet(), twins: true, stepping }, presetFor(style, body)))
        .flatMap(({ directionDeg, twin, gait }) =>
          unsaid(worst, style, style === 'walk' ? 'other' : style, `${key} ${style} ${directionDeg}°${twin ? ' twin' : ''}`, cycle(gait, body), gait, body),
        ),
    );
    worst.print(`${key}, directions`);
    expect(faults).toEqual([]);
  });
});
