import { describe, expect, it } from 'vitest';
import { decodePlan } from '../formats/json/decode';
import { PRESETS } from '../gait/presets';
import { printsCsv, printsSvg } from '../sheet/prints';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { printFaults } from './faults';
import { planMotion } from './motion';
import { defaultPlan, planSpecSchema, type PlanSpec } from './plan';
import { plainPrintEdit } from './print-spec';

const body = shippedBody('marlo');
const motion = (more: Partial<PlanSpec> = {}) => planMotion({ ...defaultPlan(), steps: 8, ...more }, body, { gait: () => presetFor('walk', body) });

describe('a plan file', () => {
  it('of version 1 is read as the same straight walk', () => {
    const old = { format: 'nimbret.plan', version: 1, name: 'Old', steps: 7, firstFoot: 'right', gait: 'walk', lean: 0.5 };
    const plan = decodePlan(JSON.stringify(old), 'old.json');
    expect(plan).toMatchObject({ version: 2, name: 'Old', steps: 7, firstFoot: 'right', lean: 0.5, settle: 1, standing: 1 });
    expect(planSpecSchema.parse(plan)).toEqual(plan);
    const holds = planMotion(plan, body, { gait: () => presetFor('walk', body) }).footholds(0, 100);
    expect(Math.max(...holds.map((h) => h.step))).toBe(7);
    for (const h of holds) expect(Math.abs(h.x)).toBeLessThan(0.2);
  });

  it.each([
    [
      'keys out of order',
      {
        pace: {
          over: 'time',
          keys: [
            { at: 2, value: 1, next: 'held' },
            { at: 1, value: 1, next: 'held' },
          ],
        },
      },
    ],
    ['a pace below 0', { pace: { over: 'time', keys: [{ at: 0, value: -1, next: 'held' }] } }],
    ['a clock over distance', { clock: { over: 'distance', keys: [{ at: 0, value: 1, next: 'held' }] } }],
    ['one knot', { course: { knots: [{ x: 0, z: 0, by: 'smooth' }] } }],
    [
      'a place that is none',
      {
        course: {
          knots: [
            { x: 0, z: 0, by: 'smooth' },
            { x: 0, z: 1e9, by: 'smooth' },
          ],
        },
      },
    ],
    ['a halt of no time', { halts: [{ at: 1, rest: 0 }] }],
    ['a print moved out of sight', { edits: [{ ...plainPrintEdit(1), along: 9, aside: 0, turnDeg: 0 }] }],
    ['what is not known', { wind: 3 }],
  ])('with %s is refused', (_, bad) => {
    expect(() => decodePlan(JSON.stringify({ ...defaultPlan(), ...bad }), 'bad.json')).toThrow(/bad\.json/);
  });
});

describe('prints', () => {
  it.each(BODY_KEYS)('of a straight walk of any gait that is shipped can be stepped: %s', (key) => {
    const of = shippedBody(key);
    for (const { key: gait } of PRESETS) {
      const straight = planMotion({ ...defaultPlan(), steps: 8 }, of, { gait: () => presetFor(gait, of) });
      expect(
        printFaults(straight).map((f) => `${gait} ${f.step}: ${f.words}`),
        gait,
      ).toEqual([]);
    }
  });

  it('that cannot be stepped are told with the amount; plain ones are not', () => {
    expect(printFaults(motion())).toEqual([]);
    const [far] = printFaults(motion({ edits: [{ ...plainPrintEdit(4), along: 0.9, aside: 0, turnDeg: 0 }] }));
    expect(far!.step).toBe(4);
    expect(far!.words).toMatch(/^\d+ mm too far to reach; 1\.\d\d m at most$/);
    expect(
      printFaults(motion({ edits: [{ ...plainPrintEdit(4), along: 0, aside: 0, turnDeg: 80 }] }))
        .map((f) => f.words)
        .join(),
    ).toMatch(/turns \d+° against the other foot/);
    // Step 8 closes beside step 7; moved across it the feet would stand in each other.
    expect(
      printFaults(
        motion({
          edits: [
            { ...plainPrintEdit(8), along: 0, aside: 0.2, turnDeg: 0 },
            { ...plainPrintEdit(7), along: 0, aside: -0.2, turnDeg: 0 },
          ],
        }),
      )
        .map((f) => f.words)
        .join(),
    ).toMatch(/crosses|too far/);
    const pole = { kind: 'obstacle' as const, id: 'p', name: 'p', x: 0, z: 2.5, headingDeg: 0, shape: 'box' as const, length: 2.4, breadth: 2, height: 1 };
    expect(printFaults(motion({ ground: { ...defaultPlan().ground, features: [pole] } })).some((f) => f.words.startsWith('no footing here; '))).toBe(true);
  });

  it('that are asked to be faster than their gait goes say so, at the first of them, with what it goes at most', () => {
    const key = (at: number, value: number) => ({ at, value, next: 'held' as const });
    const paced = (fastest: number) => printFaults(motion({ steps: 14, pace: { over: 'distance', keys: [key(0, 1.3), key(3, fastest), key(6, 1.3)] } }));
    const [fault, ...more] = paced(5);
    expect(more).toEqual([]);
    const most = Number(/^asked to go at 5\.00 m\/s; (\d\.\d\d) m\/s at most in its gait$/.exec(fault!.words)![1]);
    expect(fault!.step).toBeGreaterThan(2);
    expect(most).toBeCloseTo(1.6 * presetFor('walk', body).timing.speed, 2);
    // What is said to do does.
    expect(paced(most)).toEqual([]);
  });

  it('of a sprint are in reach though they lie two legs apart: the body flies between them', () => {
    for (const key of BODY_KEYS) {
      const own = shippedBody(key);
      const run = planMotion({ ...defaultPlan(), gait: 'sprint', steps: 16 }, own, { gait: (g) => presetFor(g, own) });
      const holds = run.footholds(0, run.duration);
      const steps = holds.slice(1).map((h, i) => Math.hypot(h.x - holds[i]!.x, h.z - holds[i]!.z) / own.legLength);
      expect(Math.max(...steps)).toBeGreaterThan(1.6);
      expect(printFaults(run).filter((f) => /too far/.test(f.words))).toEqual([]);
    }
  });

  it('are written as a table of all there is to know', () => {
    const walked = motion();
    const rows = printsCsv(walked).trim().split('\r\n');
    expect(rows[0]).toBe('step,foot,x (m),y (m),z (m),heading (deg),lands (s),leaves (s)');
    expect(rows).toHaveLength(1 + 2 + 8);
    const [step, foot, x, , z, , lands] = rows[4]!.split(',');
    const hold = walked.footholds(0, walked.duration)[3]!;
    expect([Number(step), foot, Number(x), Number(z), Number(lands)]).toEqual([
      hold.step,
      hold.side === 0 ? 'left' : 'right',
      expect.closeTo(hold.x, 5),
      expect.closeTo(hold.z, 5),
      expect.closeTo(hold.landing, 5),
    ]);
  });

  it('are drawn to scale, 1 : 20', () => {
    const walked = motion();
    const svg = printsSvg(walked);
    const places = [...svg.matchAll(/translate\(([\d.-]+) ([\d.-]+)\)/g)].map((m) => [Number(m[1]), Number(m[2])] as const);
    const holds = walked.footholds(0, walked.duration);
    expect(places).toHaveLength(holds.length);
    // Forward is up: 1 m on the floor is 50 mm on paper.
    expect((places[0]![1] - places[6]![1]) / (holds[6]!.z - holds[0]!.z)).toBeCloseTo(50, 2);
    expect((places[0]![0] - places[1]![0]) / (holds[1]!.x - holds[0]!.x)).toBeCloseTo(50, 2);
    expect(svg).toContain('width="');
    expect(svg).toMatch(/>1 m at 1 : 20</);
  });
});
