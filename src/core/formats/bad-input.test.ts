import { describe, expect, it } from 'vitest';
import { checkFile } from '../check/check';
import { guessUnit } from './bring';
import { makeClip } from '../handover/make-clip';
import { cycleOrder, presetFor, shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import { decodeBvh } from './bvh/decode';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import { encodeClip } from './encode';
import { EXPORT_FORMATS } from './format';
import { decodeGait } from './json/decode';
import { FormatFault } from './limits';

const body = shippedBody('marlo');
const document = makeClip(cycleOrder(presetFor('walk', body), body, 30), 30, { inPlace: false }).document;
const good = encodeBvh(toBvh(document));
const bytesOf = (text: string) => new Uint8Array(Buffer.from(text));

const SMALL = `HIERARCHY
ROOT Pelvis
{
\tOFFSET 0 0 0
\tCHANNELS 6 Xposition Yposition Zposition Yrotation Xrotation Zrotation
\tEnd Site
\t{
\t\tOFFSET 0 1 0
\t}
}
MOTION
Frames: 2
Frame Time: .0333333
0 0 0 0 0 0
0 0 0 0 0 0
`;

describe('a well-formed BVH of any spelling', () => {
  it('is read: blanks in names, CRLF, tabs, several lines a frame, any case, a byte order mark', () => {
    const odd =
      '\ufeff' +
      SMALL.replace('Pelvis', 'Left Side Pelvis').replace('HIERARCHY', 'Hierarchy').replace('0 0 0 0 0 0', '1\t2 3\r\n4e0 -5 +6').replaceAll('\n', '\r\n');
    const pkg = decodeBvh(odd);
    expect(pkg.joints[0]!.name).toBe('Left Side Pelvis');
    expect([...pkg.values.subarray(0, 6)]).toEqual([1, 2, 3, 4, -5, 6]);
    expect(pkg.frameTime).toBeCloseTo(1 / 30, 5);
  });

  it.each([
    ['a count that lies', SMALL.replace('Frames: 2', 'Frames: 10000000000'), 2, [/says it has 10000000000 frames; 2 whole rows/]],
    ['none claimed', SMALL.replace('Frames: 2', 'Frames: 0'), 2, [/says it has 0 frames; 2/]],
    ['a row begun', SMALL + '1 2 3', 2, [/3 numbers at its end make no whole row/]],
    ['rows more than told', SMALL + '1 2 3 4 5 6\n', 3, [/says it has 2 frames; 3/]],
    ['labels without blanks', SMALL.replace('Frames: 2', 'Frames:2').replace('Time: ', 'Time:'), 2, []],
    ['no line break at the end', SMALL.trimEnd(), 2, []],
    ['two roots', SMALL.replace('MOTION', SMALL.slice(SMALL.indexOf('ROOT'), SMALL.indexOf('MOTION')) + 'MOTION'), 1, [/says it has 2/]],
  ])('with %s is read, and what is odd is said', (_, text, frames, oddities) => {
    const pkg = decodeBvh(text);
    expect(pkg.frames).toBe(frames);
    expect(pkg.oddities).toHaveLength(oddities.length);
    oddities.forEach((o, i) => expect(pkg.oddities![i]).toMatch(o));
  });

  it('has each number as the platform reads it', () => {
    const rand = seeded(5);
    const words = Array.from({ length: 6000 }, (_, i) => {
      const v = (rand() - 0.5) * 10 ** Math.floor(rand() * 8 - 3);
      return i % 7 === 0 ? v.toExponential(4) : i % 5 === 0 ? String(v) : v.toFixed(Math.floor(rand() * 9));
    });
    const pkg = decodeBvh(SMALL.slice(0, SMALL.indexOf('0 0 0 0 0 0')) + words.join(' \t'));
    expect([...pkg.values]).toEqual(words.map(Number));
  });

  it('comes back from its own text to the last written digit', () => {
    const pkg = decodeBvh(good);
    expect(encodeBvh(pkg)).toBe(good);
  });

  it('is measured in metres guessed from the body, whatever unit it is in', async () => {
    const pkg = decodeBvh(good);
    const cm = {
      ...pkg,
      joints: pkg.joints.map((j) => ({ ...j, offset: j.offset.map((v) => v * 100) as never, end: j.end && (j.end.map((v) => v * 100) as never) })),
      values: pkg.values.map((v, i) => (i % 69 < 3 ? v * 100 : v)),
    };
    // Another program's names, too.
    const text = encodeBvh(cm)
      .replaceAll('leftLowerLeg', 'LeftLeg')
      .replaceAll('rightLowerLeg', 'RightLeg')
      .replaceAll('leftToes', 'LeftToeBase')
      .replaceAll('rightToes', 'RightToeBase')
      .replaceAll('leftFoot', 'LeftFoot')
      .replaceAll('rightFoot', 'RightFoot');
    const [check] = await checkFile(bytesOf(text), 'other.bvh');
    expect(check!.unitMetres).toBe(0.01);
    expect(check!.legLengthM).toBeCloseTo(body.legLength, 5);
    expect(check!.slideMm.atFrames).toBeLessThan(0.05);
    expect(check!.travel.speedMps).toBeCloseTo(1.331, 2);
    expect([0.84, 8.4, 84, 840, 33].map(guessUnit)).toEqual([1, 0.1, 0.01, 0.001, 0.0254]);
  });
});

describe('a broken BVH', () => {
  const cases: [string, string, RegExp][] = [
    ['wrong first word', 'MOTION\n', /line 1: expected HIERARCHY/],
    ['empty', '', /end of the file/],
    ['cut in the hierarchy', SMALL.slice(0, 60), /line \d+/],
    ['cut in the motion', SMALL.slice(0, -14), /no whole row of 6 numbers/],
    ['NaN', SMALL.replace('0 0 0 0 0 0', '0 NaN 0 0 0 0'), /"NaN" is not a finite number/],
    ['infinite', SMALL.replace('0 0 0 0 0 0', '0 1e999 0 0 0 0'), /not a finite number/],
    ['no rows', SMALL.slice(0, SMALL.indexOf('0 0 0 0 0 0')), /no whole row/],
    ['a count that is none', SMALL.replace('Frames: 2', 'Frames: -1'), /whole number/],
    ['frame time 0', SMALL.replace('.0333333', '0'), /frame time/],
    ['unknown channel', SMALL.replace('Xposition', 'Wposition'), /"Wposition" is not a channel/],
    ['channel twice', SMALL.replace('Yposition', 'Xposition'), /stands twice/],
    ['seven channels', SMALL.replace('CHANNELS 6', 'CHANNELS 7'), /0 to 6 channels/],
    ['deep nesting', 'HIERARCHY\nROOT a\n' + '{ OFFSET 0 0 0 CHANNELS 0 JOINT b\n'.repeat(400), /deeper than 256/],
    ['a million joints', 'HIERARCHY\nROOT a\n{ OFFSET 0 0 0\n' + 'JOINT b { OFFSET 0 0 0 }\n'.repeat(1100) + '}', /more than 1024 joints/],
  ];
  it.each(cases)('%s is refused with its line', (_, text, message) => {
    expect(() => decodeBvh(text)).toThrow(FormatFault);
    expect(() => decodeBvh(text)).toThrow(message);
  });

  it('with zero-length bones or without legs is refused by the check in words', async () => {
    await expect(checkFile(bytesOf(SMALL), 'x.bvh')).rejects.toThrow(/no two legs were found/);
    await expect(checkFile(bytesOf(good.replace(/OFFSET -?0\.0\d+ -0\.42\d+ 0\.000000/g, 'OFFSET 0 0 0')), 'x.bvh')).rejects.toThrow(FormatFault);
    await expect(checkFile(Uint8Array.of(0xff, 0xfe, 0x48, 0), 'x.bvh')).rejects.toThrow(/UTF-8/);
  });

  it('cut anywhere or with bytes turned over never does more than fault', async () => {
    const rand = seeded(99);
    for (let n = 0; n < 60; n++) {
      const bytes = bytesOf(good).slice(0, Math.floor(rand() * good.length));
      for (let k = 0; k < 3; k++) bytes[Math.floor(rand() * bytes.length)] = Math.floor(rand() * 256);
      await checkFile(bytes, 'x.bvh').catch((error: unknown) => expect(error).toBeInstanceOf(FormatFault));
    }
  });
});

describe('a broken GLB', () => {
  it('is refused: wrong magic, cut short, counts that lie, bytes turned over', async () => {
    const whole = await encodeClip(EXPORT_FORMATS[0]!, document);
    const withU32 = (at: number, value: number) => {
      const copy = whole.slice();
      new DataView(copy.buffer).setUint32(at, value, true);
      return copy;
    };
    for (const [bytes, message] of [
      [bytesOf('{"asset":{}} and more text'), /wrong first bytes/],
      [whole.slice(0, 10), /too short/],
      [whole.slice(0, 5000), /header says/],
      [withU32(4, 1), /version 1/],
      [withU32(8, 4_000_000_000), /header says 4000000000/],
      [withU32(12, 4_000_000_000), /says it has 4000000000 bytes/],
    ] as const)
      await expect(checkFile(bytes, 'x.glb')).rejects.toThrow(message);
    const rand = seeded(7);
    for (let n = 0; n < 40; n++) {
      const bytes = whole.slice();
      for (let k = 0; k < 4; k++) bytes[20 + Math.floor(rand() * 4000)] = Math.floor(rand() * 256);
      await checkFile(bytes, 'x.glb').catch((error: unknown) => expect(error).toBeInstanceOf(FormatFault));
    }
  });
});

describe('a broken gait file', () => {
  it('names each fault with its path and range, one line each', () => {
    const gait = presetFor('walk', body);
    const text = JSON.stringify({ ...gait, feet: { ...gait.feet, lift: 7, clearance: null } });
    expect(() => decodeGait(text, 'g.json')).toThrow(/g\.json: feet\.lift: must be at most 0\.6\ng\.json: feet\.clearance/);
    expect(() => decodeGait('{', 'g.json')).toThrow(/g\.json: not JSON/);
    expect(decodeGait(JSON.stringify(gait), 'g.json')).toEqual(gait);
  });
});
