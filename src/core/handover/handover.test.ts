import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { checkFile } from '../check/check';
import { EXPORT_FORMATS } from '../formats/format';
import { setTiming } from '../gait/timing';
import { defaultSet } from '../directions/spec';
import { cycleOrder, presetFor, shippedBody } from '../tests/cast';
import { build, partOf } from '../project/motion-spec';
import { setMembers } from '../directions/set';
import { planMotion } from '../steps/motion';
import { defaultPlan, type PlanSpec } from '../steps/plan';
import { makeClip, type Order } from './make-clip';
import { packing, packMotions, zipPack } from './pack';
import { handoverSpecSchema, defaultHandover } from './spec';

const body = shippedBody('marlo');

/** Orders of a set's members at 24 fps. */
const setOrders = (directions: number): (() => Order)[] => {
  const gait = presetFor('walk', body);
  const set = { ...defaultSet(), directions, gait: 'gait' };
  return setMembers(set, gait).map(
    ({ directionDeg, twin }) =>
      () =>
        build({ kind: 'member', set: 'set', directionDeg, twin }, partOf(body.spec, gait, { sets: { set } }), { rate: 24 }),
  );
};

/** A walk that sets off, bends and stops, on a belt or not. */
const bentWalk = (belt: PlanSpec['belt']): Order => {
  const asked = presetFor('walk', body);
  const knots = [
    [0, 0],
    [0, 1.5],
    [1.5, 3],
    [4, 3],
  ].map(([x, z]) => ({ x: x!, z: z!, by: 'smooth' as const }));
  const plan = { ...defaultPlan(), steps: 10, course: { ...defaultPlan().course, knots }, belt };
  return { motion: planMotion(plan, body, { gait: () => asked }), asked };
};

describe('a walk in place', () => {
  const belts: [string, PlanSpec['belt']][] = [
    ['level ground', null],
    ['a belt', { over: 'time', keys: [{ at: 0, value: -0.5, next: 'held' }] }],
  ];
  it.each(belts)('on %s tells how its floor goes and turns under it: its files are measured as those that travel', async (_, belt) => {
    const measured = async (inPlace: boolean) => packMotions([() => bentWalk(belt)], { rate: 60, inPlace, formats: EXPORT_FORMATS });
    const [travelling, still] = await Promise.all([measured(false), measured(true)]);
    for (const [i, file] of still.entries()) {
      // Nothing goes away in the file itself: the floor goes back under it instead.
      const [x, z] = file.check.floorGoesM!;
      expect(Math.hypot(x, z)).toBeGreaterThan(3);
      expect(file.check.slideMm.atFrames).toBeLessThan(0.05);
      expect(file.check.contacts.map(({ foot, from, to }) => [foot, from, to])).toEqual(
        travelling[i]!.check.contacts.map(({ foot, from, to }) => [foot, from, to]),
      );
      expect(file.check.travel.distanceM).toBeCloseTo(travelling[i]!.check.travel.distanceM, 3);
      // A BVH cannot tell it by itself: its contacts file goes with it, asked for or not.
      expect(Boolean(file.contacts)).toBe(file.name.endsWith('.bvh'));
      if (!file.contacts) continue;
      const [bare] = await checkFile(file.bytes, file.name);
      expect(bare!.slideMm.atFrames).toBeGreaterThan(20);
    }
  });
});

describe('a hand-over pack', () => {
  it('names every file once, by body, gait, direction and speed, also where names agree', async () => {
    const walk = presetFor('walk', body);
    const other = { ...walk, hips: { ...walk.hips, crouch: walk.hips.crouch + 0.01 } };
    const orders = [...setOrders(2), () => cycleOrder(other, body, 24)];
    const files = await packMotions(orders, { rate: 24, inPlace: false, formats: EXPORT_FORMATS });
    const names = files.map((f) => f.name);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toHaveLength(3 * EXPORT_FORMATS.length);
    expect(names).toContain('marlo-venn_walk_180deg_1.36mps.bvh');
    expect(names).toContain('marlo-venn_walk_0deg_1.36mps_2.glb');
    const zip = zipPack(files, body);
    expect(Buffer.from(zip).equals(Buffer.from(zipPack(files, body)))).toBe(true);
    const manifest = JSON.parse(strFromU8(unzipSync(zip)['manifest.json']!)) as { clips: Record<string, unknown>[] };
    expect(manifest.clips[0]).toMatchObject({ frames: 25, rate: 24, loop: true, directionDeg: 0, turnDeg: 0, syncPhase: 0 });
  });

  it('puts a contacts file beside a BVH where it is asked for, and measures a walk on the ground it is for', async () => {
    const walk = presetFor('walk', body);
    const stairs = { kind: 'stairs' as const, id: 's', name: 's', x: 0, z: 2, headingDeg: 0, riser: 0.15, tread: 0.32, count: 3, breadth: 2 };
    const plan = { ...defaultPlan(), steps: null, ground: { ...defaultPlan().ground, features: [stairs] }, gait: 'gait' };
    const order = () => build({ kind: 'plan', plan: 'plan' }, partOf(body.spec, walk, { plans: { plan } }), { rate: 24 });
    const files = await packMotions([order], { rate: 24, inPlace: false, formats: EXPORT_FORMATS, contacts: true });
    expect(files.map((f) => [f.name.slice(-4), f.contacts !== undefined])).toEqual([
      ['.glb', false],
      ['.bvh', true],
    ]);
    for (const { check } of files) expect(Math.max(check.slideMm.atFrames!, check.sinkMm)).toBeLessThan(0.1);
    const zip = unzipSync(zipPack(files, body));
    const beside = Object.keys(zip).find((name) => name.endsWith('.contacts.json'))!;
    expect(beside).toBe(files[1]!.name.replace('.bvh', '.contacts.json'));
    const [checked] = await checkFile(files[1]!.bytes, files[1]!.name, plan.ground, { text: strFromU8(zip[beside]!), file: beside });
    expect(checked!.contacts).toEqual(files[0]!.check.contacts);
  });

  it('does no more than it is asked for: who stops asking has stopped it', async () => {
    const work = packing(setOrders(8), { rate: 24, inPlace: false, formats: EXPORT_FORMATS });
    const told: number[] = [];
    for await (const progress of work) {
      if (progress) told.push(progress.done);
      if (told.length === 3) break;
    }
    expect(told).toEqual([0, 1, 2]);
    expect((await work.next()).done).toBe(true);
  });

  it('notes in words what was changed or cannot be reached, and nothing otherwise', () => {
    expect(makeClip(cycleOrder(presetFor('walk', body), body, 60), 60, { inPlace: false }).notes).toEqual([]);
    const long = setTiming(presetFor('walk', body), 'strideLength', 3.2);
    const notes = makeClip(cycleOrder(long, body, 24), 24, { inPlace: false }).notes;
    expect(notes.some((n) => n.kind === 'rounding' && /25\.20 frames at 24 fps; 25 frames make it/.test(n.words))).toBe(true);
    expect(notes.some((n) => n.kind === 'fault' && /out of the leg's reach/.test(n.words))).toBe(true);
  });

  it('refuses settings that are none', () => {
    for (const bad of [{ rate: 0 }, { formats: ['fbx'] }, { members: ['left'] }, { gaits: 'all' }, { version: 3 }, { inPlace: 1 }])
      expect(handoverSpecSchema.safeParse({ ...defaultHandover(), ...bad }).success).toBe(false);
  });
});
