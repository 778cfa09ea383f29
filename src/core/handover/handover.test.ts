import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { EXPORT_FORMATS } from '../formats/format';
import { setTiming } from '../gait/timing';
import { defaultSet } from '../directions/spec';
import { presetFor, shippedBody } from '../tests/cast';
import { cycleMotion, makeClip, setMotions } from './motions';
import { packMotions, zipPack } from './pack';
import { handoverSpecSchema, defaultHandover } from './spec';

const body = shippedBody('marlo');

describe('a hand-over pack', () => {
  it('names every file once, by body, gait, direction and speed, also where names agree', async () => {
    const motions = [...setMotions({ ...defaultSet(), directions: 2 }, presetFor('walk', body)), cycleMotion(presetFor('walk', body))];
    const files = (await packMotions(motions, body, { rate: 24, inPlace: false, formats: EXPORT_FORMATS }))!;
    const names = files.map((f) => f.name);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toContain('marlo-venn_walk_180deg_1.36mps.bvh');
    expect(names).toContain('marlo-venn_walk_0deg_1.36mps_2.glb');
    const zip = zipPack(files, body);
    expect(Buffer.from(zip).equals(Buffer.from(zipPack(files, body)))).toBe(true);
    const manifest = JSON.parse(strFromU8(unzipSync(zip)['manifest.json']!)) as { clips: Record<string, unknown>[] };
    expect(manifest.clips[0]).toMatchObject({ frames: 25, rate: 24, loop: true, directionDeg: 0, syncPhase: 0 });
  });

  it('stops when told to', async () => {
    const motions = setMotions(defaultSet(), presetFor('walk', body));
    expect(await packMotions(motions, body, { rate: 24, inPlace: false, formats: EXPORT_FORMATS, onProgress: (done) => done < 3 })).toBeNull();
  });

  it('notes in words what was changed or cannot be reached, and nothing otherwise', () => {
    expect(makeClip(cycleMotion(presetFor('walk', body)), body, 60, { inPlace: false }).notes).toEqual([]);
    const long = setTiming(presetFor('walk', body), 'strideLength', 3.2);
    const notes = makeClip(cycleMotion(long), body, 24, { inPlace: false }).notes;
    expect(notes.some((n) => /25\.20 frames at 24 fps; 25 frames make it/.test(n))).toBe(true);
    expect(notes.some((n) => /out of the leg's reach/.test(n))).toBe(true);
  });

  it('refuses settings that are none', () => {
    for (const bad of [{ rate: 0 }, { formats: ['fbx'] }, { directions: ['left'] }, { inPlace: 1 }])
      expect(handoverSpecSchema.safeParse({ ...defaultHandover(), ...bad }).success).toBe(false);
  });
});
