import { sidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY, wrapPhase } from '../math/scalar';
import { inFlight } from '../schedule/flight';
import { plan } from '../schedule/plan';
import { cycleProgram } from '../schedule/program';
import type { Body } from '../body/body';
import type { Motion } from '../motion/motion';

/** How hard knees and hips may be turned and moved before the eye takes it for a jolt; rad/s², m/s². */
export interface Grace {
  readonly kneeSnap: number;
  readonly hipsUp: number;
  /** How fast they may fall: as a body does, or, where the whole of it is thrown, as its limbs have it. */
  readonly hipsDown: number;
}

const DEG = Math.PI / 180;
/** Leg length (m) for which the knee's bars are told; shorter legs move quicker at the same gait. */
const REFERENCE_LEG_M = 0.845;
/** Knees, in °/s²; our own bars, found by looking at what pops. */
const KNEE = { walk: 20_000, lively: 35_000, run: 30_000, sprint: 60_000 } as const;
/** Hips, in m/s² upward. */
const HIPS = { walk: 15, lively: 20, long: 25, run: 30, sprint: 40 } as const;
/** Speeds (parts of √(g ℓ)) from which a run is a sprint, strides (parts of ℓ) from which a walk is a long one. */
const SPRINT_SPEED = 1.75;
const LONG_STRIDE = 1.85;
const LONGEST_STRIDE = 2;
/** A walk is lively by a hard landing (m/s) or a bounce (part of ℓ). */
const LIVELY = { landing: 0.3, rise: 0.0295 } as const;

/** Hips that fall faster than by this (m/s²) are pulled. */
const FREE_FALL_ROOM = 0.05;

/** The bars for a motion of a gait: a walk that goes over into others has the widest of all of them. */
export function graceOfMotion(asked: GaitSpec, { body, repeat, gaits }: Pick<Motion, 'body' | 'repeat' | 'gaits'>): Grace {
  const all = [asked, ...(repeat ? [] : gaits)].map((gait) => graceOf(gait, body));
  const most = (what: keyof Grace) => Math.max(...all.map((g) => g[what]));
  return { kneeSnap: most('kneeSnap'), hipsUp: most('hipsUp'), hipsDown: most('hipsDown') };
}

/** The bars for a gait on a body. */
export function graceOf(asked: GaitSpec, body: Body): Grace {
  const { gait, sides } = sidedGait(asked);
  const leg = body.legLength;
  const { flight, duration } = plan(cycleProgram(asked, body, 0));
  const flies = Array.from({ length: 40 }, (_, i) => (i / 40) * duration).some((t) => inFlight(flight, t));
  const sprint = flies && gait.timing.speed > SPRINT_SPEED * Math.sqrt(GRAVITY * leg);
  const stride = gait.timing.strideLength / leg;
  const lively = sides.some(({ feet }) => feet.landing > LIVELY.landing) || gait.hips.rise.amount > LIVELY.rise * leg || stride > LONGEST_STRIDE;
  // Hops and skips land both feet, or one foot twice.
  const hops = gait.timing.skip > 0 || Math.abs(wrapPhase(gait.timing.rightLeg - gait.timing.leftLeg + 0.5) - 0.5) < 0.05;
  const knee = sprint ? KNEE.sprint : flies && !hops ? KNEE.run : flies || lively ? KNEE.lively : KNEE.walk;
  const hips = sprint ? HIPS.sprint : flies ? HIPS.run : stride > LONG_STRIDE ? HIPS.long : lively ? HIPS.lively : HIPS.walk;
  const falls = GRAVITY * gait.timing.gravity + FREE_FALL_ROOM;
  return { kneeSnap: (knee * DEG * REFERENCE_LEG_M) / leg, hipsUp: hips, hipsDown: flies && gait.timing.wholeBody > 0 ? Math.max(falls, hips) : falls };
}
