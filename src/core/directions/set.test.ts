import { describe, expect, it } from 'vitest';
import { ROLES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { gaitSpecSchema } from '../gait/schema';
import { toDegrees } from '../math/scalar';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { GAIT_KEYS, cycleClip, presetFor, reportOf, shippedBody } from '../tests/cast';
import { defaultSet, setSpecSchema } from './spec';
import { setMembers } from './set';

const body = shippedBody('marlo');

describe('a directional set', () => {
  it.each(GAIT_KEYS)('%s: eight directions, feet still, going where they say', (name) => {
    for (const { directionDeg, gait } of setMembers(defaultSet(), presetFor(name, body))) {
      expect(gaitSpecSchema.safeParse(gait).success).toBe(true);
      const { clip, motion } = cycleClip(gait, body, 60);
      const report = reportOf(clip, body);
      expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
      expect(report.sinkMm).toBeLessThanOrEqual(0.1);
      expect(motion.survey().tooFar).toBe(0);
      expect(report.contacts).toBe(clip.contacts);
      const off = ((report.travel.directionDeg! - directionDeg + 540) % 360) - 180;
      expect(Math.abs(off)).toBeLessThan(1e-6);
    }
  });

  it('has opposite members travel equal and opposite distances (common practice), in one stride time, left first', () => {
    const members = setMembers(defaultSet(), presetFor('walk', body));
    const travel = members.map(({ gait }) => cycleClip(gait, body, 60).clip.loopTravel);
    for (let i = 0; i < 4; i++) {
      expect(travel[i]![0]).toBeCloseTo(-travel[i + 4]![0]!, 9);
      expect(travel[i]![2]).toBeCloseTo(-travel[i + 4]![2]!, 9);
    }
    for (const { gait } of members) {
      expect(gait.timing.strideTime).toBe(members[0]!.gait.timing.strideTime);
      expect(gait.timing.leftLeg).toBe(0);
    }
  });

  it('turns hips and chest in a 90° strafe as animators do, as far as a waist goes: hips 60–80°, waist 35–45° (from memory), feet 15° back (common practice, no published source)', () => {
    const left = setMembers(defaultSet(), presetFor('walk', body))[2]!;
    expect(left.directionDeg).toBe(90);
    const { hips, chest } = left.gait.direction;
    expect(toDegrees(hips)).toBeGreaterThanOrEqual(60);
    expect(toDegrees(hips)).toBeLessThanOrEqual(80);
    for (const m of setMembers({ ...defaultSet(), twins: true }, presetFor('walk', body)))
      expect(Math.abs(toDegrees(m.gait.direction.hips - m.gait.direction.chest))).toBeLessThanOrEqual(45);
    expect(toDegrees(hips - chest)).toBeGreaterThanOrEqual(35);
    expect(toDegrees(left.gait.direction.feet)).toBeCloseTo(-15, 6);
  });

  it('makes twins with the hips turned the other way for all but straight ahead and straight back', () => {
    const members = setMembers({ ...defaultSet(), twins: true }, presetFor('walk', body));
    expect(members.filter((m) => m.twin).map((m) => m.directionDeg)).toEqual([45, 90, 135, -135, -90, -45]);
    const [plain, twin] = members.filter((m) => m.directionDeg === 90);
    expect(Math.sign(twin!.gait.direction.hips)).toBe(-Math.sign(plain!.gait.direction.hips));
  });

  it.each(GAIT_KEYS)('%s: members to the left and to the right are mirrors of each other, half a stride apart, within 0.05 mm', (name) => {
    const world = createWorldPose(body.skeleton);
    const pose = new Float64Array(poseSize(body.skeleton));
    const mirror = (role: string) => (role.startsWith('left') ? role.replace('left', 'right') : role.replace('right', 'left'));
    const partner = ROLES.map((role) => ROLES.indexOf(mirror(role) as (typeof ROLES)[number]));
    /** Places of all joints against the root, m. */
    const places = (motion: Motion, t: number) => {
      motion.pose(t, pose, 0);
      forwardKinematics(body.skeleton, pose, 0, world);
      return world.positions.map((v, i) => v - [pose[0]!, 0, pose[2]!][i % 3]!);
    };
    for (const stepping of ['turned', 'side'] as const) {
      const members = setMembers({ ...defaultSet(), stepping, twins: true }, presetFor(name, body));
      for (const { directionDeg, twin, gait } of members.filter((m) => m.directionDeg > 0 && m.directionDeg < 180)) {
        const other = members.find((m) => m.directionDeg === -directionDeg && m.twin === twin)!;
        const [left, right] = [cycle(gait, body), cycle(other.gait, body)];
        for (let i = 0; i < 12; i++) {
          const a = places(left, (i / 12) * left.strideTime),
            b = places(right, (i / 12 + 0.5) * right.strideTime);
          for (let j = 1; j < ROLES.length; j++) {
            const [o, p] = [3 * j, 3 * partner[j]!];
            expect(Math.hypot(a[o]! + b[p]!, a[o + 1]! - b[p + 1]!, a[o + 2]! - b[p + 2]!), `${stepping} ${directionDeg}°`).toBeLessThanOrEqual(5e-5);
          }
        }
      }
    }
  });

  it('steps sideways with the hips square, feet opening and closing: never crossing, both sides mirrors', () => {
    const members = setMembers({ ...defaultSet(), stepping: 'side', twins: true }, presetFor('walk', body));
    expect(members).toHaveLength(8);
    for (const { gait } of members) {
      expect(gait.direction.hips).toBe(0);
      const { clip, motion } = cycleClip(gait, body, 60);
      expect(reportOf(clip, body).slideMm.atFrames).toBeLessThanOrEqual(0.05);
      // The left foot always lands to the left of the right one standing then.
      const holds = motion.footholds(0, 3 * motion.duration);
      for (const a of holds)
        for (const b of holds) {
          if (a.side !== 0 || b.side !== 1 || a.landing > b.leaving || b.landing > a.leaving) continue;
          expect(a.x - b.x).toBeGreaterThan(0.02);
        }
    }
    const [left, right] = [90, -90].map((d) => members.find((m) => m.directionDeg === d)!.gait.timing);
    expect(left!.strideLength).toBe(right!.strideLength);
  });

  it('turns the waist as far as the set lets it', () => {
    const gait = setMembers({ ...defaultSet(), waist: 0.2 }, presetFor('walk', body))[2]!.gait;
    expect(gait.direction.hips - gait.direction.chest).toBeCloseTo(0.2, 9);
  });

  it('lands toes first going backward', () => {
    const back = setMembers(defaultSet(), presetFor('walk', body))[4]!;
    const hold = cycleClip(back.gait, body, 60).motion.footholds(0, 0.1)[0]!;
    expect(hold.landingPitch).toBeLessThan(0);
    expect(hold.leavingPitch).toBeGreaterThan(0);
  });

  it('refuses specs that are no sets', () => {
    for (const bad of [{ directions: 1 }, { directions: 3.5 }, { sideShare: 0 }, { twins: 'yes' }, { stepping: 'skate' }, { waist: 1 }])
      expect(setSpecSchema.safeParse({ ...defaultSet(), ...bad }).success).toBe(false);
  });
});
