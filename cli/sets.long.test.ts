import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PRESETS } from '../src/core/gait/presets';
import { gaitSpecSchema } from '../src/core/gait/schema';
import { defaultPlan } from '../src/core/steps/plan';
import { commandLine } from './tests/command-line';

const { folder, run, check } = commandLine();

describe('nimbret set, steps, gaits, check', () => {
  it('writes a set as a folder and as a zip with a manifest', async () => {
    expect((await run('set', '--gait', 'run', '--directions', '4', '--fps', '30', '--out', 'set')).code).toBe(0);
    const files = readdirSync(join(folder, 'set'));
    expect(files.filter((f) => f.endsWith('.glb')).length).toBe(4);
    const manifest = JSON.parse(readFileSync(join(folder, 'set', 'manifest.json'), 'utf8')) as {
      clips: { file: string; directionDeg: number; travelPerLoopM: number }[];
    };
    expect(manifest.clips.map((c) => c.directionDeg)).toEqual([0, 90, 180, -90]);
    expect(manifest.clips[0]!.travelPerLoopM).toBeCloseTo(manifest.clips[2]!.travelPerLoopM, 6);
    expect((await run('set', '--gait', 'walk', '--twins', '--format', 'bvh', '--fps', '24', '--out', 'set.zip')).code).toBe(0);
    const entries = Object.keys(unzipSync(new Uint8Array(readFileSync(join(folder, 'set.zip')))));
    expect(entries.filter((e) => e.endsWith('.bvh')).length).toBe(14);
  });

  it('walks a plan', async () => {
    writeFileSync(join(folder, 'plan.json'), JSON.stringify(defaultPlan()));
    expect((await run('steps', '--plan', 'plan.json', '--fps', '30', '--out', 'plan.glb')).code).toBe(0);
    const found = await check('plan.glb');
    expect(found.seam).toBeNull();
    expect(found.contacts.length).toBe(12);
  });

  it('lists gaits, whole ones as JSON', async () => {
    expect(
      (await run('gaits')).out
        .trim()
        .split('\n')
        .map((l) => l.split('\t')[0]),
    ).toEqual(PRESETS.map((p) => p.key));
    for (const { gait } of JSON.parse((await run('gaits', '--json')).out) as { gait: unknown }[]) expect(gaitSpecSchema.safeParse(gait).success).toBe(true);
  });

  it('sets the right side alone, what is carried, and pictures held with the closing one stored', async () => {
    const made = await run('make', '--gait', 'limp', '--set', 'right.feet.lift=5cm', '--set', 'carry=cart', '--fps', '24', '--out', 'limp.glb');
    expect(made.code, made.err).toBe(0);
    const check = JSON.parse((await run('check', 'limp.glb', '--json')).out) as { frames: number; slideMm: { atFrames: number } };
    expect(check.frames).toBe(29);
    expect(check.slideMm.atFrames).toBeLessThan(0.05);
    // 25.2 frames are 26 on twos, and the closing one.
    expect((await run('make', '--gait', 'walk', '--fps', '24', '--hold', '2', '--closing', '--out', 'twos.glb')).code).toBe(0);
    expect((JSON.parse((await run('check', 'twos.glb', '--json')).out) as { frames: number }).frames).toBe(27);
    const bad = await run('make', '--gait', 'walk', '--set', 'right.hips.crouch=1', '--set', 'carry=piano', '--set', 'head.lookCycles=2.5', '--out', 'no.glb');
    expect(bad.code).toBe(2);
    expect(bad.err.trim().split('\n')).toHaveLength(3);
  });

  it('fails a sliding file with status 1 and a broken one with status 2', async () => {
    await run('make', '--gait', 'walk', '--fps', '30', '--out', 'slide.bvh');
    const text = readFileSync(join(folder, 'slide.bvh'), 'utf8').split('\n');
    const motion = text.findIndex((l) => l.startsWith('Frame Time'));
    // A jump of 4 mm ahead in the middle of the stance.
    for (let i = motion + 9; i < text.length - 1; i++) {
      const numbers = text[i]!.split(' ');
      numbers[2] = (Number(numbers[2]) + 0.004).toFixed(6);
      text[i] = numbers.join(' ');
    }
    writeFileSync(join(folder, 'slide.bvh'), text.join('\n'));
    const slid = await run('check', 'slide.bvh');
    expect(slid.code).toBe(1);
    expect(slid.err).toMatch(/a foot slides \d+\.\d+ mm/);
    // A loop told to travel 10 mm further than its frames do: the same file but for that digit.
    await run('make', '--gait', 'walk', '--fps', '30', '--out', 'seam.glb');
    const glb = readFileSync(join(folder, 'seam.glb'));
    const at = glb.indexOf('"travel":[0,1.42');
    expect(at).toBeGreaterThan(0);
    glb.write('"travel":[0,1.43', at);
    writeFileSync(join(folder, 'seam.glb'), glb);
    const seam = await run('check', 'seam.glb');
    expect(seam.code).toBe(1);
    expect(seam.err).toMatch(/the loop jumps 10\.000 mm at its seam/);
    writeFileSync(join(folder, 'broken.bvh'), 'HIERARCHY\nROOT hips\n{');
    const broken = await run('check', 'broken.bvh');
    expect(broken.code).toBe(2);
    expect(broken.err).toMatch(/broken\.bvh: line 3: expected OFFSET/);
    expect((await run('fly')).code).toBe(2);
  });
});
