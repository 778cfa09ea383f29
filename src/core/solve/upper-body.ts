import { ARM_ROWS, ROW, type Style } from '../gait/style';
import { setXzx, setYxz, setYz } from '../math/euler';
import { multiply, multiplyConjugate, setAxisFrom, setIdentity, slerp, type Numbers } from '../math/quaternion';
import { clamp } from '../math/scalar';
import { ARMS_EXTRA, ARMS_EXTRA_SIZE } from './clear-arms';
import { splitRotation } from './split';
import { ARM_TARGET, armAt, TARGET, type Targets } from './targets';

/** The elbow never opens past this (rad), nor closes further than that. */
const STRAIGHTEST_ELBOW_RAD = 0.03;
const FURTHEST_ELBOW_RAD = 2.5;
/** A hand at rest hangs a little inward, rad. */
const HAND_IN_RAD = 0.06;
const HAND_IN_SIN = Math.sin(HAND_IN_RAD / 2),
  HAND_IN_COS = Math.cos(HAND_IN_RAD / 2);

/** Rotation about X by its half angle's sine and cosine. */
function about(out: Numbers, o: number, s: number, c: number): void {
  out[o] = s;
  out[o + 1] = out[o + 2] = 0;
  out[o + 3] = c;
}

/** Aims chest, head and arms from a style's rows. */
export interface UpperBody {
  /** Extra angles (ARMS_EXTRA) by which arms stay clear of the body. */
  readonly extra: Float64Array;
  /** Writes chest, head and arms into the targets, whose root and hips are set. Allocates nothing. */
  aim(rows: Float64Array, targets: Targets): void;
}

/** The aimer of one motion's upper body; `style` says whether spine and head answer late. */
export function createUpperBody({ spineFollows, headFollows }: Style): UpperBody {
  const extra = new Float64Array(ARMS_EXTRA_SIZE);
  const angles = new Float64Array(3);
  const q = new Float64Array(16);
  // The last heading and its rotation.
  const turned = Float64Array.of(NaN, 0, 0, 0, 1);

  /** World orientation of the chest from three rows, into out[o..]. */
  function setChest(rows: Float64Array, row: number, yaw: number, out: Float64Array, o: number): void {
    angles[0] = yaw + rows[row]!;
    angles[1] = rows[row + 1]!;
    angles[2] = rows[row + 2]!;
    setYxz(out, o, angles, 0);
  }

  function spine(rows: Float64Array, targets: Targets): void {
    const yaw = targets[TARGET.root + 3]!;
    setChest(rows, ROW.chestTurn, yaw, targets, TARGET.chest);
    const curve = rows[ROW.spineCurve]!;
    // The back goes out between two joints that turn one way and one that turns back twice: the chest stays where it is.
    const cs = Math.sin(curve / 2),
      cc = Math.cos(curve / 2);
    about(targets, TARGET.spineShare, -cs, cc);
    about(targets, TARGET.chestBefore, cs, cc);
    about(targets, TARGET.chestShare, cs, cc);
    if (!spineFollows) return;
    // The lowest joint leads with its share of the unfollowed trunk; the two above bring the chest to its late place.
    multiplyConjugate(q, 0, targets, TARGET.hipsTurn, targets, TARGET.chest);
    splitRotation(q, 4, q, 0, 3);
    setChest(rows, ROW.leadTurn, yaw, q, 8);
    multiplyConjugate(q, 12, targets, TARGET.hipsTurn, q, 8);
    splitRotation(q, 8, q, 12, 3);
    multiplyConjugate(q, 12, q, 8, q, 0);
    splitRotation(q, 12, q, 12, 2);
    // Against the even third: spine = lead · curve, chest = curve · half · curve.
    multiplyConjugate(q, 0, q, 4, q, 8);
    multiply(targets, TARGET.spineShare, q, 0, targets, TARGET.spineShare);
    multiplyConjugate(q, 0, q, 4, q, 12);
    multiply(targets, TARGET.chestShare, q, 0, targets, TARGET.chestShare);
  }

  function head(rows: Float64Array, targets: Targets): void {
    const yaw = targets[TARGET.root + 3]!;
    // The gaze against the facing; what the head does not hold still it does with the chest, late where it follows.
    setYxz(q, 0, rows, ROW.headTurn);
    if (headFollows) setChest(rows, ROW.carryTurn, yaw, q, 4);
    else for (let k = 0; k < 4; k++) q[4 + k] = targets[TARGET.chest + k]!;
    multiply(q, 4, q, 4, q, 0);
    if (yaw !== turned[0]) {
      turned[0] = yaw;
      setAxisFrom(turned, 1, 1, turned, 0);
    }
    multiply(q, 8, turned, 1, q, 0);
    slerp(targets, TARGET.head, q, 4, q, 8, rows[ROW.steadiness]!);
    setIdentity(targets, TARGET.neckShare);
  }

  function arm(side: 0 | 1, rows: Float64Array, targets: Targets): void {
    const sign = side === 0 ? 1 : -1;
    const r = side * ARM_ROWS;
    const a = armAt(side) + ARM_TARGET.rotations;
    const up = rows[ROW.shoulderUp + r]!,
      out = rows[ROW.armOut + r]! + extra[side]!;
    angles[0] = sign * rows[ROW.shoulder + r]!;
    angles[1] = sign * up;
    setYz(targets, a, angles, 0);
    angles[0] = -rows[ROW.armSwing + r]!;
    angles[1] = -sign * (Math.PI / 2 - out + up);
    angles[2] = rows[ROW.inward + r]!;
    setXzx(targets, a + 4, angles, 0);
    angles[0] = -sign * clamp(rows[ROW.elbow + r]! + extra[ARMS_EXTRA.elbow + side]!, STRAIGHTEST_ELBOW_RAD, FURTHEST_ELBOW_RAD);
    setAxisFrom(targets, a + 8, 1, angles, 0);
    // Z by the hand's hang, then Y by its bend.
    const half = (-sign * rows[ROW.hand + r]!) / 2;
    const hs = half === 0 ? 0 : Math.sin(half),
      hc = half === 0 ? 1 : Math.cos(half);
    targets[a + 12] = sign * HAND_IN_SIN * hs;
    targets[a + 13] = HAND_IN_COS * hs;
    targets[a + 14] = -sign * HAND_IN_SIN * hc;
    targets[a + 15] = HAND_IN_COS * hc;
  }

  return {
    extra,
    aim(rows, targets) {
      spine(rows, targets);
      head(rows, targets);
      arm(0, rows, targets);
      arm(1, rows, targets);
    },
  };
}
