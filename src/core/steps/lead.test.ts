import { describe, expect, it } from 'vitest';
import { buildGround } from '../ground/build';
import { levelGround, type Ground } from '../ground/ground';
import { levelSpec } from '../ground/spec';
import { seeded } from '../math/random';
import { wrapAngle } from '../math/scalar';
import { lanternWay } from '../motion/props';
import { sampleClip } from '../motion/sample';
import { cycle } from '../motion/solved';
import { createTargets, footAt, FOOT_TARGET } from '../solve/targets';
import { presetFor, reportOf, shippedBody, BODY_KEYS } from '../tests/cast';
import { meterScene } from '../tests/scenes';
import { printFaults } from './faults';
import { createLead, type Lead } from './lead';
import { planPiece, type PieceAsk } from './lead-piece';
import { ledAs, type LeadPlace, type LedStep } from './lead-step';
import { planMotion, shotOf } from './motion';
import { defaultPlan, planSpecSchema } from './plan';

const body = shippedBody('marlo');
const cast = { body, ground: levelGround, slow: presetFor('walk', body), fast: presetFor('run', body) };
/** Pieces come so late (s), as from a worker. */
const LATE_S = 0.08;
const START = { x: 0, z: 0, heading: 0 };

/** Leads someone for so many seconds, 60 pictures each; `seen` is told each of them. */
function led(place: (t: number) => LeadPlace, seconds: number, who = cast, seen: (lead: Lead, t: number) => void = () => {}): Lead {
  const asked: { ask: PieceAsk; due: number }[] = [];
  let now = 0;
  const lead = createLead(who, START, (ask) => asked.push({ ask, due: now + LATE_S }));
  for (let i = 0; i <= seconds * 60; i++) {
    now = i / 60;
    lead.lead(now, place(now));
    while (asked[0] && asked[0].due <= now) lead.take(planPiece(who, asked.shift()!.ask), now);
    seen(lead, now);
  }
  return lead;
}
const kept = (lead: Lead, slow = 'walk', fast = 'run', who = cast) => {
  const { free } = lead.walked({ slow, fast })!;
  const plan = planSpecSchema.parse({ ...defaultPlan(), gait: slow, free });
  return { free, motion: planMotion(plan, who.body, { gait: (key) => (key === slow ? who.slow : who.fast) }) };
};
/** Along a line at so many m/s, until it has gone so far. */
const along = (speed: number, far: number) => (t: number) => ({ x: 0, z: Math.min(far, speed * t) });

describe('a figure that is led', () => {
  it('stands while its lead is near, walks after a slow one, runs after a fast one, and stands where it stops', () => {
    expect(led(() => ({ x: 0.2, z: 0.2 }), 4).steps).toHaveLength(0);
    const slow = led(along(1.2, 7), 9);
    expect(slow.steps.some((s) => s.fast)).toBe(false);
    expect(slow.steps.at(-1)!.rests).toBe(true);
    expect(Math.abs(slow.steps.at(-1)!.body.z - 7)).toBeLessThan(0.3);
    // Once it has caught up it goes as fast as its lead.
    expect(slow.steps[8]!.pace).toBeCloseTo(1.2, 1);
    const fast = led(along(3.2, 20), 12);
    expect(fast.steps.filter((s) => s.fast).length).toBeGreaterThan(8);
    expect(fast.steps.at(-1)!.rests).toBe(true);
  });

  it('never takes a step back that it has decided, and never lets a foot slide', () => {
    const stood: (readonly [number, number] | null)[] = [null, null];
    const targets = createTargets();
    let slide = 0;
    let before: readonly LedStep[] = [];
    led(
      (t) => (t < 3 ? { x: 0, z: 1.4 * t } : t < 6 ? { x: -5, z: 1 } : { x: 3, z: 5 }),
      10,
      cast,
      (lead, t) => {
        expect(lead.steps.slice(0, before.length)).toEqual(before);
        before = lead.steps;
        lead.motion.targets(t, targets);
        for (const side of [0, 1] as const) {
          const f = footAt(side);
          const at = [targets[f]!, targets[f + 2]!] as const;
          const stands = targets[f + FOOT_TARGET.planted] === 1;
          const was = stood[side];
          if (stands && was) slide = Math.max(slide, Math.hypot(at[0] - was[0], at[1] - was[1]));
          stood[side] = stands ? (was ?? at) : null;
        }
      },
    );
    expect(before.length).toBeGreaterThan(10);
    expect(slide).toBeLessThan(1e-9);
  });

  it.each([
    ['to the side', { x: 8, z: 3.5 }, 2],
    ['aslant behind', { x: 6, z: 0.2 }, 2],
    ['back', { x: 0, z: -8 }, 3],
  ])('turns to a lead that jumps %s', (_, to, steps) => {
    const lead = led((t) => (t < 3 ? { x: 0, z: 1.2 * t } : to), 7);
    const first = lead.steps.findIndex((s) => s.body.heading !== 0);
    const { body: at } = lead.steps[first - 1 + steps]!;
    const bearing = Math.atan2(to.x - at.x, to.z - at.z);
    expect(Math.abs(wrapAngle(bearing - at.heading))).toBeLessThan(0.6);
    // What turns is slower meanwhile.
    expect(lead.steps[first]!.pace).toBeLessThan(lead.steps[first - 1]!.pace);
  });

  it('kept, is a walk of just these steps, without faults, as gentle as other walks; seeded leads on three bodies', () => {
    for (let seed = 1; seed <= 4; seed++) {
      const random = seeded(seed);
      const who = shippedBody(BODY_KEYS[seed % 3]!);
      const own = { body: who, ground: levelGround, slow: presetFor('walk', who), fast: presetFor('run', who) };
      let place = { x: 0, z: 0 };
      let until = 0;
      const lead = led(
        (t) => {
          if (t >= until) [place, until] = [{ x: (random() - 0.5) * 10, z: (random() - 0.5) * 10 }, t + 1 + 3 * random()];
          return place;
        },
        12,
        own,
      );
      const { free, motion } = kept(lead, 'walk', 'run', own);
      expect(free.prints.slice(0, lead.steps.length).map((p) => [p.x, p.z])).toEqual(lead.steps.map((s) => [s.x, s.z]));
      expect(printFaults(motion)).toEqual([]);
      const met = meterScene(motion, [cycle(own.slow, who), cycle(own.fast, who)]);
      expect(met.slideMm).toBeLessThan(0.05);
      expect(met.plantedSinkMm).toBeLessThan(0.1);
      expect(met.tooFarMm).toBeLessThan(0.1);
      // Start, stop and turn are in all of them.
      expect(met.times).toBeLessThan(5);
    }
  });

  it('kept and cut as a foot leaves, is measured by its own contacts', () => {
    const place = (t: number) => (t < 3 ? { x: 0, z: 9 } : t < 7 ? { x: -4, z: 9 } : { x: -4, z: 4 });
    const { motion } = kept(led(place, 10));
    for (const { leaving } of motion.footholds(1, motion.duration - 1)) {
      const shot = shotOf(motion, { ...defaultPlan().shot, from: leaving - 0.03 });
      expect(reportOf(sampleClip(shot, 24), body).slideMm.atFrames).toBeLessThan(0.05);
    }
  });

  it('goes round what stands in its way, and stops where it cannot', () => {
    const ground = (length: number): Ground =>
      buildGround(
        {
          ...levelSpec(),
          features: [{ kind: 'obstacle', id: 'post', name: 'Post', x: 0.1, z: 3, headingDeg: 0, shape: 'box', length: 0.4, breadth: length, height: 1 }],
        },
        () => null,
      );
    const round = led(() => ({ x: 0, z: 7 }), 14, { ...cast, ground: ground(0.6) });
    expect(Math.abs(round.steps.at(-1)!.body.z - 7)).toBeLessThan(0.5);
    for (const s of round.steps) expect(Math.abs(s.body.z - 3) > 0.2 || Math.abs(s.body.x - 0.1) > 0.3).toBe(true);
    const wall = led(() => ({ x: 0, z: 7 }), 10, { ...cast, ground: ground(40) });
    expect(wall.steps.at(-1)!.body.z).toBeLessThan(2.8);
  });

  it('begins anew where that is asked for, and keeps nothing where nothing was walked', () => {
    let all: readonly LedStep[] = [];
    const lead = led(along(1.2, 20), 8, cast, (who, t) => {
      if (t < 4) all = who.steps;
      else if (t === 4) who.forget();
    });
    expect(lead.steps.length).toBeGreaterThan(3);
    expect(lead.steps[0]!.z).toBeGreaterThan(all.at(-1)!.z);
    // It begins standing all the same; what counts begins in mid-stride, where the figure was then.
    const { free, motion } = kept(lead);
    const { from } = lead.walked({ slow: 'walk', fast: 'run' })!;
    expect(free.prints.length).toBeGreaterThan(lead.steps.length);
    expect(motion.footholds(0, from).filter((h) => h.landing > 0 && h.landing < from)).toHaveLength(all.filter((s) => s.lands < 4).length);
    expect(led(() => START, 1).walked({ slow: 'walk', fast: 'run' })).toBeNull();
  });

  it('carries a lantern that swings by what was walked, not by what is only expected', () => {
    const own = { ...presetFor('walk', body), carry: 'lanternLeft' as const };
    let [now, ahead, swings] = [0, 0, 0];
    let way: ((t: number, axis: 0 | 1) => number) | null = null;
    led(along(1.3, 9), 6, { ...cast, slow: own }, ({ motion }, t) => {
      now = t;
      const pose = (at: number, out: Float64Array, o: number): void => {
        ahead = Math.max(ahead, at - now);
        motion.pose(at, out, o);
      };
      way ??= lanternWay({ ...motion, pose }, own.props, 0);
      swings = Math.max(swings, Math.abs(way(t, 0)));
    });
    expect(swings).toBeGreaterThan(0.05);
    expect(ahead).toBeLessThan(0.03);
  });

  it('needs gaits that step one foot after the other', () => {
    expect([ledAs(cast.slow), ledAs(cast.fast), ledAs(presetFor('hop', body))]).toEqual(['slow', 'fast', null]);
    expect(() => createLead({ ...cast, slow: presetFor('hop', body) }, START, () => {})).toThrow(/cannot be led/);
  });
});
