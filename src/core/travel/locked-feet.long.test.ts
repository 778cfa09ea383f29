import { describe, expect, it } from 'vitest';
import type { ClipFigure } from '../clip/figure';
import { unrolled } from '../clip/unroll';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure, shaken } from '../tests/clips';
import { contactsByHeight, jolts, lookAtFeet } from '../tests/feet-meter';
import { recording, RECORDINGS } from '../tests/recordings';
import { prepareClip } from './prepare';
import { defaultLock, defaultTravel } from './spec';

/** Pictures over this (°/s²) snap; a lock makes no more of them, and none larger than this or 1.1 times what there was. */
const SNAP = 20_000;

/** A figure locked, looked at by a meter that knows nothing of the lock but its contacts. */
function measured(figure: ClipFigure) {
  const done = prepareClip(figure, { ...defaultTravel(), lock: defaultLock() });
  const { figure: own, first } = done.analysis;
  const [before, after] = [lookAtFeet(own.clip, own.feet), lookAtFeet(done.clip, own.feet)];
  const feet = before.map((was, i) => {
    const now = after[i]!;
    const contacts = done.held.filter((c) => c.foot === was.name);
    const held = new Uint8Array(own.clip.frames);
    for (const c of contacts) held.fill(1, Math.max(0, Math.ceil(c.from)), Math.floor(c.to) + 1);
    let [knee, ankle, free] = [0, 0, 0];
    for (let f = first; f < own.clip.frames; f++) {
      if (held[f]) continue;
      free++;
      knee += (now.knee[f]! - was.knee[f]!) ** 2;
      ankle += (now.ankle[f]! - was.ankle[f]!) ** 2;
    }
    const snaps = (v: Float64Array) => {
      const all = jolts(v.subarray(first), own.clip.rate);
      return { count: all.filter((a) => a > SNAP).length, most: all.reduce((a, b) => Math.max(a, b), 0) };
    };
    return {
      name: was.name,
      was,
      now,
      contacts,
      snaps: [snaps(was.knee), snaps(now.knee)] as const,
      rms: [Math.sqrt(knee / free), Math.sqrt(ankle / free)] as const,
    };
  });
  return { done, feet, first };
}

/** Farthest (mm) a pivot goes from where it came to bear, from when the foot is held to lift-off, hand-overs included. */
function pivotsMove({ feet }: ReturnType<typeof measured>): number {
  const points = { heel: [0], flat: [0, 1], ball: [1], tip: [2] } as const;
  let most = 0;
  for (const { contacts, now } of feet)
    for (const { parts, sure } of contacts) {
      if (sure !== 1) continue;
      for (const { part, from, to } of parts!)
        for (const k of points[part])
          for (let f = from; f <= to; f++)
            most = Math.max(most, Math.hypot(...[0, 1, 2].map((c) => now.points[f * 9 + k * 3 + c]! - now.points[from * 9 + k * 3 + c]!)));
    }
  return most * 1000;
}

describe('feet of recordings, locked', () => {
  it.each(Object.entries(RECORDINGS))(
    '%s: pivots are still to lift-off, knees as gentle as recorded, swings as they were',
    { timeout: 60_000 },
    async (_, frames) => {
      const { figure } = (await recording(frames)).brought;
      const found = measured(figure);
      expect(pivotsMove(found)).toBeLessThan(0.5);
      for (const { contacts } of found.feet) expect(contacts.filter((c) => c.sure === 1).length).toBeGreaterThan(0.85 * contacts.length);
      for (const {
        name: foot,
        snaps: [was, now],
        rms,
      } of found.feet) {
        expect(now.count, foot).toBeLessThanOrEqual(was.count);
        expect(now.most, foot).toBeLessThanOrEqual(Math.max(1.1 * was.most, SNAP));
        expect(rms[0], `${foot} knee`).toBeLessThan(2);
        expect(rms[1], `${foot} ankle`).toBeLessThan(2);
      }
      // No ankle is moved farther than a little over what counts as a fault.
      expect(found.done.moved!.ankles.most).toBeLessThan(0.065);
    },
  );

  const SHAKEN = [
    ['walk', 'marlo', 0.002, 1],
    ['stroll', 'pip', 0.002, 2],
    ['brisk', 'bosun', 0.002, 3],
    ['tired', 'marlo', 0.002, 4],
    ['plod', 'bosun', 0.002, 5],
    ['march', 'pip', 0.002, 6],
    ['limp', 'marlo', 0.003, 7],
    ['march', 'marlo', 0.002, 8],
  ] as const;

  it('shaken walks: contacts are those a meter of heights sees, no flight, pivots still, knees calm', { timeout: 60_000 }, () => {
    const off: number[] = [];
    for (const [gait, key, amount, seed] of SHAKEN) {
      const body = shippedBody(key);
      const made = unrolled(cycleClip(presetFor(gait, body), body, 120).clip, 6);
      // What begins and ends in stride would be a loop: the last pictures are cut off.
      const frames = made.frames - 50;
      const clip = { ...made, frames, poses: made.poses.slice(0, (frames * made.poses.length) / made.frames) };
      const found = measured(shaken(ownFigure(clip, body), amount, seed));
      expect(pivotsMove(found), gait).toBeLessThan(0.5);
      const stands = new Uint8Array(frames);
      for (const { was, contacts, snaps, rms } of found.feet) {
        for (const c of contacts) stands.fill(1, Math.max(0, Math.ceil(c.from)), Math.floor(c.to) + 1);
        for (const [a, b] of contactsByHeight(was, frames, 120)) {
          if (a < 10 || b > frames - 10) continue;
          const own = contacts.filter((c) => c.from < b && c.to > a);
          expect(own, `${gait} ${a} ${b}`).toHaveLength(1);
          off.push(Math.abs(own[0]!.from - a), Math.abs(own[0]!.to - b));
        }
        expect(snaps[1].count, gait).toBeLessThanOrEqual(snaps[0].count);
        expect(snaps[1].most, gait).toBeLessThanOrEqual(Math.max(1.1 * snaps[0].most, SNAP));
        expect(Math.max(...rms), gait).toBeLessThan(2);
      }
      expect(
        stands.subarray(20, frames - 20).every((v) => v === 1),
        `${gait}: no flight`,
      ).toBe(true);
    }
    off.sort((a, b) => a - b);
    expect(off.length).toBeGreaterThan(150);
    expect(off[Math.floor(0.9 * off.length)]!, off.join(' ')).toBeLessThanOrEqual(6);
    expect(off.at(-1)!, off.join(' ')).toBeLessThanOrEqual(12);
  });
});
