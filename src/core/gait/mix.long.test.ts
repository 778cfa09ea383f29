import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { legAngles } from '../measure/angles';
import { ownFeet } from '../body/foot-model';
import { traceClip } from '../travel/trace';
import { measureSlide } from '../travel/slide';
import { BODY_KEYS, cycleClip, presetFor, shippedBody } from '../tests/cast';
import { differences } from './compare';
import { applyMacro, describeChange, MACROS } from './macros';
import { mixGaits } from './mix';
import { PRESETS } from './presets';
import { gaitSpecSchema } from './schema';
import { structuredCloneGait } from './timing';
import { alongWalkRun, walkRunGait, walkRunPlace } from './walk-run';

const marlo = shippedBody('marlo');

describe('from walk to run', () => {
  it.each(BODY_KEYS)('%s: every place of the control holds its feet with knees in their limits, also beyond the run', (key) => {
    const body = shippedBody(key);
    for (let place = 0; place <= 2.001; place += 0.05) {
      const gait = walkRunGait(place, body.legLength);
      const { clip, motion } = cycleClip(gait, body, 30);
      expect(motion.survey().tooFar, `at ${place.toFixed(2)}`).toBe(0);
      expect(motion.survey().tooNear, `at ${place.toFixed(2)}`).toBe(0);
      const slides = measureSlide(traceClip(clip, ownFeet(body)), clip.contacts!);
      expect(Math.max(...slides.map((s) => s.atFramesMm))).toBeLessThan(0.05);
      for (let f = 0; f < clip.frames; f++)
        for (const side of [0, 1] as const) {
          const { knee } = legAngles(clip.poses, f * 98 + 6, side);
          expect(knee).toBeGreaterThan(0.01);
          expect(knee).toBeLessThan(2.62);
        }
    }
  });

  it('is continuous: a small move of the control moves every joint a little, through the change from double support to flight as well', () => {
    const PHASES = [0.05, 0.3, 0.45, 0.6, 0.85];
    const posesAt = (place: number) => {
      const gait = walkRunGait(place, marlo.legLength);
      const motion = cycle(gait, marlo);
      return PHASES.map((phase) => {
        const pose = new Float64Array(98);
        motion.pose(phase * gait.timing.strideTime, pose, 0);
        return pose;
      });
    };
    const STEP = 0.004;
    let before = posesAt(0);
    for (let place = STEP; place <= 1.3; place += STEP) {
      const now = posesAt(place);
      now.forEach((pose, i) => {
        const was = before[i]!;
        const where = `at ${place.toFixed(3)}, phase ${PHASES[i]}`;
        for (let k = 3; k < 6; k++) expect(Math.abs(pose[k]! - was[k]!), where).toBeLessThan(0.012);
        let least = 1;
        for (let q = 6; q < 98; q += 4) {
          let dot = 0;
          for (let k = 0; k < 4; k++) dot += pose[q + k]! * was[q + k]!;
          least = Math.min(least, Math.abs(dot));
        }
        expect(least, where).toBeGreaterThan(0.998);
      });
      before = now;
    }
  });

  it('takes a walk of one’s own along without losing what makes it one’s own', () => {
    const own = structuredCloneGait(presetFor('walk', marlo));
    own.trunk.bend.offset = 0.2;
    own.feet.toeOut += 0.1;
    const run = alongWalkRun(own, 0, 1);
    const plain = presetFor('run', marlo);
    expect(run.trunk.bend.offset).toBeCloseTo(0.2, 9);
    expect(run.feet.toeOut).toBeCloseTo(plain.feet.toeOut + 0.1, 9);
    expect(run.timing.dutyFactor).toBeCloseTo(plain.timing.dutyFactor, 9);
    expect(run.timing.speed).toBeCloseTo(plain.timing.speed, 6);
    expect(walkRunPlace(presetFor('walk', marlo))).toBe(0);
    expect(walkRunPlace(plain)).toBeCloseTo(1, 2);
  });
});

describe('mixing two gaits', () => {
  it('gives each of them at its end and stays valid between and beyond, for every pair of neighbours among the styles', () => {
    PRESETS.forEach((p, i) => {
      const a = p.make(),
        b = PRESETS[(i + 1) % PRESETS.length]!.make();
      expect(differences(mixGaits(a, b, 0), a)).toEqual([]);
      const end = differences(mixGaits(a, b, 1), b).filter((d) => !/curve|delay/.test(d.path));
      expect(end, `${a.name} to ${b.name}`).toEqual([]);
      for (const u of [-0.2, 0.25, 0.5, 0.75, 1.2]) {
        const mixed = gaitSpecSchema.safeParse(mixGaits(a, b, u));
        expect(mixed.error?.issues ?? [], `${a.name} to ${b.name} at ${u}`).toEqual([]);
      }
    });
  });

  it('goes the shorter way round a phase', () => {
    const a = presetFor('walk', marlo),
      b = structuredCloneGait(a);
    b.timing.leftLeg = 0.9;
    expect(mixGaits(a, b, 0.5).timing.leftLeg).toBeCloseTo(0.95, 12);
  });
});

describe('macros', () => {
  it.each(MACROS)('$label names real channels, keeps every style valid at both ends, and does nothing at 0', (macro) => {
    for (const change of macro.changes) expect(describeChange(change).label.length).toBeGreaterThan(2);
    for (const p of PRESETS) {
      expect(differences(p.make(), applyMacro(p.make(), macro.changes, 0))).toEqual([]);
      for (const strength of [-1, 1])
        expect(gaitSpecSchema.safeParse(applyMacro(p.make(), macro.changes, strength)).success, `${p.key} ${strength}`).toBe(true);
    }
  });

  it('change what they list and nothing else, and in part what is chosen', () => {
    const walk = presetFor('walk', marlo);
    for (const macro of MACROS) {
      const changed = differences(walk, applyMacro(walk, macro.changes, 0.5)).map((d) => d.path);
      const listed = macro.changes.map((c) => c.path);
      for (const path of changed) expect([...listed, 'timing.speed'], macro.label).toContain(path);
      const one = macro.changes.filter((c) => !c.path.startsWith('timing'))[0]!;
      expect(differences(walk, applyMacro(walk, [one], 1)).map((d) => d.path)).toEqual([one.path]);
    }
  });

  it('scale with the body: the same macro makes the same gait at equal Froude number', () => {
    const pip = shippedBody('pip');
    const age = MACROS.find((m) => m.key === 'age')!;
    const small = applyMacro(presetFor('walk', pip), age.changes, 1);
    const large = applyMacro(presetFor('walk', marlo), age.changes, 1);
    expect(small.hips.crouch / large.hips.crouch).toBeCloseTo(pip.legLength / marlo.legLength, 6);
  });
});

describe('comparing gaits', () => {
  it('lists every number that differs, by side where it is split, and a redrawn curve', () => {
    const a = presetFor('walk', marlo),
      b = structuredCloneGait(a);
    b.feet.lift = 0.2;
    b.hips.turn.delay = 0.1;
    b.hips.list.curve = [{ at: 0, value: 1, tangent: 'flat' }];
    b.right['arms.inward'] = 0.9;
    expect(differences(a, b).map((d) => `${d.path} ${d.side ?? ''}`)).toEqual(['feet.lift ', 'hips.turn.delay ', 'hips.list.curve ', 'arms.inward right']);
    expect(differences(a, b)[0]).toMatchObject({ before: a.feet.lift, after: 0.2 });
  });
});
