import { describe, expect, it } from 'vitest';
import { measuredBody } from '../body/measured';
import { seeded } from '../math/random';
import { shippedBody } from '../tests/cast';
import { recording, RECORDINGS } from '../tests/recordings';
import { decodeGlb } from '../formats/gltf/bytes';
import { fromGltf } from '../formats/gltf/read';
import { encodeClip } from '../formats/encode';
import { EXPORT_FORMATS } from '../formats/format';
import { clipDocument } from '../formats/clip-info';
import { analyseClip } from './analysis';
import { edited } from './edited';
import { travelFacts } from './kinds';
import { onBody } from './on-body';
import { prepareClip } from './prepare';
import { defaultTravel, noEdits } from './spec';

/** Length of the root's track over a round, from the file's own joints, and how the way closes. */
function rootTrack(poses: Float64Array, frames: number, size: number, loop: ArrayLike<number>): number {
  let sum = 0;
  const at = (f: number, k: number) => poses[f * size + k]!;
  for (let f = 0; f + 1 < frames; f++) sum += Math.hypot(at(f + 1, 0) - at(f, 0), at(f + 1, 2) - at(f, 2));
  // From the last picture to the first of the next round, which is turned and moved on.
  const [s, c] = [Math.sin(loop[3]!), Math.cos(loop[3]!)];
  const [x, z] = [at(0, 0), at(0, 2)];
  return sum + Math.hypot(c * x + s * z + loop[0]! - at(frames - 1, 0), -s * x + c * z + loop[2]! - at(frames - 1, 2));
}

describe('the distance of a loop', () => {
  it('is the length of the root’s track in the file: 200 random loops, most of them turning', { timeout: 300_000 }, async () => {
    const rand = seeded(1919);
    const marlo = shippedBody('marlo');
    const glb = EXPORT_FORMATS.find((f) => f.id === 'glb')!;
    const found = await Promise.all([RECORDINGS.jumps, RECORDINGS.ladder].map(async (n) => analyseClip((await recording(n)).brought.figure)));
    let turning = 0;
    for (let n = 0; n < 200;) {
      const whole = found[n % 2]!;
      const { frames } = whole.figure.clip;
      const from = 2 + Math.floor(rand() * (frames - 400)),
        to = from + 60 + Math.floor(rand() * 180);
      const figure = edited(whole.figure, { ...noEdits(), loop: { from, to, span: 0.2 } });
      const analysis = { ...whole, figure, contacts: whole.contacts.slice(0, 0), first: 0 as const };
      const kind = (['asIs', 'smoothed'] as const)[n % 3 === 0 ? 1 : 0];
      const distance = n % 5 === 0 ? 0.3 + 2 * rand() : null;
      const { clip, put } = prepareClip(figure, { ...defaultTravel(), kind, distance }, analysis);
      const facts = travelFacts(put, clip, 0);
      // Of four loops three turn.
      if (n % 4 !== 0 && Math.abs(facts.turn) < 0.2) continue;
      n++;
      if (Math.abs(facts.turn) > 0.2) turning++;
      if (distance !== null) expect(facts.distance).toBeCloseTo(distance, 6);
      const measured = measuredBody(clip.skeleton, figure, 'own');
      const on = onBody({ clip, figure, contacts: [], places: put.places, floor: whole.floor }, measured, marlo, null, false);
      const k = marlo.legLength / measured.body.legLength;
      const pace = { speed: 1, strideLength: 1, strideTime: 1, dutyFactor: 0.6, direction: 0 };
      const bytes = await encodeClip(glb, clipDocument(marlo, { ...on.clip, name: 'loop' }, pace, false, null, 'root'));
      const [read] = (await fromGltf(await decodeGlb(bytes))).clips;
      const track = rootTrack(read!.poses, read!.frames, read!.poses.length / read!.frames, read!.loopTravel);
      expect(Math.abs(track - k * facts.distance), `loop ${from} to ${to}`).toBeLessThan(1e-3);
      expect(facts.displacement).toBeLessThan(facts.distance + 1e-9);
    }
    expect(turning).toBeGreaterThan(120);
  });
});
