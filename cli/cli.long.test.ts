import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PRESETS } from '../src/core/gait/presets';
import { gaitSpecSchema } from '../src/core/gait/schema';
import { defaultPlan } from '../src/core/steps/plan';

const nimbret = join(import.meta.dirname, '..', 'nimbret');
let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'nimbret-cli-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Runs the command in a folder that is not the project's. */
const run = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(nimbret, args, { cwd: folder }, (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
  });
interface Check {
  format: string;
  frames: number;
  unitMetres: number;
  slideMm: { atFrames: number };
  travel: { speedMps: number; directionDeg: number };
  timing: { strideLengthM: number; dutyFactor: { left: number } };
  seam: { positionM: number } | null;
  contacts: { foot: string; from: number; to: number }[];
}
const check = async (file: string): Promise<Check> => JSON.parse((await run('check', file, '--json')).out) as Check;

describe('nimbret make', () => {
  it('writes a valid GLB in which check finds what was asked for', async () => {
    const made = await run(
      'make',
      '--gait',
      'walk',
      '--set',
      'timing.speed=1.2',
      '--set',
      'timing.dutyFactor=0.65',
      '--stature',
      '1.6',
      '--fps',
      '60',
      '--out',
      'a.glb',
    );
    expect(made).toMatchObject({ code: 0, err: '' });
    const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(join(folder, 'a.glb'))));
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const found = await check('a.glb');
    expect(found.format).toBe('nimbret.check');
    // The stride time moves to whole frames: at 60 fps by less than 1 %.
    expect(Math.abs(found.travel.speedMps / 1.2 - 1)).toBeLessThan(0.02);
    expect(Math.abs(found.timing.dutyFactor.left / 0.65 - 1)).toBeLessThan(0.02);
    expect(found.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    expect(found.contacts.map((c) => c.foot)).toEqual(['left', 'right']);
  });

  it('says what speed a stride time of no whole frames makes', async () => {
    const made = await run('make', '--gait', 'walk', '--fps', '24', '--out', 'b.bvh');
    expect(made.out).toContain('25.20 frames at 24 fps; 25 frames make it 1.0417 s and the speed 1.363 m/s');
    expect((await check('b.bvh')).frames).toBe(25);
  });

  it('takes gait and body files, several cycles, and clips in place', async () => {
    writeFileSync(join(folder, 'gait.json'), JSON.stringify(PRESETS[2]!.make()));
    expect((await run('make', '--gait', 'gait.json', '--body', 'bosun', '--cycles', '2', '--in-place', '--fps', '30', '--out', 'c.glb')).code).toBe(0);
    const found = await check('c.glb');
    expect(found.contacts.length).toBe(4);
    expect(found.travel.speedMps).toBeGreaterThan(0.4);
  });

  it.each([
    [['--gait', 'walk', '--set', 'feet.lift=9', '--out', 'bad.glb'], /--set feet\.lift: 9 is outside 0 to 0\.6 m/],
    [['--gait', 'walk', '--set', 'feet.lift', '--out', 'bad.glb'], /not KEY=VALUE/],
    [['--gait', 'walk', '--out', 'bad.fbx'], /must end in \.glb or \.bvh/],
    [['--gait', 'missing.json', '--out', 'bad.glb'], /missing\.json: cannot be read \(ENOENT\)/],
    [['--gait', 'walk', '--stature', 'tall', '--out', 'bad.glb'], /--stature: "tall" must be a number from 0\.3 to 4/],
    [['--gait', 'walk', '--fps', '0', '--out', 'bad.glb'], /--fps/],
    [['--out', 'bad.glb'], /--gait is needed/],
    [['--gait', 'walk', '--wings', '--out', 'bad.glb'], /--wings/],
    [['--gait', 'walk', '--out', join('no', 'such', 'folder', 'bad.glb')], /cannot be written \(its folder does not exist\)/],
  ])('answers bad input with status 2, a line on standard error and no file: %j', async (args, message) => {
    const result = await run('make', ...args);
    expect(result.code).toBe(2);
    expect(result.err).toMatch(message);
    expect(readdirSync(folder).some((f) => f.includes('bad'))).toBe(false);
  });
});

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

describe('nimbret on a bad day', () => {
  const shell = (command: string) =>
    new Promise<{ code: number; out: string; err: string }>((resolve) => {
      execFile('bash', ['-c', command], { cwd: folder, env: { ...process.env, N: nimbret } }, (error, out, err) =>
        resolve({ code: error ? Number(error.code) : 0, out, err }),
      );
    });

  it('refuses parts of numbers, names from inside the language and unknown options in its own words', async () => {
    for (const [args, words] of [
      [['make', '--gait', 'walk', '--cycles', '1.5', '--out', 'x.glb'], /--cycles: "1.5" must be a whole number from 1 to 1000/],
      [['set', '--gait', 'walk', '--directions', '7.6', '--out', 'x'], /--directions: "7.6" must be a whole number/],
      [['make', '--gait', 'walk', '--body', '__proto__', '--out', 'x.glb'], /__proto__: cannot be read/],
      [['__proto__'], /unknown command "__proto__"/],
      [['make', '--gait', '__proto__', '--out', 'x.glb'], /__proto__: cannot be read/],
      [['make', '--gait', 'walk', '--set', '__proto__.x=1', '--out', 'x.glb'], /__proto__/],
      [['make', '--nonsense'], /^nimbret: --nonsense is no option of this command\n$/],
      [['make', '--out'], /^nimbret: --out: a value is needed\n$/],
    ] as const) {
      const { code, err } = await run(...args);
      expect([code, err], args.join(' ')).toEqual([2, expect.stringMatching(words)]);
    }
    expect(readdirSync(folder).filter((f) => f.startsWith('x'))).toEqual([]);
  });

  it('says when its output is full, and is quiet when its reader has had enough', async () => {
    expect(await shell('"$N" gaits --json > /dev/full')).toMatchObject({ code: 2, err: 'nimbret: the output cannot be written (the disk is full)\n' });
    expect((await shell('"$N" gaits --json | true; exit ${PIPESTATUS[0]}')).err).toBe('');
    const full = await run('make', '--gait', 'walk', '--out', '/dev/full/a.glb');
    expect([full.code, full.err]).toEqual([
      2,
      'nimbret: /dev/full/a.glb: cannot be written (a file stands where a folder should be); nothing was left behind\n',
    ]);
  });

  it('leaves nothing behind when a set is broken off, and never a folder without its manifest', async () => {
    const broken = await shell('"$N" set --gait walk --directions 32 --twins --fps 240 --out cutoff & sleep 4; kill -TERM $!; wait $!');
    expect([broken.code, broken.err]).toEqual([143, 'nimbret: interrupted; nothing was left behind\n']);
    expect(readdirSync(folder).filter((f) => f.startsWith('cutoff'))).toEqual([]);
    expect((await run('set', '--gait', 'walk', '--directions', '4', '--fps', '12', '--out', 'kept')).code).toBe(0);
    expect((await run('set', '--gait', 'walk', '--directions', '2', '--fps', '12', '--out', 'kept')).code).toBe(0);
    const names = readdirSync(join(folder, 'kept'));
    expect(names).toContain('manifest.json');
    const manifest = JSON.parse(readFileSync(join(folder, 'kept', 'manifest.json'), 'utf8')) as { clips: { file: string }[] };
    for (const { file } of manifest.clips) expect(names).toContain(file);
    expect(readdirSync(folder).filter((f) => f.includes('.part'))).toEqual([]);
  });
});
