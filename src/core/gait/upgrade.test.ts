import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { decodeGait } from '../formats/json/decode';
import { cycleClip, reportOf, shippedBody } from '../tests/cast';
import { PARAMETER_LIST, type Channel } from './parameters';
import { gaitSpecSchema } from './schema';
import { upgradeGait } from './upgrade';

/** A gait file as version 1 wrote it. */
const TEXT = readFileSync(new URL('../tests/files/sneak.v1.json', import.meta.url), 'utf8');
const old = JSON.parse(TEXT) as Record<string, Record<string, unknown>>;

describe('a gait file of version 1', () => {
  it('is read as version 3 with every number it had, and with what it lacked set so that nothing changes', () => {
    const gait = decodeGait(TEXT, 'sneak.v1.json');
    expect(gait.version).toBe(3);
    for (const { group, key, parameter } of PARAMETER_LIST) {
      const now = (gait as unknown as Record<string, Record<string, unknown>>)[group]![key];
      const was = old[group]?.[key];
      // Amounts follow the stride from version 3 on: an older gait's are made for its own.
      if (key === 'homeStride') expect(now).toBe(old.timing!.strideLength);
      else if (was === undefined) expect(now, `${group}.${key}`).toEqual(parameter.before);
      else if (typeof was === 'number' && parameter.kind === 'channel') expect(now).toEqual({ offset: was, amount: 0, delay: 0 } satisfies Channel);
      else expect(now).toEqual(was);
    }
    expect(gait).toMatchObject({ carry: 'nothing', right: {}, tags: [] });
  });

  it('still holds its feet', () => {
    const body = shippedBody('marlo');
    const { clip } = cycleClip(decodeGait(TEXT, 'sneak.v1.json'), body, 30);
    expect(reportOf(clip, body).slideMm.atFrames).toBeLessThan(0.05);
  });

  it('that is broken stays broken, and what is no gait is left alone', () => {
    for (const bad of [
      { ...old, feet: 3 },
      { ...old, feet: undefined, hips: null },
      { version: 1 },
      { format: 'nimbret.gait', version: 1 },
      { ...old, version: 7 },
    ])
      expect(gaitSpecSchema.safeParse(bad).success).toBe(false);
    for (const other of [null, 3, 'x', [], { version: 3 }, { version: 1, format: 'nimbret.body' }]) expect(upgradeGait(other)).toBe(other);
  });
});
