import { describe, expect, it } from 'vitest';
import { isSplit, readValue, writeValue } from '../gait/access';
import { TANGENTS, type CurveKey } from '../gait/curve';
import { DELAY_RANGE, PARAMETER_LIST, type Channel, type Range } from '../gait/parameters';
import { PRESETS } from '../gait/presets';
import { gaitSpecSchema } from '../gait/schema';
import { CARRIES, HELD, type GaitSpec } from '../gait/spec';
import { followWithin, structuredCloneGait } from '../gait/timing';
import { graceOf } from '../handover/grace';
import { notesOf } from '../handover/notes';
import { legAngles } from '../measure/angles';
import { ownFeet } from '../body/foot-model';
import { traceClip } from '../travel/trace';
import { measureSlide } from '../travel/slide';
import { BODY_KEYS, cycleClip, presetFor, shippedBody } from '../tests/cast';
import { meter } from '../tests/meters';
import { seeded } from '../math/random';

const DRAWS = 1000;
const RATE = 24;

/** A gait with some, or in every fifth draw all, of its numbers drawn over their whole ranges; curves, sides and hands too. */
function draw(from: GaitSpec, rand: () => number, share: number): GaitSpec {
  const gait = structuredCloneGait(from);
  const inside = ([min, max]: Range) => min + (max - min) * rand();
  const fresh = (old: number | Channel, p: (typeof PARAMETER_LIST)[number]['parameter']): number | Channel => {
    if (p.kind === 'scalar') return p.unit === 'count' ? Math.round(inside(p.range)) : inside(p.range);
    const channel: Channel = { ...(old as Channel), offset: inside(p.offset), amount: inside(p.amount), delay: inside(DELAY_RANGE) };
    if (rand() < 0.4) channel.curve = randomCurve(rand);
    return channel;
  };
  for (const entry of PARAMETER_LIST) {
    if (rand() >= share) continue;
    writeValue(gait, entry, fresh(readValue(gait, entry), entry.parameter));
    if (entry.parameter.perSide && rand() < 0.3) gait.right[entry.path] = fresh(readValue(gait, entry), entry.parameter);
    else if (isSplit(gait, entry.path) && rand() < 0.5) delete gait.right[entry.path];
  }
  gait.carry = CARRIES[Math.floor(rand() * CARRIES.length)]!;
  followWithin(gait.timing);
  return gait;
}

const randomCurve = (rand: () => number): CurveKey[] => {
  const count = 2 + Math.floor(rand() * 5);
  return Array.from({ length: count }, (_, i) => ({ at: (i + 0.1 + 0.7 * rand()) / count, value: 2 * rand() - 1, tangent: TANGENTS[Math.floor(rand() * 4)]! }));
};

describe(`${DRAWS} seeded random gaits over the whole parameter ranges`, () => {
  it.each(BODY_KEYS.map((body, i) => ({ body, seed: 900 + i })))(
    '$body: finite, feet locked, knees in their limits, closed; what cannot be solved is said',
    { timeout: 180_000 },
    ({ body: key, seed }) => {
      const rand = seeded(seed);
      const body = shippedBody(key);
      const feet = ownFeet(body);
      let held = 0;
      const draws = Math.ceil(DRAWS / BODY_KEYS.length);
      for (let n = 0; n < draws; n++) {
        const gait = draw(presetFor(PRESETS[n % PRESETS.length]!.key, body), rand, n % 5 === 0 ? 1 : 0.25);
        const where = `draw ${n} of seed ${seed}`;
        expect(gaitSpecSchema.safeParse(gait).error?.issues ?? [], where).toEqual([]);
        gait.head.lookAround = 0; // long loops cost time here and change no foot
        const { clip, motion } = cycleClip(gait, body, RATE);
        expect(clip.poses.every(Number.isFinite), where).toBe(true);
        const worst = Math.max(0, ...measureSlide(traceClip(clip, feet), clip.contacts!).map((s) => s.atFramesMm));
        const missed = motion.survey().tooFar > 1e-6 || motion.survey().tooNear < -1e-6;
        if (missed)
          expect(
            notesOf(gait, motion, RATE).some((note) => /reach|fold/.test(note.words)),
            where,
          ).toBe(true);
        else {
          expect(worst, where).toBeLessThanOrEqual(0.05);
          held++;
        }
        // Knees and hips stay within what looks smooth, or it is said by how much they do not.
        const [got, grace, said] = [
          meter(motion),
          graceOf(gait, body),
          notesOf(gait, motion, RATE)
            .map((n) => n.words)
            .join(),
        ];
        if (got.snap * (Math.PI / 180) > (grace.kneeSnap * body.legLength) / 0.845 + 1) expect(said, where).toContain('knee is jerked');
        if (got.hips[1] > grace.hipsUp + 0.1) expect(said, where).toContain('jolted upward');
        if (-got.hips[0] > grace.hipsDown + 0.2) expect(said, where).toContain('pulled down');
        for (let f = 0; f < clip.frames; f++)
          for (const side of [0, 1] as const) {
            const { knee } = legAngles(clip.poses, f * 98 + 6, side);
            expect(knee).toBeGreaterThan(0.015);
            expect(knee).toBeLessThan(2.6201);
          }
        // Closed: a stride later the pose is the same, moved on.
        const [a, b] = [new Float64Array(98), new Float64Array(98)];
        motion.pose(0, a, 0);
        motion.pose(motion.duration * (1 - 1e-12), b, 0);
        for (let q = 3; q < 98; q++) expect(Math.abs(a[q]! - b[q]!), where).toBeLessThan(1e-6);
      }
      // Most of such gaits can be walked; the rest say what they cannot do.
      expect(held).toBeGreaterThan(draws / 4);
    },
  );

  it('draws every parameter, timing included', () => {
    const rand = seeded(1);
    const gait = draw(presetFor('walk', shippedBody('marlo')), rand, 1);
    for (const h of HELD) expect(gait.timing[h]).not.toBe(presetFor('walk', shippedBody('marlo')).timing[h]);
  });
});
