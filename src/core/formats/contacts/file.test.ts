import { describe, expect, it } from 'vitest';
import { cycleClip, presetFor, shippedBody } from '../../tests/cast';
import { ownFigure } from '../../tests/clips';
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

  it('lies beside its motion', () => {
    expect(contactsName('out/walk.bvh')).toBe('out/walk.contacts.json');
    expect(contactsName('a.b/walk')).toBe('a.b/walk.contacts.json');
  });
});
