import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { defaultPlan, type PlanSpec } from '../src/core/steps/plan';
import { commandLine } from './tests/command-line';

const { folder, run, check } = commandLine();

const at = (x: number, z: number, headingDeg = 0) => ({ id: 'f', name: 'f', x, z, headingDeg });
const plan: PlanSpec = {
  ...defaultPlan(),
  name: 'Up the steps',
  steps: null,
  course: {
    knots: [
      { x: 0, z: 0, by: 'smooth' },
      { x: 0, z: 7, by: 'straight', turnDeg: 90 },
    ],
  },
  ground: { ...defaultPlan().ground, features: [{ kind: 'stairs', ...at(0, 2.5), riser: 0.16, tread: 0.3, count: 5, breadth: 2 }] },
  gaits: [{ at: 4.5, stretch: 1, gait: 'stroll' }],
};
const write = (name: string, data: unknown) => writeFileSync(join(folder, name), JSON.stringify(data));

describe('nimbret steps and check over ground', () => {
  it('writes a walk up stairs as GLB with its ground, which check takes from the file', async () => {
    write('up.json', plan);
    const made = await run('steps', '--plan', 'up.json', '--fps', '30', '--out', 'up.glb');
    expect(made.code, made.err).toBe(0);
    const found = await check('up.glb');
    expect(found.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    expect(found.sinkMm).toBeLessThanOrEqual(0.1);
    expect(found.travel.turnDeg).toBeCloseTo(90, 3);
    expect(found.travel.distanceM).toBeCloseTo(7, 2);
    const again = await run('check', 'up.glb', '--json');
    expect(again.code).toBe(0);
  });

  it('checks a BVH against the ground it is told, and finds what is wrong with another', async () => {
    write('up.json', plan);
    expect((await run('steps', '--plan', 'up.json', '--out', 'up.bvh')).code).toBe(0);
    expect((await run('check', 'up.bvh', '--ground', 'up.json')).code).toBe(0);
    const higher = { ...plan.ground, features: plan.ground.features.map((f) => ({ ...f, riser: 0.18 })) };
    write('higher.json', higher);
    const wrong = await run('check', 'up.bvh', '--ground', 'higher.json');
    expect(wrong.code).toBe(1);
    expect(wrong.err).toMatch(/sinks \d+\.\d+ mm/);
    write('bad.json', { ...plan.ground, features: [{ kind: 'hill' }] });
    const bad = await run('check', 'up.bvh', '--ground', 'bad.json');
    expect([bad.code, bad.err]).toEqual([2, expect.stringContaining('bad.json')]);
  });

  it('tells how a belt goes, and is measured on it; without it the feet go along', async () => {
    const keys = [
      { at: 0, value: 0, next: 'smooth' as const },
      { at: 2, value: -0.6, next: 'smooth' as const },
    ];
    const bend: PlanSpec['course'] = {
      knots: [
        { x: 0, z: 0, by: 'smooth' },
        { x: 1, z: 4, by: 'smooth' },
      ],
    };
    write('belt.json', { ...defaultPlan(), steps: null, course: bend, belt: { over: 'time', keys } });
    for (const out of ['belt.glb', 'belt.bvh']) expect((await run('steps', '--plan', 'belt.json', '--fps', '50', '--contacts', '--out', out)).code).toBe(0);
    const [glb, bvh] = [await check('belt.glb'), await check('belt.bvh', '--contacts', 'belt.contacts.json')];
    for (const found of [glb, bvh]) {
      expect(found.slideMm.atFrames).toBeLessThanOrEqual(0.05);
      expect(found.told).toBe(true);
    }
    expect(bvh.contacts).toEqual(glb.contacts);
    // The belt's way, from its speed alone: from 0 to −0.6 m/s along a smooth step, then on, against the course's first heading; a clip's length is rounded to whole frames.
    const seconds = (glb.frames - 1) / glb.rate;
    expect(Math.abs(Math.hypot(...glb.floorGoesM!) - 0.6 * (seconds - 1))).toBeLessThan((0.6 * 0.5) / glb.rate + 1e-4);
    expect(glb.floorGoesM![1]).toBeLessThan(0);
    // Over its floor it goes the course.
    expect(glb.travel.displacementM).toBeCloseTo(Math.hypot(1, 4), 2);
    const bare = await run('check', 'belt.bvh');
    expect(bare.code).toBe(1);
    expect(bare.err).toMatch(/slides \d{3}/);
    // What is done to such a file is done over its floor, and told so; the file that comes out lies still.
    const made = await run('travel', 'belt.glb', '--mirror', '--out', 'mirrored.glb');
    expect([made.code, made.out]).toEqual([0, expect.stringContaining('its floor moves, by up to')]);
    const mirrored = await check('mirrored.glb');
    expect(mirrored.floorGoesM).toBeUndefined();
    expect(mirrored.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    expect(mirrored.told).toBe(true);
    const other = { left: 'right', right: 'left' } as const;
    const ends = (of: typeof glb, foot: 'left' | 'right') => of.contacts.filter((c) => c.foot === foot).map((c) => [c.from, c.to]);
    for (const foot of ['left', 'right'] as const) expect(ends(mirrored, foot)).toEqual(ends(glb, other[foot]));
  });

  it('cuts a shot out of a walk, in mid-stride', async () => {
    write('shot.json', { ...plan, shot: { firstFrame: 1, from: 1, to: 3 } });
    expect((await run('steps', '--plan', 'shot.json', '--fps', '24', '--out', 'shot.bvh')).code).toBe(0);
    expect(readFileSync(join(folder, 'shot.bvh'), 'utf8')).toMatch(/Frames: 49\b/);
  });

  it('writes the prints as a table and to scale', async () => {
    write('up.json', plan);
    expect((await run('steps', '--plan', 'up.json', '--out', 'up.csv')).code).toBe(0);
    const rows = readFileSync(join(folder, 'up.csv'), 'utf8').trim().split('\r\n');
    const heights = new Set(rows.slice(1).map((r) => Number(r.split(',')[3])));
    for (let k = 0; k <= 5; k++) expect([...heights].some((h) => Math.abs(h - 0.16 * k) < 1e-6)).toBe(true);
    expect((await run('steps', '--plan', 'up.json', '--out', 'up.svg')).code).toBe(0);
    expect(readFileSync(join(folder, 'up.svg'), 'utf8')).toContain('1 : 20');
  });

  it('says what cannot be walked and what it does not know', async () => {
    write('still.json', { ...plan, pace: { over: 'time', keys: [{ at: 0, value: 0, next: 'held' }] } });
    const still = await run('steps', '--plan', 'still.json', '--out', 'no.glb');
    expect([still.code, still.err]).toEqual([2, expect.stringContaining('nothing is walked')]);
    write('who.json', { ...plan, gaits: [{ at: 1, stretch: 1, gait: 'no-such-gait' }] });
    expect((await run('steps', '--plan', 'who.json', '--out', 'no.glb')).code).toBe(2);
  });
});
