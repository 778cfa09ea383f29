import { describe, expect, it } from 'vitest';
import { bendCourse } from '../course/bends';
import { presetFor, shippedBody } from '../tests/cast';
import { stairsGround } from '../ground/stairs';
import { constantTrack } from './along';
import { readPendulum } from './pendulum';
import { plan } from './plan';
import { plainEdit, walkProgram, type Program } from './program';

const body = shippedBody('marlo');
const planned = (key: string, count: number, first: 0 | 1 = 0, more?: Partial<Pick<Program, 'course' | 'ground' | 'amount' | 'edits'>>) =>
  plan(walkProgram(presetFor(key, body), body, count, first, more));
const landed = (key: string, count: number, first: 0 | 1 = 0) => planned(key, count, first).footholds.map((holds) => holds.filter((h) => h.landing > 0));
const T = (key: string) => presetFor(key, body).timing.strideTime;

describe('a walk reads the gait’s pattern', () => {
  it('hops: a step is one landing of both feet, and they leave together', () => {
    const [left, right] = landed('hop', 6);
    expect([left!.length, right!.length]).toEqual([6, 6]);
    left!.forEach((l, i) => {
      expect([right![i]!.landing, right![i]!.leaving, right![i]!.z]).toEqual([l.landing, l.leaving, l.z]);
      expect([l.step, right![i]!.step]).toEqual([i + 1, i + 1]);
      if (i > 0) expect(l.landing - left![i - 1]!.landing).toBeCloseTo(T('hop'), 9);
    });
    const places = left!.map((h) => h.z);
    expect(places.every((z, i) => i === 0 || z > places[i - 1]!)).toBe(true);
  });

  it('skips: every step but the last two hops once on the foot it landed on', () => {
    const [left, right] = landed('skip', 6);
    expect(left!.length + right!.length).toBe(6 + 4);
    const own = left![1]!;
    expect([left![0]!.step, own.step]).toEqual([1, 1]);
    expect(own.landingPitch).toBeLessThan(0);
    // The hop comes after the time in the air the gait asks for.
    expect(own.landing - left![0]!.leaving).toBeCloseTo(presetFor('skip', body).timing.skip * T('skip'), 9);
  });

  it('gallops: the right foot lands close after the left', () => {
    const [left, right] = landed('gallop', 6);
    for (let i = 0; i < 3; i++) expect(right![i]!.landing - left![i]!.landing).toBeCloseTo(0.28 * T('gallop'), 9);
  });

  it('limps: each side stands its own time, and the hurt one’s steps come at their own phase', () => {
    const [left, right] = landed('limp', 8);
    expect(left![1]!.leaving - left![1]!.landing).toBeCloseTo(0.7 * T('limp'), 9);
    expect(right![1]!.leaving - right![1]!.landing).toBeCloseTo(0.5 * T('limp'), 9);
    expect(right![1]!.landing - left![1]!.landing).toBeCloseTo(0.55 * T('limp'), 9);
  });

  it('closes the feet with the last step, whichever foot is first', () => {
    for (const key of ['walk', 'gallop', 'limp', 'skip', 'hop'])
      for (const first of [0, 1] as const) {
        const ends = planned(key, 5, first).footholds.map((holds) => holds[holds.length - 1]!);
        expect(ends[0]!.z).toBeCloseTo(ends[1]!.z, 9);
        for (const h of ends) expect(h.leavingPitch).toBe(0);
      }
  });
});

it('in flight nothing pushes: the body leaves the ground and comes down with the same velocity', () => {
  for (const key of ['run', 'sprint', 'hop', 'skip']) {
    const { support, travel, duration } = planned(key, 8);
    const at = (t: number) => {
      const state = new Float64Array(4);
      readPendulum(travel, Float64Array.of(t), 0, state, 0);
      return state;
    };
    expect(support.length).toBeGreaterThan(6);
    for (let i = 1; i < support.length; i++) {
      const [off, on] = [at(support[i - 1]!.to), at(support[i]!.from)];
      expect(on[3]).toBeCloseTo(off[3]!, 9);
      expect(on[1]! - off[1]!).toBeCloseTo(off[3]! * (support[i]!.from - support[i - 1]!.to), 9);
    }
    // While it stands it is pushed: it gets going and comes to rest.
    expect(at(0)[3]).toBeCloseTo(0, 9);
    expect(at(duration / 2)[3]).toBeGreaterThan(0.5);
    expect(at(duration)[3]).toBeCloseTo(0, 9);
  }
});

describe('a walk’s program', () => {
  it('follows its course: steps half the step width beside it, turned as it turns, the outer foot farther', () => {
    const radius = 2;
    const course = bendCourse([{ length: 30, curvature: 1 / radius }], 0.7);
    const gait = presetFor('walk', body);
    const { footholds, heading } = planned('walk', 20, 0, { course });
    const middle = (holds: (typeof footholds)[0]) => holds.slice(4, 8);
    const stride = (holds: (typeof footholds)[0]) => Math.hypot(holds[6]!.x - holds[5]!.x, holds[6]!.z - holds[5]!.z);
    for (const side of [0, 1] as const)
      for (const h of middle(footholds[side])) expect(Math.hypot(h.x - radius, h.z)).toBeCloseTo(radius - ((side === 0 ? 1 : -1) * gait.feet.stepWidth) / 2, 9);
    // Left turns: the right foot is the outer one. Chords of equal angles are as their radii.
    const ratio = stride(footholds[1]) / stride(footholds[0]);
    expect(ratio).toBeCloseTo((radius + gait.feet.stepWidth / 2) / (radius - gait.feet.stepWidth / 2), 9);
    const turns = [...heading.values];
    expect(turns.every((h, i) => i === 0 || h >= turns[i - 1]!)).toBe(true);
    expect(turns[turns.length - 1]).toBeGreaterThan(3);
  });

  it('takes an edit of a print along, aside and turned, and leaves the others', () => {
    const plain = planned('walk', 8);
    const edited = planned('walk', 8, 0, { edits: [{ ...plainEdit(3), along: 0.1, aside: -0.05, turn: 0.2 }] });
    const [a, b] = [plain, edited].map((p) => p.footholds.flat().sort((x, y) => x.landing - y.landing || x.side - y.side));
    a!.forEach((h, i) => {
      const e = b![i]!;
      const moved = i === 4; // two stand at first
      expect(e.z - h.z).toBeCloseTo(moved ? 0.1 : 0, 12);
      expect(e.x - h.x).toBeCloseTo(moved ? -0.05 : 0, 12);
      expect(e.heading - h.heading).toBeCloseTo(moved ? 0.2 : 0, 12);
    });
  });

  it('steps on treads: the ball on one, at most a quarter of the sole over an edge, one tread a step', () => {
    const stairs = { start: 2, riser: 0.17, tread: 0.29, count: 5, heading: 0 };
    const ground = stairsGround(stairs);
    const { sole } = body.legs[0];
    const holds = planned('walk', 12, 0, { ground }).footholds.flat();
    const onTreads = holds.filter((h) => h.y > 0.01 && h.y < 5 * 0.17 - 0.01);
    expect(onTreads.length).toBeGreaterThanOrEqual(2);
    for (const h of holds) {
      expect(h.slopeZ).toBeCloseTo(0, 9);
      expect(ground.height(h.x, h.z + sole.ballAhead)).toBeCloseTo(h.y, 9);
      const length = sole.heelBack + sole.tipAhead;
      expect(ground.height(h.x, h.z - sole.heelBack + 0.25 * length)).toBeCloseTo(h.y, 9);
      expect(ground.height(h.x, h.z + sole.tipAhead)).toBeLessThanOrEqual(h.y + 1e-9);
    }
  });

  it('swings less where its amount says so, feet where they were', () => {
    const still = planned('walk', 6, 0, { amount: constantTrack(0.2) });
    expect(still.footholds).toEqual(planned('walk', 6).footholds);
    expect(still.amount.values[0]).toBe(0.2);
  });
});

describe('a walk that slows at once', () => {
  it('stands on one foot till the other has come down, however late that is', () => {
    const key = (at: number, value: number) => ({ at, value, next: 'held' as const });
    for (const gait of ['walk', 'sneak', 'limp']) {
      const own = presetFor(gait, body);
      const { speed } = own.timing;
      const program = walkProgram(own, body, 12, 0, { pace: { over: 'distance', keys: [key(0, speed), key(2.5, 0.15 * speed)] } });
      const { footholds } = plan(program);
      const holds = footholds.flat().sort((a, b) => a.landing - b.landing);
      for (const h of holds)
        if (h.landing > 0)
          expect(
            holds.some((o) => o.side !== h.side && o.landing < h.landing && o.leaving >= h.landing - 1e-9),
            `${gait} ${h.step}`,
          ).toBe(true);
    }
  });
});
