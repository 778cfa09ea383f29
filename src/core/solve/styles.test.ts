import { describe, expect, it } from 'vitest';
import { UPPER_LEG } from '../body/roles';
import { poseSize } from '../body/skeleton';
import { PRESETS } from '../gait/presets';
import { gaitSpecSchema } from '../gait/schema';
import { legAngles } from '../measure/angles';
import { plausibility } from '../measure/plausibility';
import { BODY_KEYS, cycleClip, presetCycle, presetFor, reportOf, shippedBody } from '../tests/cast';

const RATES = [24, 30, 60] as const;
const TABLE = PRESETS.flatMap(({ key }) => BODY_KEYS.flatMap((body) => RATES.map((rate) => ({ gait: key, body, rate }))));
/** Between frames at 60 fps a planted leg bends with the file's own interpolation; a sprint's turns too far in a frame (mm). */
const BETWEEN_MM: Readonly<Record<string, number>> = { sprint: 3 };

describe('every style on every body at every rate', () => {
  it.each(TABLE)('$gait, $body, $rate fps: feet hold, nothing sinks, knees in their limits, the loop closes', ({ gait: name, body: key, rate }) => {
    const body = shippedBody(key);
    const { clip, motion } = cycleClip(presetFor(name, body), body, rate);
    const closing = new Float64Array(poseSize(body.skeleton));
    motion.pose(motion.duration * motion.rounds * (1 - 1e-12), closing, 0);
    const report = reportOf(clip, body, { closing });
    expect(report.contacts).toBe(clip.contacts);
    expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    if (rate === 60) expect(report.slideMm.between).toBeLessThanOrEqual(BETWEEN_MM[name] ?? 1);
    expect(report.sinkMm).toBeLessThanOrEqual(0.1);
    expect(report.floatMm).toBeLessThanOrEqual(0.1);
    expect(report.stretch).toBeLessThanOrEqual(1);
    expect(report.seam!.positionM).toBeLessThanOrEqual(1e-6);
    expect(motion.survey().tooFar).toBe(0);
    expect(motion.survey().tooNear).toBe(0);
    for (let f = 0; f < clip.frames; f++)
      for (const side of [0, 1] as const) {
        const { knee } = legAngles(clip.poses, f * 98 + 6, side);
        expect(knee).toBeGreaterThan(presetFor(name, body).legs.straightest - 1e-6);
        expect(knee).toBeLessThan(2.62);
      }
  });

  it.each(PRESETS.flatMap(({ key }) => BODY_KEYS.map((body) => ({ gait: key, body }))))(
    '$gait, $body: speed has no jump over the seam nor at any landing or lift-off',
    ({ gait, body: key }) => {
      const motion = presetCycle(gait, key);
      const d = 1e-5;
      const pose = (t: number) => {
        const p = new Float64Array(98);
        motion.pose(t, p, 0);
        return p;
      };
      const T = motion.duration;
      for (const t of [T, ...motion.contacts.flatMap((c) => [c.from + T, c.to + T])]) {
        const [before, at, on, after] = [pose(t - d - 1e-9), pose(t - 1e-9), pose(t + 1e-9), pose(t + d + 1e-9)];
        for (let k = 6; k < 98; k++) {
          const jump = Math.abs((after[k]! - on[k]!) / d - (at[k]! - before[k]!) / d);
          // Accelerations up to 5,000 rad/s² pass; a kick would show as several rad/s.
          expect(jump).toBeLessThan(0.1);
        }
      }
    },
  );
});

describe('the styles', () => {
  it('are at least seventeen, each a valid gait file with a description of its own and tags, and no two alike', () => {
    expect(PRESETS.length).toBeGreaterThanOrEqual(17);
    expect(new Set(PRESETS.map((p) => p.key)).size).toBe(PRESETS.length);
    expect(new Set(PRESETS.map((p) => p.about)).size).toBe(PRESETS.length);
    for (const p of PRESETS) {
      const gait = p.make();
      expect(gaitSpecSchema.parse(JSON.parse(JSON.stringify(gait)))).toEqual(gait);
      expect(gait.about.length).toBeGreaterThan(30);
      expect(gait.tags.length).toBeGreaterThan(0);
    }
  });

  it('own their curves: editing one made gait leaves the next as it was', () => {
    const first = PRESETS.find((p) => p.key === 'bounce')!.make();
    first.hips.rise.curve![0]!.value = 0.5;
    expect(PRESETS.find((p) => p.key === 'bounce')!.make().hips.rise.curve![0]!.value).not.toBe(0.5);
  });

  it('creep on tiptoe never puts a heel down', () => {
    const motion = presetCycle('creep');
    const pose = new Float64Array(98);
    for (let i = 0; i < 60; i++) {
      motion.pose((i / 60) * motion.duration, pose, 0);
      // Toes bent in stance mean the heel is up; in swing the foot is off the ground.
      const bend = 2 * Math.asin(Math.min(1, Math.abs(pose[6 + (UPPER_LEG[0] + 3) * 4]!)));
      if (i < 38) expect(bend).toBeGreaterThan(0.3);
    }
  });
});

describe('jog and run near 3 m/s (values from memory of the sources in the notes)', () => {
  const rows = (['run', 'jog'] as const).flatMap((gait) => BODY_KEYS.map((body) => ({ gait, body })));
  it.each(rows)('$gait, $body: duty 0.33–0.40, cadence, knee in stance and swing', ({ gait, body }) => {
    const motion = presetCycle(gait, body);
    const values = Object.fromEntries(plausibility(motion).values.map((v) => [v.label, v]));
    const wide = body === 'marlo' ? 0 : 5;
    // A jog goes at 2.2–2.7 m/s (common practice).
    if (body === 'marlo') expect(Math.abs(motion.pace.speed - (gait === 'run' ? 3 : 2.45))).toBeLessThan(gait === 'run' ? 0.05 : 0.25);
    expect(motion.pace.dutyFactor).toBeGreaterThanOrEqual(0.33);
    expect(motion.pace.dutyFactor).toBeLessThanOrEqual(0.4);
    expect(values['Cadence']!.departs).toBe(0);
    expect(values['Knee in stance']!.value).toBeGreaterThan(35 - wide);
    expect(values['Knee in stance']!.value).toBeLessThan(50 + wide);
    expect(values['Knee in swing']!.value).toBeGreaterThan(80 - wide);
    expect(values['Knee in swing']!.value).toBeLessThan(110 + wide);
  });
});

describe('the natural walk on the other bodies, at equal Froude number', () => {
  it.each(BODY_KEYS)('%s stays within 8° RMS of the published curves and within the scaled values', (key) => {
    const found = plausibility(presetCycle('walk', key));
    for (const j of found.joints) expect(j.rms!, j.joint).toBeLessThan(key === 'marlo' ? 6 : 8);
    for (const v of found.values) expect(Math.abs(v.departs), v.label).toBeLessThanOrEqual(key === 'marlo' ? 0 : 0.2 * Math.max(1e-9, v.high - v.low));
  });
});
