import { describe, expect, it } from 'vitest';
import { UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { seeded } from '../math/random';
import type { Motion } from '../motion/motion';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { randomWalk } from '../tests/random-walks';
import { printFaults } from './faults';
import { planMotion } from './motion';
import { defaultPlan } from './plan';
import { cannotStep } from './steppable';

const GAITS = ['walk', 'stroll', 'sneak', 'jog', 'march', 'limp', 'run', 'brisk'];

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

  it('drawn by a seed, on level ground, sloped and rough: standing legs reach, hips keep over them', { timeout: 300_000 }, () => {
    const draws = Number(process.env.NIMBRET_WALKS ?? 24);
    for (let seed = 1; seed <= draws; seed++) {
      const rand = seeded(seed * 7 + 1);
      const body = shippedBody(BODY_KEYS[seed % 3]!);
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
      // Stairs drawn across anyhow are the next thing to be mended (docs/limits.md).
      plan.ground.features = plan.ground.features.filter((f) => f.kind !== 'stairs');
      const motion = planMotion(plan, body, { gait: (key) => presetFor(key, body) });
      const { stretch, away, speed } = look(motion, 30);
      expect(stretch, `seed ${seed}`).toBeLessThanOrEqual(1.001);
      if (printFaults(motion).length > 0) continue;
      expect(away, `seed ${seed}`).toBeLessThan(0.8);
      expect(speed, `seed ${seed}`).toBeLessThan(14);
    }
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
