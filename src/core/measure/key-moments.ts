import { SIDES, SIDE_NAMES, UPPER_LEG, type SideName } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { wrapPhase } from '../math/scalar';
import type { Motion } from '../motion/motion';
import { landingPhase } from './landings';

export type MomentName = 'contact' | 'down' | 'passing' | 'up';

/** A key moment of a cycle: when it is, and whose step it belongs to. */
export interface KeyMoment {
  readonly name: MomentName;
  readonly side: SideName;
  readonly phase: number;
}

const SAMPLES = 160;

/**
 * Where a cycle has its contact (a foot lands), down (the hips are lowest after it), passing (the other foot passes the
 * standing one) and up (the hips are highest before the next landing), for each side's step; read from the motion itself.
 */
export function keyMoments(motion: Motion): KeyMoment[] {
  const { body, duration: T } = motion;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const travel = motion.pace.direction;
  const height = new Float64Array(SAMPLES),
    ahead = new Float64Array(SAMPLES);
  for (let i = 0; i < SAMPLES; i++) {
    motion.pose((i / SAMPLES) * T, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    height[i] = pose[4]!;
    const along = (side: 0 | 1) => {
      const j = (UPPER_LEG[side] + 2) * 3;
      return world.positions[j]! * Math.sin(travel) + world.positions[j + 2]! * Math.cos(travel);
    };
    // How far the left ankle is ahead of the right one.
    ahead[i] = along(0) - along(1);
  }
  const moments: KeyMoment[] = [];
  for (const side of SIDES) {
    const start = landingPhase(motion, side);
    const next = wrapPhase(landingPhase(motion, side === 0 ? 1 : 0) - start) || 1;
    const from = Math.round(start * SAMPLES);
    const count = Math.max(8, Math.round(next * SAMPLES));
    const sample = (v: Float64Array, i: number) => v[(from + i) % SAMPLES]!;
    const sign = side === 0 ? 1 : -1;
    // The standing foot is ahead after its landing; passing is where the other one has caught up.
    let passing = count / 2;
    for (let i = 1; i < count; i++)
      if (sign * sample(ahead, i - 1) > 0 && sign * sample(ahead, i) <= 0) {
        passing = i;
        break;
      }
    const pick = (a: number, b: number, best: (x: number, y: number) => boolean) => {
      let at = Math.round(a);
      for (let i = Math.round(a); i <= Math.round(b); i++) if (best(sample(height, i), sample(height, at))) at = i;
      return at;
    };
    const down = pick(0, passing, (x, y) => x < y);
    const up = pick(passing, count, (x, y) => x > y);
    const place = (i: number) => wrapPhase(start + i / SAMPLES);
    const name = SIDE_NAMES[side];
    moments.push(
      { name: 'contact', side: name, phase: start },
      { name: 'down', side: name, phase: place(down) },
      { name: 'passing', side: name, phase: place(passing) },
      { name: 'up', side: name, phase: place(up) },
    );
  }
  return moments;
}
