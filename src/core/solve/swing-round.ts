import { clamp } from '../math/scalar';
import { FOOT_SIZE } from './foot-state';
import { LEG_ANGLE, toLegLine } from './leg-angles';
import { APART, APART_SIZE, HIP_JOINT_SIZE, LEG_POINTS_SIZE, legsApart } from './leg-shape';
import { BUMP_OF, BUMPS, bumpsNeeded, stateAt, type Swing, type SwingPlace } from './swing-state';

/** Where a swing is looked at for the other leg, and rounds of going out of its way. */
const PASSING = Float64Array.from({ length: 9 }, (_, i) => 0.03 + (0.94 * (i + 0.5)) / 9);
const ROUNDS = 6;
/** Room (m) kept between the legs, and how close to it is enough. */
const ROOM_M = 0.004;
const GOOD_M = 2e-5;
/** The search ends where no bump moves by more than this, rad. */
const SETTLED_RAD = 2e-3;
/** The most one round goes out (rad), and the least part of its way that helps. */
const WIDEST_RAD = 0.3;
const LEAST_HELP = 0.35;
/** The most (rad) a leg is taken out of its way, and one whose foot turns by more than that: where feet cross so far there is no way round. */
const OUTERMOST_RAD = 0.7;
const OUTERMOST_TURNED_RAD = 0.35;
const TURNS_RAD = 0.1;
/** A leg is out of the way by its length below the hip, no less than this part of the thigh. */
const LEAST_LEVER = 0.2;

/** Takes the leg round the other one where that one stands in its way, by as little as does it; its foot turns by `turned` rad meanwhile. */
export function goRound(swing: Swing, { leg, side, joint, shape, other, thickness }: SwingPlace, turned: number): void {
  const outermost = turned > TURNS_RAD ? OUTERMOST_TURNED_RAD : OUTERMOST_RAD;
  const count = PASSING.length;
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
    clock[0] = swing.from + PASSING[i]! * swing.duration;
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
  let moved = 0;
  for (let round = 0; round < ROUNDS; round++) {
    let most = 0;
    for (let i = 0; i < count; i++) {
      const standing = others[i];
      if (!standing) continue;
      const u = PASSING[i]!;
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
    if (most <= GOOD_M && moved < SETTLED_RAD) return;
    bumpsNeeded(PASSING, gains, needs, wanted);
    moved = 0;
    for (let k = 0; k < BUMPS; k++) {
      const by = clamp(clamp(wanted[k]!, -outermost, outermost) - gone[k]!, -WIDEST_RAD, WIDEST_RAD);
      gone[k] = gone[k]! + by;
      moved = Math.max(moved, Math.abs(by));
      bumps[k]![LEG_ANGLE.left] = bumps[k]![LEG_ANGLE.left]! + outward * by;
    }
  }
}
