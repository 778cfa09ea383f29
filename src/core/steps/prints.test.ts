import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import type { Foothold, Motion } from '../motion/motion';
import { presetFor, shippedBody } from '../tests/cast';
import { meterScene } from '../tests/scenes';
import { addPrint, copyPrints, holdPrint, mirrorPrints, movePrint, pastePrints, removePrint, resetPrints } from './edit-prints';
import { printFaults } from './faults';
import { freed } from './free';
import { planMotion, shotOf } from './motion';
import { defaultPlan, planSpecSchema, type PlanSpec } from './plan';
import { plainPrintEdit, type PrintEditSpec } from './print-spec';
import { cannotStep } from './steppable';

const body = shippedBody('marlo');
const gaitOf = (key: string) => presetFor(key, body);
const walked = (plan: PlanSpec): Motion => planMotion(planSpecSchema.parse(plan), body, { gait: gaitOf });
const bent: PlanSpec = {
  ...defaultPlan(),
  steps: null,
  course: {
    knots: [
      { x: 0, z: 0, by: 'smooth' },
      { x: 0, z: 5, by: 'straight' },
      { x: -3, z: 8, by: 'smooth' },
    ],
  },
};
const edited = (...edits: (Partial<PrintEditSpec> & { step: number })[]): PlanSpec => ({
  ...bent,
  edits: edits.map((e) => ({ ...plainPrintEdit(e.step), ...e })),
});
const holdsOf = (m: Motion): readonly Foothold[] => m.footholds(0, m.duration);
const stepOf = (m: Motion, step: number): Foothold => holdsOf(m).find((h) => h.step === step)!;
const landings = (m: Motion) => holdsOf(m).map((h) => h.landing);
const apart = (a: Foothold, b: Foothold) => Math.hypot(a.x - b.x, a.z - b.z);
/** What a change of the prints costs: against the level cycles of all gaits in it. */
const meter = (plan: PlanSpec) => {
  const m = walked(plan);
  return meterScene(
    m,
    [plan.gait, ...plan.edits.flatMap((e) => e.gait ?? [])].map((k) => cycle(gaitOf(k), body)),
  );
};
const draft = (): PlanSpec => structuredClone(bent);

describe('a print made later', () => {
  const plain = walked(bent);
  it('lands later by just that, on the same place, its neighbours sharing it, the ends unmoved', () => {
    const m = walked(edited({ step: 6, later: 0.2 }));
    const by = landings(m).map((t, i) => t - landings(plain)[i]!);
    const k = holdsOf(m).findIndex((h) => h.step === 6);
    expect(by[k]).toBeCloseTo(0.2, 9);
    for (let i = k - 4; i < k; i++) expect(by[i + 1]! - by[i]!).toBeCloseTo(0.05, 9);
    expect(by.at(-1)).toBeCloseTo(0, 9);
    expect(Math.max(...holdsOf(m).map((h, i) => apart(h, holdsOf(plain)[i]!)))).toBeLessThan(1e-9);
  });

  it('or stood on longer, moves all that follows; both feet stay on the ground meanwhile', () => {
    const m = walked(edited({ step: 6, longer: 0.5 }));
    const by = landings(m).map((t, i) => t - landings(plain)[i]!);
    const k = holdsOf(m).findIndex((h) => h.step === 6);
    expect(by.map((d) => Number(d.toFixed(9)))).toEqual(by.map((_, i) => (i > k ? 0.5 : 0)));
    const other = stepOf(m, 5);
    expect(other.leaving - stepOf(m, 6).landing).toBeCloseTo(0.5 + stepOf(plain, 5).leaving - stepOf(plain, 6).landing, 9);
  });

  it('or taken at another tempo, takes so many times as long', () => {
    const m = walked(edited({ step: 6, tempo: 1.5 }));
    const time = (w: Motion) => stepOf(w, 6).landing - stepOf(w, 5).landing;
    expect(time(m) / time(plain)).toBeCloseTo(1.5, 9);
  });
});

describe('a mark to hit', () => {
  const at = { x: 0.25, z: 3.95, headingDeg: 12, time: 4.1 };
  it('is hit: place, heading and time, to a micrometre and a microsecond, whatever the course does', () => {
    for (const course of [bent.course, { knots: [bent.course.knots[0]!, { x: 0.4, z: 6, by: 'smooth' as const }] }]) {
      const h = stepOf(walked({ ...edited({ step: 6, held: at }), course }), 6);
      expect(Math.hypot(h.x - at.x, h.z - at.z)).toBeLessThan(1e-6);
      expect((h.heading * 180) / Math.PI).toBeCloseTo(12, 6);
      expect(h.landing).toBeCloseTo(4.1, 6);
    }
  });

  it('two of them, too; the neighbours share the change, none of them stutters', () => {
    const plan = edited(
      { step: 5, held: { x: 0.05, z: 3.2, headingDeg: null, time: 3.6 } },
      { step: 8, held: { x: -0.2, z: 5.4, headingDeg: null, time: 5.4 } },
    );
    const m = walked(plan);
    expect(stepOf(m, 5).landing).toBeCloseTo(3.6, 6);
    expect(stepOf(m, 8).landing).toBeCloseTo(5.4, 6);
    const way = (w: Motion, k: number) => apart(stepOf(w, k), stepOf(w, k - 1));
    for (const k of [4, 5, 6, 7, 8, 9]) expect(Math.abs(way(m, k) - way(walked(bent), k))).toBeLessThan(0.16);
  });

  it('is told where it cannot be stepped to or is missed', () => {
    expect(
      printFaults(walked(edited({ step: 6, held: { ...at, z: 6 } })))
        .map((f) => f.words)
        .join(),
    ).toMatch(/mm too far to reach/);
    const early = edited({ step: 6, held: { ...at, time: 0.5 } });
    const words = printFaults(walked(early)).map((f) => f.words);
    const [missed] = words.flatMap((w) => /^lands \d+ ms after its mark; (\d+\.\d\d) s would do$/.exec(w) ?? []).slice(-1);
    // On the gauge and the command line alike; also of a shot of it, by the shot's own time. It can be stepped.
    const told = cannotStep(walked(early)).filter((f) => /its mark/.test(f.words));
    expect(told.map((f) => [f.step, f.cannot])).toEqual([[6, false]]);
    const shot = shotOf(walked(early), { firstFrame: 1, from: 0.25, to: null });
    expect(cannotStep(shot).find((f) => /its mark/.test(f.words))!.at).toBeCloseTo(told[0]!.at! - 0.25, 9);
    // What is said to do does.
    const kept = edited({ step: 6, held: { ...at, time: Number(missed) } });
    expect(printFaults(walked(kept))).toEqual([]);
  });

  it('without footing is told the nearest place that has some, and a print moved there stands', () => {
    const post = { kind: 'obstacle' as const, id: 'p', name: 'p', x: 0.1, z: 3.4, headingDeg: 0, shape: 'box' as const, length: 0.3, breadth: 0.3, height: 1 };
    const onto = (x: number, z: number) => {
      const plan = { ...edited({ step: 6, held: { x, z, headingDeg: 0, time: null } }), ground: { ...bent.ground, features: [post] } };
      return printFaults(walked(plan)).filter((f) => f.step === 6 && /footing|flat/.test(f.words));
    };
    const [fault] = onto(0.1, 3.4);
    const told = /^no footing here; (?:(\d+) mm (ahead|back))?(?: and )?(?:(\d+) mm (left|right))? would do$/.exec(fault!.words)!;
    const way = (mm: string | undefined, sign: number) => (Number(mm ?? 0) * sign) / 1000;
    expect(onto(0.1 + way(told[3], told[4] === 'left' ? 1 : -1), 3.4 + way(told[1], told[2] === 'ahead' ? 1 : -1))).toEqual([]);
  });
});

describe('prints put in and left out', () => {
  it('make one step more or one less to the same end, the steps around sharing the way; taken back, the walk is as it was', () => {
    const plain = walked(bent);
    const [more, less] = [draft(), draft()];
    addPrint(more, 6);
    removePrint(less, 6);
    const count = (m: Motion) => Math.max(...holdsOf(m).map((h) => h.step));
    expect([count(walked(more)), count(walked(less))]).toEqual([count(plain) + 1, count(plain) - 1]);
    for (const plan of [more, less]) expect(apart(holdsOf(walked(plan)).at(-1)!, holdsOf(plain).at(-1)!)).toBeLessThan(0.2);
    for (const plan of [more, less]) {
      resetPrints(plan, [6]);
      expect(plan).toEqual(bent);
    }
    const counted = { ...draft(), steps: 9 };
    addPrint(counted, 3);
    expect([counted.steps, count(walked(counted))]).toEqual([10, 10]);
    removePrint(counted, 3);
    expect(counted).toMatchObject({ steps: 9, edits: [] });
  });

  it('take the changes of later prints along', () => {
    const plan = edited({ step: 8, aside: 0.1 });
    addPrint(plan, 6);
    expect(plan.edits.find((e) => e.aside === 0.1)!.step).toBe(9);
    removePrint(plan, 2);
    expect(plan.edits.find((e) => e.aside === 0.1)!.step).toBe(8);
  });
});

describe('a gait of its own', () => {
  it('is taken for one step, the ones beside it half; another way of landing is refused in words', () => {
    const m = walked(edited({ step: 6, gait: 'run' }));
    const flies = (k: number) => stepOf(m, k + 1).landing > stepOf(m, k).leaving;
    expect([3, 6, 9].map((k) => flies(k) || flies(k - 1))).toEqual([false, true, false]);
    expect(() => walked(edited({ step: 6, gait: 'hop' }))).toThrow(/step 6 cannot be of Hop/);
  });
});

describe('prints freed from the course', () => {
  it('are walked as they lie, to the same feet at the same times; the course is theirs then', () => {
    // A turn of two steps is the shortest stretch there is.
    const corner = { knots: [bent.course.knots[0]!, { x: 0, z: 3, by: 'straight' as const, turnDeg: 40 }, { x: -2, z: 5, by: 'straight' as const }] };
    for (const plan of [bent, { ...bent, gait: 'jog' }, { ...bent, halts: [{ at: 3, rest: 1 }] }, { ...bent, course: corner }]) {
      const m = walked(plan);
      const elsewhere = { knots: [bent.course.knots[0]!, { x: 4, z: 1, by: 'straight' as const }] };
      const f = walked({ ...plan, free: freed(m), course: elsewhere });
      expect(holdsOf(f)).toHaveLength(holdsOf(m).length);
      holdsOf(m).forEach((h, i) => {
        const o = holdsOf(f)[i]!;
        expect([o.side, o.step, o.rests]).toEqual([h.side, h.step, h.rests]);
        expect(apart(h, o)).toBeLessThan(1e-9);
        expect(o.landing).toBeCloseTo(h.landing, 9);
      });
      const report = meterScene(f, [cycle(gaitOf(plan.gait), body)]);
      expect(report.slideMm).toBeLessThanOrEqual(0.05);
      expect(report.plantedSinkMm).toBeLessThanOrEqual(0.1);
      expect(report.times).toBeLessThanOrEqual(plan.halts.length > 0 || plan.course === corner ? 5 : 3);
    }
  });

  it('are moved over the ground; a foot that stands is refused a second landing', () => {
    const free = { ...bent, free: freed(walked(bent)) };
    const moved = structuredClone(free);
    movePrint(moved, free, 4, { x: 0.05, z: 0.1, turnDeg: 5 }, 0);
    const [a, b] = [stepOf(walked(free), 4), stepOf(walked(moved), 4)];
    expect([b.x - a.x, b.z - a.z]).toEqual([expect.closeTo(0.05, 9), expect.closeTo(0.1, 9)]);
    moved.free!.prints[4]!.foot = moved.free!.prints[3]!.foot;
    expect(() => walked(moved)).toThrow(/step 5 lands the foot that stands/);
  });
});

describe('what is done to prints', () => {
  it('moves them in the frame of the course, held ones over the ground', () => {
    const plan = draft();
    movePrint(plan, bent, 3, { x: 0.1, z: 0, turnDeg: 4 }, Math.PI / 2);
    expect(plan.edits[0]).toMatchObject({ along: expect.closeTo(0.1, 9), aside: expect.closeTo(0, 9), turnDeg: 4 });
    holdPrint(plan, stepOf(walked(plan), 3));
    const before = structuredClone(plan);
    movePrint(plan, before, 3, { x: 0, z: 0.2, turnDeg: 0 }, 1);
    expect(plan.edits[0]!.held!.z - before.edits[0]!.held!.z).toBeCloseTo(0.2, 9);
    expect(plan.edits[0]!.along).toBe(before.edits[0]!.along);
  });

  it('is copied and put elsewhere, without what is of its place', () => {
    const plan = edited({ step: 4, aside: 0.1, gait: 'run', held: { x: 0, z: 0, headingDeg: 0, time: 1 } }, { step: 5, later: 0.1 });
    const other = draft();
    pastePrints(other, copyPrints(plan, [5, 4]), 7, (g) => g !== 'run');
    expect(other.edits).toEqual([
      { ...plainPrintEdit(7), aside: 0.1 },
      { ...plainPrintEdit(8), later: 0.1 },
    ]);
    mirrorPrints(other, [7]);
    expect(other.edits[0]!.aside).toBe(-0.1);
  });
});

describe('changed prints', () => {
  it.each([
    ['later', { later: 0.2 }],
    ['earlier', { later: -0.2 }],
    ['longer', { longer: 0.3 }],
    ['slower', { tempo: 1.6 }],
    ['added', { added: true }],
    ['left out', { leftOut: 1 }],
    ['of a run', { gait: 'run' }],
    ['held', { held: { x: 0.2, z: 3.9, headingDeg: 0, time: 4 } }],
  ] as const)('%s: feet hold, nothing jolts', (_, more) => {
    const { slideMm, plantedSinkMm, swingSinkMm, times } = meter(edited({ step: 6, ...more }));
    expect(slideMm).toBeLessThanOrEqual(0.05);
    expect(Math.max(plantedSinkMm, swingSinkMm)).toBeLessThanOrEqual(0.1);
    expect(times).toBeLessThanOrEqual(3);
  });
});
