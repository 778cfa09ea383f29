import type { Body } from '../body/body';
import { centreOfMass } from '../body/centre-of-mass';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { createAim, type Aimer, type AimSource } from './aim';
import { PUSHES, type Pushes } from './hips-plan';
import { createReach } from './reach';
import { createTargets } from './targets';

/** Times the hips of a flight are found for what the limbs do then; every time leaves about a tenth of what was missing. */
const ROUNDS = 3;
/** A flight shorter than this (s) is looked at over so long. */
const SHORTEST_S = 2e-3;

export interface Thrown {
  /** Hips alone thrown: what arms are found on. */
  readonly hips: Aimer;
  /** As much of the whole body thrown as the gait has it. */
  readonly aimer: Aimer;
}

/**
 * The aimer of a motion in whose flights the centre of mass is thrown, as far as the gait says. What limbs do against the
 * hips hardly depends on how the hips fly, so a few rounds of correcting the hips for it are exact.
 */
export function throwBody(source: AimSource): Thrown {
  const hips = createAim(source);
  const { whole, count } = source.schedule.flight;
  let aimer = hips;
  if (whole > 0 && count > 0) for (let i = 0; i < ROUNDS; i++) aimer = createAim({ ...source, arms: hips.arms, pushes: pushesOf(source.body, aimer) });
  return { hips, aimer };
}

export function pushesOf(body: Body, earlier: Aimer): Pushes {
  const { duration, repeat, flight } = earlier.schedule;
  const reacher = createReach(body);
  const targets = createTargets();
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const centre = new Float64Array(3);
  const clock = new Float64Array(1);
  const heights = new Float64Array(PUSHES + 1);
  /** Height (m) of the centre of mass over the hips. */
  function over(t: number): number {
    clock[0] = repeat ? t - Math.floor(t / duration) * duration : t;
    earlier.arms.prepare(clock[0]);
    earlier.aim(clock, 0, targets);
    reacher.reach(targets, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    centreOfMass(world, centre, 0);
    return centre[1]! - world.positions[JOINT.hips * 3 + 1]!;
  }
  return ({ from, to }) => {
    const step = Math.max(SHORTEST_S, to - from) / PUSHES;
    const start = (from + to - PUSHES * step) / 2;
    for (let j = 0; j <= PUSHES; j++) heights[j] = over(start + j * step);
    const pushes = new Float64Array(PUSHES + 1);
    for (let j = 1; j < PUSHES; j++) pushes[j] = (heights[j + 1]! - 2 * heights[j]! + heights[j - 1]!) / (step * step);
    // Outside its flight a leg goes otherwise: both ends go on as what is inside does.
    pushes[0] = 3 * (pushes[1]! - pushes[2]!) + pushes[3]!;
    pushes[PUSHES] = 3 * (pushes[PUSHES - 1]! - pushes[PUSHES - 2]!) + pushes[PUSHES - 3]!;
    // A difference tells a little of its neighbours, and straight lines between pushes do so once more: both are taken back.
    return pushes.map((own, j) => {
      const curved = j > 0 && j < PUSHES ? (pushes[j + 1]! - 2 * own + pushes[j - 1]!) / 6 : 0;
      return -flight.gravity - flight.whole * (own - curved);
    });
  };
}
