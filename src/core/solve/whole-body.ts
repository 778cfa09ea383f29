import type { Body } from '../body/body';
import { centreOfMass } from '../body/centre-of-mass';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { smoothSeconds } from '../math/even-polynomial';
import { clamp, smoothstep } from '../math/scalar';
import { createAim, type Aimer, type AimSource } from './aim';
import { PUSHES, type Pushes } from './hips-plan';
import { createReach } from './reach';
import { createTargets } from './targets';

/** A flight shorter than this (s) is looked at over so long. */
const SHORTEST_S = 2e-3;
/** The largest part of a correction that the next one is taken to have. */
const MOST_LEFT = 0.6;
/** A second step this much shorter than the first is trusted, and this much is not. */
const CLOSER = 0.5;
const NO_CLOSER = 0.9;

/** Degree of the polynomial that smooths the way of limbs in a flight, and how far (m/s²) they may differ from it: what jolts them does not jolt the hips. */
const DEGREE = 11;
const ROUGH = 0.6;
/** The most (m/s²) the hips answer limbs with. */
const MOST = 20;

export interface Thrown {
  /** Hips alone thrown: what arms are found on. */
  readonly hips: Aimer;
  /** As much of the whole body thrown as the gait has it. */
  readonly aimer: Aimer;
}

/**
 * The aimer of a motion in whose flights the centre of mass is thrown, as far as the gait says. What limbs do against the
 * hips depends little on how the hips fly, so that correcting the hips for it, and for what changes by that, is nearly
 * exact; from how much the second correction adds to the first it is told what all further ones would. Who is in a
 * hurry leaves it at the hips.
 */
export function throwBody(source: AimSource): Thrown {
  const hips = createAim(source);
  const { whole, count } = source.schedule.flight;
  if (source.quickly || whole === 0 || count === 0) return { hips, aimer: hips };
  const { arms } = hips;
  const alone = hipsAlone(source.schedule.flight.gravity);
  const first = pushesOf(source.body, hips);
  const second = pushesOf(source.body, createAim({ ...source, arms, pushes: first }));
  const found: Pushes = (flight) => limit(alone, first(flight), second(flight));
  // At a walk's ends flights differ from step to step, and each changes its neighbours: once more.
  const pushes = source.schedule.repeat ? found : pushesOf(source.body, createAim({ ...source, arms, pushes: found }));
  return { hips, aimer: createAim({ ...source, arms, pushes }) };
}

const hipsAlone = (gravity: number): Float64Array => new Float64Array(PUSHES + 1).fill(-gravity);

/** Where three steps of a search lead that comes closer by about the same part each time. Source: Aitken 1926, for vectors. */
function limit(a: Float64Array, b: Float64Array, c: Float64Array): Float64Array {
  let both = 0,
    square = 0,
    next = 0;
  for (let k = 0; k < a.length; k++) {
    const step = b[k]! - a[k]!,
      more = c[k]! - b[k]!;
    both += step * more;
    square += step * step;
    next += more * more;
  }
  if (square < 1e-12) return c;
  const left = clamp(both / square, -MOST_LEFT, MOST_LEFT);
  // Steps that hardly get smaller lead nowhere: then hips are thrown as they were.
  const trusted = 1 - smoothstep(CLOSER, NO_CLOSER, Math.sqrt(next / square));
  return c.map((v, k) => a[k]! + trusted * (v + ((v - b[k]!) * left) / (1 - left) - a[k]!));
}

/** What has the whole body thrown where limbs go against the hips as an aimer has them, kept flight by flight. */
function pushesOf(body: Body, aimer: Aimer): Pushes {
  const { duration, repeat, flight } = aimer.schedule;
  const reacher = createReach(body);
  const targets = createTargets();
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const centre = new Float64Array(3);
  const clock = new Float64Array(1);
  const heights = new Float64Array(PUSHES + 1),
    smooth = new Float64Array(PUSHES + 1),
    plain = new Float64Array(PUSHES + 1);
  const known = new Map<number, Float64Array>();
  /** Height (m) of the centre of mass over the hips. */
  function over(t: number): number {
    clock[0] = repeat ? t - Math.floor(t / duration) * duration : t;
    aimer.arms.prepare(clock[0]);
    aimer.aim(clock, 0, targets);
    reacher.reach(targets, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    centreOfMass(world, centre, 0);
    return centre[1]! - world.positions[JOINT.hips * 3 + 1]!;
  }
  function find(from: number, to: number): Float64Array {
    const step = Math.max(SHORTEST_S, to - from) / PUSHES;
    const start = (from + to - PUSHES * step) / 2;
    for (let j = 0; j <= PUSHES; j++) heights[j] = over(start + j * step);
    smoothSeconds(heights, step, DEGREE, smooth);
    for (let j = 1; j < PUSHES; j++) plain[j] = (heights[j + 1]! - 2 * heights[j]! + heights[j - 1]!) / (step * step);
    // Outside its flight a leg goes otherwise: both ends go on as what is inside does.
    plain[0] = 3 * (plain[1]! - plain[2]!) + plain[3]!;
    plain[PUSHES] = 3 * (plain[PUSHES - 1]! - plain[PUSHES - 2]!) + plain[PUSHES - 3]!;
    return plain.map((own, j) => {
      // A difference tells a little of its neighbours, and straight lines between pushes do so once more: both are taken back.
      const curved = j > 0 && j < PUSHES ? (plain[j + 1]! - 2 * own + plain[j - 1]!) / 6 : 0;
      const near = smooth[j]! + clamp(own - curved - smooth[j]!, -ROUGH, ROUGH);
      return -flight.gravity - flight.whole * clamp(near, -MOST, MOST);
    });
  }
  return ({ from, to }) => {
    const found = known.get(from) ?? find(from, to);
    known.set(from, found);
    return found;
  };
}
