import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import validator from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { PRESETS } from '../src/core/gait/presets';
import { commandLine } from './tests/command-line';

const { folder, run, shell, check } = commandLine();

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

describe('nimbret on a bad day', () => {
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
