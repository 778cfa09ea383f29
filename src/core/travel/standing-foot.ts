import { soleRotation } from '../body/foot-frame';
import { multiply, rotateFrom } from '../math/quaternion';
import type { FootSeries } from './foot-series';
import type { Stand } from './foot-stand';

/** Angles of a locked foot at a picture, beside those it stands with: turn, lift and roll of the sole, pitch of the toes. */
export interface Rolled {
  readonly turn: number;
  readonly lift: number;
  readonly roll: number;
  readonly toes: number;
}

/** What a standing foot turns about. */
export type Pivot = 'heel' | 'ball' | 'tip';

/** A foot that stands: where its ankle, sole and toes are for angles it is rolled by, its pivot where it is. */
export function standingFoot({ frame }: FootSeries, stand: Stand) {
  const sole = new Float64Array(4),
    toes = new Float64Array(4),
    ankle = new Float64Array(3),
    relation = new Float64Array(4),
    flat = new Float64Array(4),
    v = new Float64Array(3),
    hinge = new Float64Array(3),
    pivot = new Float64Array(3);
  soleRotation(stand.heading, stand.pitch, stand.roll, flat, 0);
  soleRotation(stand.toesHeading, stand.toesPitch, stand.roll, toes, 0);
  conjugateTimes(relation, flat, toes);
  const turned = (rolled: Rolled) => {
    soleRotation(stand.heading + rolled.turn, stand.pitch + rolled.lift, stand.roll + rolled.roll, sole, 0);
    if (stand.bears === 'heel' || rolled.lift > 0) multiply(toes, 0, sole, 0, relation, 0);
    else soleRotation(stand.toesHeading + rolled.turn, stand.toesPitch + rolled.toes, stand.roll, toes, 0);
  };
  const place = (rolled: Rolled, about: Pivot) => {
    turned(rolled);
    if (about === 'heel') {
      rotateFrom(v, 0, sole, 0, frame.heel, 0);
      for (let k = 0; k < 3; k++) ankle[k] = pivot[k]! - v[k]!;
      return;
    }
    rotateFrom(v, 0, toes, 0, about === 'ball' ? frame.ball : frame.tip, 0);
    for (let k = 0; k < 3; k++) hinge[k] = pivot[k]! - v[k]!;
    rotateFrom(v, 0, sole, 0, frame.hinge, 0);
    for (let k = 0; k < 3; k++) ankle[k] = hinge[k]! - v[k]!;
  };
  /** Takes the pivot from where the foot is now. */
  const takePivot = (about: Pivot) => {
    if (about === 'heel') {
      rotateFrom(v, 0, sole, 0, frame.heel, 0);
      for (let k = 0; k < 3; k++) pivot[k] = ankle[k]! + v[k]!;
      return;
    }
    rotateFrom(v, 0, sole, 0, frame.hinge, 0);
    for (let k = 0; k < 3; k++) pivot[k] = ankle[k]! + v[k]!;
    rotateFrom(v, 0, toes, 0, about === 'ball' ? frame.ball : frame.tip, 0);
    for (let k = 0; k < 3; k++) pivot[k] = pivot[k]! + v[k]!;
  };
  const levelled = (rolled: Rolled): Rolled => ({ ...rolled, lift: 0, roll: 0, toes: 0 });
  return {
    sole,
    toes,
    ankle,
    place,
    /** Puts the foot where it stands, as it is rolled there. */
    stand(rolled: Rolled, about: Pivot): void {
      pivot.set(stand.at);
      if (stand.bears !== 'sole') return;
      place(levelled(rolled), 'ball');
      takePivot(about);
    },
    /** From one pivot to the next, over the sole as it lies flat between them. */
    handOver(rolled: Rolled, from: Pivot, to: Pivot): void {
      place(levelled(rolled), from);
      takePivot(to);
    },
  };
}

/** out = conj(a) · b. */
function conjugateTimes(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, [-a[0]!, -a[1]!, -a[2]!, a[3]!], 0, b, 0);
}
