import { describe, expect, it } from 'vitest';
import { buildCourse } from '../course/build';
import type { CourseKnot } from '../course/spec';
import { buildGround } from '../ground/build';
import type { GroundFeature } from '../ground/spec';
import { presetFor, shippedBody } from '../tests/cast';
import { layWalk } from './layout';
import { plan } from './plan';
import { walkProgram, type WalkMore } from './program';

const body = shippedBody('marlo');
const gait = (key: string) => presetFor(key, body);
const knot = (x: number, z: number, by: CourseKnot['by'] = 'straight', turnDeg?: number): CourseKnot => ({ x, z, by, ...(turnDeg ? { turnDeg } : {}) });
const course = (...knots: CourseKnot[]) => buildCourse({ knots }, 0.7);
const program = (key: string, more: WalkMore, count: number | null = null, first: 0 | 1 = 0) => walkProgram(gait(key), body, count, first, more);
const laid = (key: string, more: WalkMore, count: number | null = null) => layWalk(program(key, more, count), 1);
const lengths = (steps: readonly { s: number }[]) => steps.slice(1).map((k, i) => k.s - steps[i]!.s);
const at = (x: number, z: number) => ({ id: 'f', name: 'f', x, z, headingDeg: 0 });
const ground = (...features: GroundFeature[]) => buildGround({ format: 'nimbret.ground', version: 1, features });

describe('a walk laid out', () => {
  it.each(['walk', 'run', 'sneak', 'limp', 'hop', 'skip'])('%s: ends where its course ends, the last steps sharing what is left over', (key) => {
    for (const far of [7, 7.3, 7.6, 8.1]) {
      const { stretches } = laid(key, { course: course(knot(0, 0), knot(0, far)) });
      expect(stretches).toHaveLength(1);
      const { steps } = stretches[0]!;
      expect(steps.at(-1)!.s).toBeCloseTo(far, 6);
      expect(steps.at(-1)!.rests).toBe(true);
      // Nobody stutters: no step of the middle is much longer than a full one, none is nothing.
      const moving = steps.filter((k) => k.share > 0);
      for (const k of moving) expect(k.share).toBeLessThan(1.25);
      for (const k of moving) expect(k.share).toBeGreaterThan(0.2);
    }
  });

  it('rests where it is told, for so long, and sets off again with the other foot', () => {
    const { stretches } = laid('walk', { course: course(knot(0, 0), knot(0, 9)), halts: [{ at: 4, rest: 2 }] });
    expect(stretches).toHaveLength(2);
    const [before, after] = stretches.map((s) => s.steps);
    expect(before!.at(-1)!.s).toBeCloseTo(4, 6);
    expect(after!.at(-1)!.s).toBeCloseTo(9, 6);
    expect(stretches[1]!.from - before!.at(-1)!.landing).toBeCloseTo(2, 9);
    expect(after!.map((k) => k.number)[0]).toBe(before!.length + 1);
  });

  it('takes half the pace with shorter and slower steps alike, or as the share says', () => {
    const v = gait('walk').timing.speed;
    const at = (share: number) => {
      const { steps } = laid('walk', {
        course: course(knot(0, 0), knot(0, 12)),
        pace: { over: 'time', keys: [{ at: 0, value: v / 2, next: 'held' }] },
        lengthShare: share,
      }).stretches[0]!;
      const k = Math.floor(steps.length / 2);
      return { length: lengths(steps)[k]!, time: steps[k + 1]!.landing - steps[k]!.landing };
    };
    const full = { length: gait('walk').timing.strideLength / 2, time: gait('walk').timing.strideTime / 2 };
    expect(at(0.5).length / full.length).toBeCloseTo(Math.SQRT1_2, 2);
    expect(at(0.5).time / full.time).toBeCloseTo(Math.SQRT2, 6);
    expect(at(1).length / full.length).toBeCloseTo(0.5, 2);
    expect(at(1).time / full.time).toBeCloseTo(1, 6);
    expect(at(0).length / full.length).toBeCloseTo(1, 2);
  });

  it('comes to rest where the pace goes to 0 and goes on when it comes back', () => {
    const v = gait('walk').timing.speed;
    const key = (at: number, value: number) => ({ at, value, next: 'linear' as const });
    const { stretches } = laid('walk', {
      course: course(knot(0, 0), knot(0, 14)),
      pace: { over: 'time', keys: [key(0, v), key(4, v), key(5.5, 0), key(8, 0), key(9, v)] },
    });
    expect(stretches.length).toBe(2);
    expect(stretches[0]!.steps.at(-1)!.landing).toBeLessThan(7);
    expect(stretches[1]!.from).toBeGreaterThan(8);
    expect(stretches[1]!.steps.at(-1)!.s).toBeCloseTo(14, 6);
  });

  it('is where a track of places has it, when', () => {
    const key = (at: number, value: number) => ({ at, value, next: 'linear' as const });
    const { steps } = laid('walk', { course: course(knot(0, 0), knot(0, 12)), place: { over: 'time', keys: [key(1, 0), key(6, 5), key(8, 5), key(14, 12)] } })
      .stretches[0]!;
    const where = (t: number) => steps.filter((k) => k.landing <= t).at(-1)!.s;
    expect(where(6.5)).toBeGreaterThan(4);
    expect(where(7.5)).toBeLessThan(5.8);
    const all = laid('walk', {
      course: course(knot(0, 0), knot(0, 12)),
      place: { over: 'time', keys: [key(1, 0), key(6, 5), key(8, 5), key(14, 12)] },
    }).stretches;
    expect(all.length).toBe(2);
    expect(all[1]!.steps.at(-1)!.s).toBeCloseTo(12, 6);
  });

  it('goes over from one gait into another step by step', () => {
    const { stretches, gaits } = laid('walk', {
      course: course(knot(0, 0), knot(0, 20)),
      gaits: {
        over: 'distance',
        keys: [
          { at: 0, stretch: 0, gait: gait('walk') },
          { at: 6, stretch: 3, gait: gait('run') },
        ],
      },
    });
    const { steps } = stretches[0]!;
    expect(steps.find((k) => k.s < 5.3)!.gait).toBe(gaits.all[0]);
    expect(steps.filter((k) => k.s > 10 && !k.rests).every((k) => k.gait === gaits.all[1])).toBe(true);
    const between = steps.filter((k) => k.mix.part > 0);
    expect(between.length).toBeGreaterThanOrEqual(2);
    const parts = between.map((k) => k.mix.part);
    expect([...parts].sort((a, b) => a - b)).toEqual(parts);
    const speeds = steps.map((k) => k.pace);
    expect(Math.max(...speeds)).toBeCloseTo(gait('run').timing.speed, 6);
  });

  it('turns on the spot the inner foot first, no foot by more than 45°, and does not go anywhere', () => {
    for (const angle of [90, -90, 180, 360]) {
      const schedule = plan(program('walk', { course: course(knot(0, 0), knot(0, 4, 'straight', angle)) }));
      const turning = schedule.footholds
        .flat()
        .filter((h) => h.landing > 0 && h.step > 6)
        .sort((a, b) => a.landing - b.landing);
      const turned = turning.filter((h) => Math.abs(h.heading) > 0.2);
      expect(turned[0]!.side).toBe(angle > 0 ? 0 : 1);
      for (const side of [0, 1] as const) {
        const own = schedule.footholds[side];
        own.slice(1).forEach((h, i) => expect(Math.abs(h.heading - own[i]!.heading)).toBeLessThanOrEqual((62 * Math.PI) / 180));
      }
      for (const h of turned) expect(Math.hypot(h.x, h.z - 4)).toBeLessThan(0.2);
      expect(schedule.heading.values.at(-1)! * (180 / Math.PI)).toBeCloseTo(angle, 6);
    }
  });

  it('slows for a bend that asks for more than half of what gravity holds, in time', () => {
    const tight = course(knot(0, 0), knot(0, 6), knot(1, 6, 'circle'), knot(1, 0));
    const { stretches, slowed } = laid('run', { course: tight });
    const bend = stretches[0]!.steps.filter((k) => k.s > 6 && k.s < 7.5);
    for (const k of bend) expect(k.pace).toBeLessThanOrEqual(Math.sqrt((9.81 * 0.5) / 2) + 1e-9);
    expect(slowed).toBeGreaterThan(1);
    expect(Math.max(...stretches[0]!.steps.map((k) => k.pace))).toBeGreaterThan(2);
  });

  it('steps on every tread once, the ball on it, and on stones in their middle', () => {
    const stairs: GroundFeature = { kind: 'stairs', ...at(0, 3), riser: 0.17, tread: 0.29, count: 8, breadth: 3 };
    for (const riser of [0.17, -0.17]) {
      const land = ground({ ...stairs, riser });
      const holds = plan(program('walk', { course: course(knot(0, 0), knot(0, 8)), ground: land }))
        .footholds.flat()
        .sort((a, b) => a.landing - b.landing);
      const treads = holds.filter((h) => h.landing > 0).map((h) => Math.round(h.y / riser));
      for (let t = 1; t < 8; t++) expect(treads.filter((k) => k === t)).toHaveLength(1);
      for (const h of holds) {
        expect(land.height(h.x, h.z + body.sole.ballAhead * Math.cos(h.heading))).toBeCloseTo(h.y, 9);
        // At most a quarter of the sole hangs over an edge.
        expect(land.height(h.x, h.z - body.sole.heelBack + 0.26 * (body.sole.heelBack + body.sole.tipAhead))).toBeCloseTo(h.y, 9);
      }
    }
    const stones = Array.from({ length: 6 }, (_, i) => ({ x: i % 2 ? 0.07 : -0.05, z: 0.5 + 0.65 * i, radius: 0.22, height: 0.02 * i }));
    const land = ground({ kind: 'stones', ...at(0, 2.5), length: 4.3, breadth: 3, depth: 0.3, stones });
    const holds = plan(program('walk', { course: course(knot(0, 0), knot(0, 9)), ground: land }))
      .footholds.flat()
      .filter((h) => h.landing > 0);
    for (const h of holds) expect(land.footing(h.x, h.z)).toBe(true);
    for (const s of stones) {
      const on = holds.find((h) => Math.abs(h.y - s.height) < 1e-6 && Math.abs(h.x - s.x) < 1e-6 && h.z > 2.5 && h.z < 7)!;
      expect(on.z + (body.sole.tipAhead - body.sole.heelBack) / 2).toBeCloseTo(2.5 + s.z, 6);
    }
  });

  it('says which stones lie too far apart', () => {
    const land = ground({
      kind: 'stones',
      ...at(0, 2),
      length: 5,
      breadth: 3,
      depth: 0.3,
      stones: [0.4, 1.1, 2.6, 3.3].map((z) => ({ x: 0, z, radius: 0.25, height: 0 })),
    });
    expect(laid('walk', { course: course(knot(0, 0), knot(0, 9)), ground: land }).farMarks).toHaveLength(1);
  });

  it('shortens steps on a slope, up more than down', () => {
    const slope = (angleDeg: number) => ground({ kind: 'slope', ...at(0, 0), length: 900, breadth: 900, angleDeg });
    const middle = (angle: number) => {
      const { steps } = laid('walk', { course: course(knot(0, 0), knot(0, 14)), ground: slope(angle) }).stretches[0]!;
      return lengths(steps)[Math.floor(steps.length / 2)]!;
    };
    const full = gait('walk').timing.strideLength / 2;
    expect(middle(2)).toBeCloseTo(full, 1);
    expect(middle(15)).toBeLessThan(0.86 * full);
    expect(middle(-15)).toBeGreaterThan(middle(15));
  });

  it.each(['hop', 'skip', 'gallop', 'sprint'])('refuses stairs to a %s in words, and lets it go anywhere else', (key) => {
    const stairs = ground({ kind: 'stairs', ...at(0, 3), riser: 0.17, tread: 0.29, count: 4, breadth: 3 });
    expect(() => laid(key, { course: course(knot(0, 0), knot(0, 9)), ground: stairs })).toThrow(/stairs and stones cannot be taken/);
    expect(laid(key, { course: course(knot(0, 0), knot(0, 9)) }).stretches).toHaveLength(1);
  });

  it('refuses what is no walk', () => {
    expect(() => laid('walk', {})).toThrow(/number of steps or a course that ends/);
    expect(() => laid('walk', { course: course(knot(0, 0), knot(0, 8)), pace: { over: 'time', keys: [{ at: 0, value: 0, next: 'held' }] } })).toThrow(
      RangeError,
    );
  });
});
