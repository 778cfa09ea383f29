import { SIDES } from '../body/roles';
import { ARM_ROWS, ROW, type Style } from '../gait/style';
import { multiply, multiplyAxisFrom, multiplyConjugate, setAxisFrom, setIdentity, slerp } from '../math/quaternion';
import { clamp } from '../math/scalar';
import { splitRotation } from './split';
import { ARM_TARGET, armAt, TARGET, type Targets } from './targets';

/** The elbow never opens past this (rad), nor closes further than that. */
const STRAIGHTEST_ELBOW_RAD = 0.03;
const FURTHEST_ELBOW_RAD = 2.5;
/** A hand at rest hangs a little inward, rad. */
const HAND_IN_RAD = 0.06;

/** Aims chest, head and arms from a style's rows. */
export interface UpperBody {
  /** Extra angle (rad) by which each arm goes out so that it stays clear of the trunk. */
  readonly armsOut: Float64Array;
  /** Writes chest, head and arms into the targets, whose root and hips are set. Allocates nothing. */
  aim(rows: Float64Array, targets: Targets): void;
}

/** The aimer of one motion's upper body; `style` says whether spine and head answer late. */
export function createUpperBody({ spineFollows, headFollows }: Style): UpperBody {
  const armsOut = new Float64Array(2);
  const angles = new Float64Array(3);
  const q = new Float64Array(16);

  /** World orientation of the chest from three rows, into out[o..]. */
  function setChest(rows: Float64Array, row: number, yaw: number, out: Float64Array, o: number): void {
    angles[0] = yaw + rows[row]!;
    setAxisFrom(out, o, 1, angles, 0);
    multiplyAxisFrom(out, o, out, o, 0, rows, row + 1);
    multiplyAxisFrom(out, o, out, o, 2, rows, row + 2);
  }

  function spine(rows: Float64Array, targets: Targets): void {
    const yaw = targets[TARGET.root + 3]!;
    setChest(rows, ROW.chestTurn, yaw, targets, TARGET.chest);
    setIdentity(targets, TARGET.spineShare);
    setIdentity(targets, TARGET.chestShare);
    const curve = rows[ROW.spineCurve]!;
    if (!spineFollows && curve === 0) return;
    // What spine and chest joints do, against an even third each; the joint above closes the way to the chest.
    multiplyConjugate(q, 0, targets, TARGET.hipsTurn, targets, TARGET.chest);
    splitRotation(q, 4, q, 0, 3);
    q.copyWithin(8, 4, 8);
    q.copyWithin(12, 4, 8);
    if (spineFollows) {
      // The lowest joint leads with its share of the unfollowed trunk; the two above bring the chest to its late place.
      setChest(rows, ROW.leadTurn, yaw, q, 8);
      multiplyConjugate(q, 12, targets, TARGET.hipsTurn, q, 8);
      splitRotation(q, 8, q, 12, 3);
      multiplyConjugate(q, 12, q, 8, q, 0);
      splitRotation(q, 12, q, 12, 2);
    }
    if (curve !== 0) {
      // The back goes out between two joints that turn one way and one that turns back twice: the chest stays where it is.
      angles[0] = -curve;
      angles[1] = curve;
      multiplyAxisFrom(q, 8, q, 8, 0, angles, 0);
      setAxisFrom(q, 0, 0, angles, 1);
      multiply(q, 12, q, 0, q, 12);
      multiplyAxisFrom(q, 12, q, 12, 0, angles, 1);
    }
    multiplyConjugate(targets, TARGET.spineShare, q, 4, q, 8);
    multiplyConjugate(targets, TARGET.chestShare, q, 4, q, 12);
  }

  function head(rows: Float64Array, targets: Targets): void {
    const yaw = targets[TARGET.root + 3]!;
    // The gaze against the facing; what the head does not hold still it does with the chest, late where it follows.
    setAxisFrom(q, 0, 1, rows, ROW.headTurn);
    multiplyAxisFrom(q, 0, q, 0, 0, rows, ROW.headNod);
    multiplyAxisFrom(q, 0, q, 0, 2, rows, ROW.headList);
    if (headFollows) setChest(rows, ROW.carryTurn, yaw, q, 4);
    else for (let k = 0; k < 4; k++) q[4 + k] = targets[TARGET.chest + k]!;
    multiply(q, 4, q, 4, q, 0);
    angles[0] = yaw;
    setAxisFrom(q, 8, 1, angles, 0);
    multiply(q, 8, q, 8, q, 0);
    slerp(targets, TARGET.head, q, 4, q, 8, rows[ROW.steadiness]!);
    setIdentity(targets, TARGET.neckShare);
  }

  function arm(side: 0 | 1, rows: Float64Array, targets: Targets): void {
    const sign = side === 0 ? 1 : -1;
    const r = side * ARM_ROWS;
    const a = armAt(side) + ARM_TARGET.rotations;
    const up = rows[ROW.shoulderUp + r]!,
      out = rows[ROW.armOut + r]! + armsOut[side]!;
    angles[0] = sign * rows[ROW.shoulder + r]!;
    angles[1] = sign * up;
    setAxisFrom(targets, a, 1, angles, 0);
    multiplyAxisFrom(targets, a, targets, a, 2, angles, 1);
    angles[0] = -rows[ROW.armSwing + r]!;
    angles[1] = -sign * (Math.PI / 2 - out + up);
    setAxisFrom(targets, a + 4, 0, angles, 0);
    multiplyAxisFrom(targets, a + 4, targets, a + 4, 2, angles, 1);
    multiplyAxisFrom(targets, a + 4, targets, a + 4, 0, rows, ROW.inward + r);
    angles[0] = -sign * clamp(rows[ROW.elbow + r]!, STRAIGHTEST_ELBOW_RAD, FURTHEST_ELBOW_RAD);
    angles[1] = -sign * HAND_IN_RAD;
    setAxisFrom(targets, a + 8, 1, angles, 0);
    setAxisFrom(targets, a + 12, 2, angles, 1);
    angles[2] = -sign * rows[ROW.hand + r]!;
    if (angles[2] !== 0) multiplyAxisFrom(targets, a + 12, targets, a + 12, 1, angles, 2);
  }

  return {
    armsOut,
    aim(rows, targets) {
      spine(rows, targets);
      head(rows, targets);
      for (const side of SIDES) arm(side, rows, targets);
    },
  };
}
