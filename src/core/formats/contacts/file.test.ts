import { describe, expect, it } from 'vitest';
import { makeClip } from '../../handover/make-clip';
import { cycleClip, cycleOrder, presetFor, shippedBody } from '../../tests/cast';
import { ownFigure } from '../../tests/clips';
import { encodeGlb } from '../gltf/bytes';
import { readMotionFile } from '../motion-file';
import { contactsName, encodeContacts, withContacts } from './file';
import { toldOf } from './told';

const body = shippedBody('marlo');
const { clip } = cycleClip(presetFor('walk', body), body, 60);
const figure = ownFigure(clip, body);
const text = (feet: typeof figure.feet | null) => new TextDecoder().decode(encodeContacts(clip, feet, toldOf(clip, body, null)));

describe('a contacts file', () => {
  it('gives back what was told: ends, parts in their order, soles', () => {
    const { clip: read, soled } = withContacts(text(figure.feet), 'walk.contacts.json', figure);
    expect(soled).toBe(true);
    expect(read.contacts).toHaveLength(clip.contacts!.length);
    read.contacts!.forEach((c, i) => {
      expect(c.from).toBeCloseTo(clip.contacts![i]!.from, 9);
      expect(c.to).toBeCloseTo(clip.contacts![i]!.to, 9);
      expect(c.sure).toBe(1);
      // A walk lands on its heel and leaves from its tip.
      expect(c.parts!.map((p) => p.part)).toEqual(['heel', 'flat', 'ball', 'tip']);
    });
  });

  it('is refused where it is another clip’s, or its soles lie off the foot', () => {
    expect(() => withContacts(text(null), 'a.json', { ...figure, clip: { ...clip, frames: clip.frames - 1 } })).toThrow(/frames/);
    expect(() => withContacts(text(null), 'a.json', { ...figure, clip: { ...clip, rate: 30 } })).toThrow(/a second/);
    const off = figure.feet.map((f) => ({ ...f, heel: [0, 0, -0.5] as const }));
    expect(() => withContacts(text(off), 'a.json', figure)).toThrow(/sole/);
    for (const bad of ['', '[]', '{"format":"nimbret.contacts","version":2}', text(null).replace('"left"', '"third"')])
      expect(() => withContacts(bad, 'a.json', figure)).toThrow();
  });

  it('tells how a floor moves: the clip is then as it is seen from that floor; a way of another length is refused', () => {
    const deck = Float64Array.from({ length: clip.frames * 4 }, (_, i) => [0.001, 0, -0.01, 0][i % 4]! * Math.floor(i / 4));
    const moving = JSON.parse(new TextDecoder().decode(encodeContacts({ ...clip, deck }, null))) as { floor: number[] };
    const read = withContacts(JSON.stringify(moving), 'a.json', figure);
    const size = clip.poses.length / clip.frames;
    for (const f of [0, 7, clip.frames - 1]) {
      expect(read.clip.poses[f * size]).toBeCloseTo(clip.poses[f * size]! - deck[f * 4]!, 6);
      expect(read.clip.poses[f * size + 2]).toBeCloseTo(clip.poses[f * size + 2]! - deck[f * 4 + 2]!, 6);
    }
    expect(() => withContacts(JSON.stringify({ ...moving, floor: moving.floor.slice(2) }), 'a.json', figure)).toThrow(/floor has \d+ places for \d+ frames/);
    expect(() => withContacts(JSON.stringify({ ...moving, floorTurn: [0, 1] }), 'a.json', figure)).toThrow(/floor has 2 turns for \d+ frames/);
  });

  it('of a floor that a GLB tells of another length nothing is believed: the file is read all the same', async () => {
    const { document } = makeClip(cycleOrder(presetFor('walk', body), body, 30), 30, { inPlace: false });
    const stale = { ...document, info: { ...document.info, floor: [0, 0, 1, 1] } };
    const [found] = (await readMotionFile(await encodeGlb([stale]), 'a.glb')).clips;
    expect(found!.clip.deck).toBeUndefined();
    const floor = Array.from({ length: document.clip.frames * 2 }, (_, i) => i * 0.01);
    const [moves] = (await readMotionFile(await encodeGlb([{ ...document, info: { ...document.info, floor } }]), 'a.glb')).clips;
    expect([...moves!.clip.deck!].filter((_, i) => i % 2 === 0)).toEqual(floor);
  });

  it('lies beside its motion', () => {
    expect(contactsName('out/walk.bvh')).toBe('out/walk.contacts.json');
    expect(contactsName('a.b/walk')).toBe('a.b/walk.contacts.json');
  });
});
