import { describe, expect, it } from 'vitest';
import type { Body } from '../body/body';
import { contactPoints, CONTACT_NUMBERS, ownFeet } from '../body/foot-model';
import { UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { PRESETS } from '../gait/presets';
import { levelGround } from '../ground/ground';
import { seeded } from '../math/random';
import { reportClip } from '../measure/report';
import type { Motion } from '../motion/motion';
import { sampleClip } from '../motion/sample';
import { cycle } from '../motion/solved';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { randomWalk } from '../tests/random-walks';
import { meterScene } from '../tests/scenes';
import { notesOf } from '../handover/notes';
import { printFaults } from './faults';
import { planMotion } from './motion';
import { defaultPlan, type PlanSpec } from './plan';
import { cannotStep } from './steppable';

const GAITS = PRESETS.map((p) => p.key);

/** Over the whole motion: hip to ankle of standing legs, hips from the standing foot (parts of the leg), and the hips' speed, m/s. */
function look({ body, duration, pose, footholds }: Motion, rate = 60) {
  const world = createWorldPose(body.skeleton);
  const q = new Float64Array(poseSize(body.skeleton));
  const p = world.positions;
  let [stretch, away, speed] = [0, 0, 0];
  const last = [NaN, NaN, NaN];
  for (let i = 0; i <= duration * rate; i++) {
    const t = i / rate;
    pose(t, q, 0);
    forwardKinematics(body.skeleton, q, 0, world);
    if (i > 0) speed = Math.max(speed, Math.hypot(p[3]! - last[0]!, p[4]! - last[1]!, p[5]! - last[2]!) * rate);
    for (let k = 0; k < 3; k++) last[k] = p[3 + k]!;
    let nearest = Infinity;
    for (const h of footholds(t, t)) {
      if (t < h.landing || t > h.leaving) continue;
      const [hip, ankle] = [UPPER_LEG[h.side] * 3, (UPPER_LEG[h.side] + 2) * 3];
      stretch = Math.max(stretch, Math.hypot(...[0, 1, 2].map((k) => p[ankle + k]! - p[hip + k]!)) / body.legLength);
      nearest = Math.min(nearest, Math.hypot(p[ankle]! - p[3]!, p[ankle + 2]! - p[5]!) / body.legLength);
    }
    if (nearest < Infinity) away = Math.max(away, nearest);
  }
  return { stretch, away, speed };
}

/** Joints of a walk that can be walked accelerate no harder than so many times their level cycle. */
const MOST_TIMES = 60;

/** Seeds of walks that once left their feet behind, came to numbers that are none, went up in the air for want of a foot, or were told a slide that was none. */
const ONCE_WRONG = [180, 708, 937, 1119, 1151, 1432, 1621, 1635];

/** A walk drawn by a seed whose knots lie anywhere. */
function wildPlan(seed: number, body: Body): PlanSpec {
  const rand = seeded(seed * 7 + 1);
  const { plan } = randomWalk(seed, GAITS, (key) => presetFor(key, body));
  const span = [1.5, 4, 12][seed % 3]!;
  const count = 2 + Math.floor(rand() * 6);
  const ways = ['smooth', 'smooth', 'straight', 'circle'] as const;
  plan.course.knots = Array.from({ length: count }, () => ({
    x: (rand() * 2 - 1) * span,
    z: (rand() * 2 - 1) * span,
    by: ways[Math.floor(rand() * 4)]!,
    ...(rand() < 0.1 ? { turnDeg: (rand() * 2 - 1) * 360 } : {}),
  }));
  return plan;
}

/** By how much (mm) the stillest point of a sole moves at most from a look to the next while its foothold lasts, at 480 looks a second: a meter of slide of its own. */
function ownSlideMm({ pose, footholds, duration, body: { skeleton } }: Motion, body: Body): number {
  const feet = ownFeet(body);
  const world = createWorldPose(skeleton);
  const q = new Float64Array(poseSize(skeleton));
  const points = [new Float64Array(CONTACT_NUMBERS), new Float64Array(CONTACT_NUMBERS)];
  let most = 0;
  for (const h of footholds(0, duration)) {
    const end = Math.min(h.leaving, duration);
    for (let i = 0, t = Math.max(0, h.landing); t <= end; i++, t += 1 / 480) {
      pose(t, q, 0);
      forwardKinematics(skeleton, q, 0, world);
      contactPoints(feet[h.side]!, world, points[i % 2]!, 0);
      if (i === 0) continue;
      const [a, b] = points as [Float64Array, Float64Array];
      most = Math.max(most, Math.min(...[0, 3, 6].map((k) => Math.hypot(a[k]! - b[k]!, a[k + 1]! - b[k + 1]!, a[k + 2]! - b[k + 2]!))));
    }
  }
  return most * 1000;
}

describe('whatever course is drawn', () => {
  const marlo = shippedBody('marlo');
  const walkOn = (knots: { x: number; z: number; by: 'smooth' | 'straight' | 'circle'; turnDeg?: number }[], gait = 'walk') =>
    planMotion({ ...defaultPlan(), gait, steps: null, course: { knots } }, marlo, { gait: (key) => presetFor(key, marlo) });

  it('a knot dragged past the next makes a corner, no cusp: the body keeps over its feet', () => {
    const knots = [
      [0, 0],
      [0.2, 1.6],
      [1.3, 3.2],
      [0.9, 9.9],
      [-0.6, 6.4],
      [0, 8.4],
    ].map(([x, z]) => ({ x: x!, z: z!, by: 'smooth' as const }));
    const { stretch, away, speed } = look(walkOn(knots));
    expect(stretch).toBeLessThanOrEqual(1.001);
    expect(away).toBeLessThan(0.8);
    expect(speed).toBeLessThan(2.5);
  });

  it(
    'drawn by a seed, any gait, body, ground and edits: standing legs reach, hips keep over them, joints and the gauge do not run away',
    { timeout: 3_600_000 },
    () => {
      const draws = Number(process.env.NIMBRET_WALKS ?? 16);
      const level = new Map<string, Motion>();
      const cycleOf = (gait: string, key: (typeof BODY_KEYS)[number]): Motion => {
        const known = level.get(`${gait} ${key}`) ?? cycle(presetFor(gait, shippedBody(key)), shippedBody(key));
        level.set(`${gait} ${key}`, known);
        return known;
      };
      const jolted: string[] = [];
      let made = 0;
      for (const seed of new Set([...Array.from({ length: draws }, (_, i) => i + 1), ...ONCE_WRONG])) {
        const key = BODY_KEYS[seed % 3]!;
        const body = shippedBody(key);
        const plan = wildPlan(seed, body);
        let motion: Motion;
        try {
          motion = planMotion(plan, body, { gait: (k) => presetFor(k, body) });
        } catch (error) {
          // What cannot be walked is refused in words.
          if (error instanceof RangeError) continue;
          throw error;
        }
        made++;
        const { stretch, away, speed } = look(motion, 30);
        expect(stretch, `seed ${seed}`).toBeLessThanOrEqual(1.001);
        expect(away, `seed ${seed}`).toBeLessThanOrEqual(0.8);
        expect(speed, `seed ${seed}`).toBeLessThan(14);
        const used = [plan.gait, ...plan.gaits.map((g) => g.gait), ...plan.edits.flatMap((e) => e.gait ?? [])];
        const standing = motion.onGround ?? motion;
        const { times, joint, at } = meterScene(
          standing,
          used.map((k) => cycleOf(k, key)),
          60,
        );
        if (times > MOST_TIMES) {
          jolted.push(`seed ${seed}: ${joint} ${times.toFixed(0)} × at ${at.toFixed(2)} s`);
          // What is so hard is said, with the amount.
          const notes = notesOf(presetFor(plan.gait, body), motion, 60);
          expect(
            notes.some((n) => / is jolted by [\d,]+ m\/s² at .* times what its gaits do on the level/.test(n.words)),
            `seed ${seed}: is said`,
          ).toBe(true);
        }
        // Cliffs are said at their prints, and nothing is promised of how a foot gets over them.
        if (printFaults(motion).some((f) => / (higher|lower) than the other foot/.test(f.words))) continue;
        const own = ownSlideMm(standing, body);
        const clip = sampleClip(standing, 60);
        const { slideMm } = reportClip(clip, ownFeet(body), body.legLength, standing.ground === levelGround ? {} : { ground: standing.ground });
        if (own < 0.05) expect(slideMm.atFrames ?? 0, `seed ${seed}: a slide is told that is none`).toBeLessThan(0.1);
      }
      expect(made).toBeGreaterThan(0.9 * draws);
      expect(jolted.length, jolted.join('; ')).toBeLessThanOrEqual(Math.max(1, 0.01 * made));
    },
  );

  it('who runs out of steps on the way to stairs or a corner does nothing of what waits there', () => {
    const stairs = { kind: 'stairs', id: 's', name: 's', x: 0, z: 9, headingDeg: 0, riser: 0.16, tread: 0.3, count: 5, breadth: 4 } as const;
    const knots = [
      { x: 0, z: 0, by: 'smooth' as const },
      { x: 0, z: 8, by: 'straight' as const, turnDeg: 120 },
      { x: 0, z: 14, by: 'straight' as const },
    ];
    for (const features of [[], [stairs]]) {
      const plan = { ...defaultPlan(), gait: 'walk', steps: 4, course: { knots } };
      const motion = planMotion({ ...plan, ground: { ...plan.ground, features } }, marlo, { gait: (key) => presetFor(key, marlo) });
      expect(cannotStep(motion)).toEqual([]);
      expect(Math.max(...motion.footholds(0, motion.duration).map((h) => h.z))).toBeLessThan(4);
    }
  });

  it('a cliff is said at the print, with its height', () => {
    const slope = { kind: 'slope', id: 's', name: 's', x: 0, z: 1.5, headingDeg: 0, length: 6, breadth: 8, angleDeg: 10 } as const;
    const knots = [
      { x: 0, z: 0, by: 'smooth' as const },
      { x: 0, z: 9, by: 'straight' as const },
      { x: 7, z: 9, by: 'straight' as const },
    ];
    const plan = { ...defaultPlan(), gait: 'walk', steps: null, course: { knots } };
    const motion = planMotion({ ...plan, ground: { ...plan.ground, features: [slope] } }, marlo, { gait: (key) => presetFor(key, marlo) });
    const cliffs = cannotStep(motion).filter((c) => / lower than the other foot; 0\.\d\d m at most/.test(c.words));
    // 6 m up at 10°, and down over its side.
    expect(cliffs.map((c) => Number(c.words.match(/[\d.]+ m lower/)![0].slice(0, 4)))).toEqual([expect.closeTo(6 * Math.tan((10 * Math.PI) / 180), 0)]);
  });

  it('a course through a post, a print out of reach and a stride in the splits are said', () => {
    const post = { kind: 'obstacle', id: 'post', name: 'post', x: 0.02, z: 2, headingDeg: 0, shape: 'disc', length: 0.12, breadth: 0.12, height: 1 } as const;
    const plan = {
      ...defaultPlan(),
      gait: 'walk',
      steps: null,
      course: {
        knots: [
          { x: 0, z: 0, by: 'smooth' as const },
          { x: 0, z: 4, by: 'straight' as const },
        ],
      },
    };
    const ground = { ...plan.ground, features: [post] };
    const gait = { gait: (key: string) => presetFor(key, marlo) };
    expect(cannotStep(planMotion(plan, marlo, gait))).toEqual([]);
    expect(cannotStep(planMotion({ ...plan, ground }, marlo, gait)).some((c) => c.words.includes('walks through what stands at'))).toBe(true);
  });
});
