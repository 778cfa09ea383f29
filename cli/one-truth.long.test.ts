import { execFileSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { commandLine } from './tests/command-line';

interface Told {
  readonly contacts: readonly { readonly foot: string; readonly from: number; readonly to: number }[];
}
interface Travelled extends Told {
  readonly slideMm: { readonly before: number; readonly after: number };
  readonly dragged: Checked['dragged'];
}
interface Checked extends Told {
  readonly slideMm: { readonly atFrames: number };
  readonly told: boolean | null;
  readonly dragged: readonly { readonly foot: string; readonly from: number; readonly to: number; readonly mm: number }[];
}

/** Recorded people in BVH, of Debian's package assimp-testmodels. */
const recordings = execFileSync('dpkg', ['-L', 'assimp-testmodels'], { encoding: 'utf8' })
  .split('\n')
  .filter((line) => /\.bvh$/i.test(line) && !/01_nn/.test(line));

describe('travel and check tell the same of one file', () => {
  it('three recordings are there', () => expect(recordings).toHaveLength(3));

  const { run, folder } = commandLine();
  const spans = ({ contacts }: Told) => contacts.map(({ foot, from, to }) => [foot, from, to] as const);
  const json = async <T>(...args: string[]): Promise<T> => {
    const { out } = await run(...args, '--json');
    const told = JSON.parse(out) as T | T[];
    return Array.isArray(told) ? told[0]! : told;
  };
  /** Ends of both, foot by foot: the same number of contacts, no end off by more pictures than these. */
  const agree = (a: Told, b: Told, within: number) => {
    const [x, y] = [spans(a), spans(b)];
    expect(y).toHaveLength(x.length);
    x.forEach(([foot, from, to], i) => {
      expect(y[i]![0]).toBe(foot);
      expect(Math.abs(y[i]![1] - from), `${foot} ${from}`).toBeLessThanOrEqual(within);
      expect(Math.abs(y[i]![2] - to), `${foot} ${to}`).toBeLessThanOrEqual(within);
    });
  };

  it.each(recordings.map((file) => [basename(file), file] as const))('%s: as it came, locked, and on a body of ours', { timeout: 240_000 }, async (_, file) => {
    const plain = await json<Travelled>('travel', file);
    const looked = await json<Checked>('check', file);
    agree(plain, looked, 0);
    expect(Math.abs(plain.slideMm.before - looked.slideMm.atFrames)).toBeLessThan(0.01);
    expect(looked.dragged).toEqual(plain.dragged);

    const held = join(folder, 'held.bvh');
    const locked = await json<Travelled>('travel', file, '--lock', '--contacts', '--out', held);
    expect(locked.slideMm.after).toBeLessThan(0.5);
    const bare = await json<Checked>('check', held);
    agree(locked, bare, 2);
    expect(Math.abs(locked.slideMm.after - bare.slideMm.atFrames)).toBeLessThan(0.5);
    const beside = await json<Checked>('check', held, '--contacts', join(folder, 'held.contacts.json'));
    expect(beside.told).toBe(true);
    agree(locked, beside, 0);
    expect(Math.abs(locked.slideMm.after - beside.slideMm.atFrames)).toBeLessThan(0.01);

    const glb = join(folder, 'marlo.glb');
    const onMarlo = await json<Travelled>('travel', file, '--lock', '--body', 'marlo', '--out', glb);
    const read = await json<Checked>('check', glb);
    expect(read.told).toBe(true);
    agree(onMarlo, read, 0);
    expect(Math.abs(onMarlo.slideMm.after - read.slideMm.atFrames)).toBeLessThan(0.01);
    // What is dragged still is told by both, with the same way.
    for (const d of read.dragged) expect(onMarlo.dragged.some((o) => o.foot === d.foot && o.from === d.from && Math.abs(o.mm - d.mm) < 0.01)).toBe(true);
  });

  it('cycles of ours, once and three times over, as GLB and as BVH with its contacts', { timeout: 240_000 }, async () => {
    for (const [gait, cycles] of [
      ['walk', '1'],
      ['run', '3'],
      ['sneak', '1'],
    ] as const) {
      const [glb, bvh] = [join(folder, `${gait}.glb`), join(folder, `${gait}.bvh`)];
      await run('make', '--gait', gait, '--cycles', cycles, '--out', glb);
      await run('make', '--gait', gait, '--cycles', cycles, '--contacts', '--out', bvh);
      const [a, b] = [await json<Travelled>('travel', glb), await json<Checked>('check', glb)];
      agree(a, b, 0);
      expect(Math.abs(a.slideMm.before - b.slideMm.atFrames)).toBeLessThan(0.01);
      const beside = await json<Checked>('check', bvh, '--contacts', join(folder, `${gait}.contacts.json`));
      expect(beside.told).toBe(true);
      agree(b, beside, 0);
      expect(beside.slideMm.atFrames).toBeLessThan(0.05);
    }
  });

  it('contacts that a file tells are checked, not trusted', { timeout: 240_000 }, async () => {
    const bvh = join(folder, 'told.bvh'),
      contacts = join(folder, 'told.contacts.json');
    await run('make', '--gait', 'walk', '--cycles', '2', '--contacts', '--out', bvh);
    const told = JSON.parse(await readFile(contacts, 'utf8')) as { contacts: { landing: number; leaving: number }[] };
    // One that is told to have left half way through.
    const lying = told.contacts.map((c, i) => (i === 0 ? { ...c, leaving: c.landing + 0.3 * (c.leaving - c.landing), parts: undefined } : c));
    await writeFile(contacts, JSON.stringify({ ...told, contacts: lying }));
    const { out, code } = await run('check', bvh, '--contacts', contacts, '--json');
    expect(code).toBe(1);
    expect((JSON.parse(out) as Checked).told).toBe(false);
    for (const [text, words] of [
      ['{', 'not JSON'],
      ['{"format":"nimbret.contacts"}', 'version'],
      [JSON.stringify({ ...told, frames: 7 }), '7 frames'],
      [JSON.stringify({ ...told, contacts: [{ foot: 'left', landing: 'soon', leaving: 1 }] }), 'landing'],
    ] as const) {
      await writeFile(contacts, text);
      const bad = await run('check', bvh, '--contacts', contacts);
      expect(bad.code).toBe(2);
      expect(bad.err).toContain(words);
    }
  });
});
