import { clamp } from '../math/scalar';
import { FOOT_SIZE } from './foot-state';
import { LEG_ANGLE, toLegLine } from './leg-angles';
import { APART, APART_SIZE, HIP_JOINT_SIZE, LEG_POINTS_SIZE, legsApart } from './leg-shape';
import { BUMP_OF, BUMPS, bumpsNeeded, stateAt, type Swing, type SwingPlace } from './swing-state';

/** Where a swing is looked at for the other leg, and where one that meets it is; rounds of going out of its way. */
const placesOf = (length: number): Float64Array => Float64Array.from({ length }, (_, i) => 0.03 + (0.94 * (i + 0.5)) / length);
const PASSING = placesOf(9);
const CLOSELY = placesOf(27);
const ROUNDS = 6;
/** Room (m) kept between the legs, and how close to it is enough. */
const ROOM_M = 0.004;
const GOOD_M = 2e-5;
/** The search ends where no bump moves by more than this, rad. */
const SETTLED_RAD = 2e-3;
/** The most one round goes out (rad), and the least part of its way that helps. */
const WIDEST_RAD = 0.3;
const LEAST_HELP = 0.35;
/** The most (rad) a leg is taken out of its way whose foot turns by more than that: where turned feet cross so far there is no way round. */
const OUTERMOST_RAD = 0.35;
const TURNS_RAD = 0.1;
/** A leg is out of the way by its length below the hip, no less than this part of the thigh. */
const LEAST_LEVER = 0.2;

const widest = (angles: Float64Array): number => angles.reduce((most, a) => Math.max(most, Math.abs(a)), 0);

/** Takes the leg round the other one where that one stands in its way, by as little as does it; its foot turns by `turned` rad meanwhile. */
export function goRound(swing: Swing, place: SwingPlace, turned: number): void {
  // Only in turns do feet pass so close that the moment between two looks matters.
  if (turned <= TURNS_RAD) goneRound(swing, place, turned, PASSING, false);
  else if (!goneRound(swing, place, turned, PASSING, true)) goneRound(swing, place, turned, CLOSELY, false);
}

/** The same by looks at some parts of the swing; `gives` up, nothing done and false told, where one shows the other leg in the way. */
function goneRound(
  swing: Swing,
  { leg, side, joint, shape, other, thickness, aside }: SwingPlace,
  turned: number,
  places: Float64Array,
  gives: boolean,
): boolean {
  const outermost = turned > TURNS_RAD ? OUTERMOST_RAD : Infinity;
  const count = places.length;
  const clock = new Float64Array(1);
  const hips = new Float64Array(HIP_JOINT_SIZE * count);
  const hip = new Float64Array(HIP_JOINT_SIZE);
  const state = new Float64Array(FOOT_SIZE);
  const own = new Float64Array(LEG_POINTS_SIZE);
  const apart = new Float64Array(APART_SIZE);
  const r = new Float64Array(3);
  const outward = side === 0 ? 1 : -1;
  const bumps = [swing.early, swing.even, swing.late] as const;
  const others: (Float64Array | null)[] = [];
  for (let i = 0; i < count; i++) {
    clock[0] = swing.from + places[i]! * swing.duration;
    const points = new Float64Array(LEG_POINTS_SIZE);
    others.push(other(clock, points) ? points : null);
    if (!others[i]) continue;
    joint(clock, hip);
    hips.set(hip, i * HIP_JOINT_SIZE);
  }
  const gains = new Float64Array(BUMPS * count),
    needs = new Float64Array(count);
  const gone = new Float64Array(BUMPS),
    wanted = new Float64Array(BUMPS);
  let clear: Float64Array | null = null;
  let moved = 0;
  for (let round = 0; round < ROUNDS; round++) {
    let most = 0;
    for (let i = 0; i < count; i++) {
      const standing = others[i];
      if (!standing) continue;
      const u = places[i]!;
      hip.set(hips.subarray(i * HIP_JOINT_SIZE, (i + 1) * HIP_JOINT_SIZE));
      stateAt(swing, u, state, 0);
      toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
      for (let k = 0; k < 3; k++) state[k] = hip[k]! + r[k]!;
      shape(hip, state, own);
      legsApart(own, standing, thickness, apart);
      needs[i] = apart[APART.short]! + ROOM_M;
      most = Math.max(most, needs[i]!);
      const helps = outward * (apart[APART.across]! * swing.cos - apart[APART.across + 2]! * swing.sin);
      const lever = Math.max(LEAST_LEVER * leg.thigh, apart[APART.lever]!) * Math.max(LEAST_HELP, helps);
      for (let k = 0; k < BUMPS; k++) {
        gains[BUMPS * i + k] = lever * BUMP_OF[k]!(u);
        needs[i] = needs[i]! + gains[BUMPS * i + k]! * gone[k]!;
      }
    }
    if (round === 0 && most > GOOD_M && gives) return false;
    if (most <= GOOD_M && moved < SETTLED_RAD) return true;
    // What is out of the way once is so in the end, though less be asked for from there: a search that goes to and fro ends on its good side.
    if (places === CLOSELY && most <= GOOD_M && (!clear || widest(gone) < widest(clear))) clear = gone.slice();
    bumpsNeeded(places, gains, needs, wanted);
    moved = 0;
    for (let k = 0; k < BUMPS; k++) moved = Math.max(moved, Math.abs(go(k, clamp(wanted[k]!, -outermost, outermost))));
  }
  if (clear) for (let k = 0; k < BUMPS; k++) go(k, clear[k]!);
  keepUnder();
  return true;

  /** Takes back what leads the leg too far to the side. */
  function keepUnder(): void {
    let share = 1;
    for (const u of places) {
      stateAt(swing, u, state, 0);
      const all = outward * state[LEG_ANGLE.left]!;
      const added = gone.reduce((sum, by, k) => sum + by * BUMP_OF[k]!(u), 0);
      if (added > 0 && all > aside) share = Math.min(share, Math.max(0, 1 - (all - aside) / added));
    }
    if (share < 1) for (let k = 0; k < BUMPS; k++) bumps[k]![LEG_ANGLE.left] = bumps[k]![LEG_ANGLE.left]! - outward * (1 - share) * gone[k]!;
  }

  /** Takes a bump towards an angle; returns by how much. */
  function go(k: number, to: number): number {
    const by = clamp(to - gone[k]!, -WIDEST_RAD, WIDEST_RAD);
    gone[k] = gone[k]! + by;
    bumps[k]![LEG_ANGLE.left] = bumps[k]![LEG_ANGLE.left]! + outward * by;
    return by;
  }
}
