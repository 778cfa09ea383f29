import type { Body } from '../body/body';
import { measuredBody } from '../body/measured';
import { JOINT, type Role } from '../body/roles';
import { PARAMETER_LIST } from '../gait/parameters';
import { isSplit, readValue } from '../gait/access';
import { fitGait } from '../gait/fit';
import { PRESETS } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { structuredCloneGait } from '../gait/timing';
import { addRow, createBand, solveBand } from '../math/band';
import { multiply } from '../math/quaternion';
import { toRotationVector } from '../math/rotation-vector';
import { toDegrees, toRadians } from '../math/scalar';
import { cycle } from '../motion/solved';
import type { Analysis } from './analysis';
import { clipView } from './clip-view';
import type { Layer } from './layer-spec';
import { gaitNumbers, keyNumbers, withKeys, type GaitNumbers } from './gait-numbers';
import { createLookReader, LOOK, LOOKS, meanStride, type MeanStride } from './mean-stride';
import { prepareClip } from './prepare';
import { defaultTravel, type TravelSpec } from './spec';

/** A gait fitted to a stride, and how far its joints are off from the stride's, degrees root mean square. */
export interface TakenGait {
  readonly gait: GaitSpec;
  /** About any axis, trunk and head as they are turned in the world. */
  readonly off: Readonly<Partial<Record<Role, number>>>;
  /** Of hips, knees and ankles what they are bent by alone, the worse of both sides. */
  readonly bent: { readonly hip: number; readonly knee: number; readonly ankle: number };
}

/** Why a clip has none. */
export const NO_STRIDE = 'nowhere does a foot land, the other one after it, and the first again, without a sharp turn between';

/** The mean stride of a clip, corrected as `travel` and `stacks` say, on the body measured on it; null where it has none. */
export function clipStride(
  analysis: Analysis,
  name: string,
  travel: TravelSpec = defaultTravel(),
  stacks: readonly (readonly Layer[])[] = [],
): { stride: MeanStride; body: Body } | null {
  const { figure, floor } = analysis;
  // A clip in place goes where its feet ask for; a stride is taken with all of its travel.
  const kind = travel.kind !== 'none' && !(travel.kind === 'asIs' && analysis.inPlace) ? travel.kind : analysis.inPlace ? 'contacts' : 'asIs';
  const { clip, contacts, put } = prepareClip(figure, { ...travel, kind, axes: defaultTravel().axes }, analysis, stacks);
  const measured = measuredBody(clip.skeleton, figure, name);
  const view = clipView({ clip, figure, contacts, places: put.places, floor }, measured);
  const stride = meanStride(view, clip, contacts);
  return stride && { stride, body: measured.body };
}

/** Joints that are looked at, and what of an angle (rad) counts alike. Trunk and head are looked at in the world. */
const LOOKED: readonly (readonly [Role, number])[] = [
  ['hips', toRadians(1.5)],
  ['upperChest', toRadians(1.5)],
  ['head', toRadians(3)],
  ...(['left', 'right'] as const).flatMap((side): [Role, number][] => [
    [`${side}UpperLeg`, toRadians(1.5)],
    [`${side}LowerLeg`, toRadians(1.5)],
    [`${side}Foot`, toRadians(1.5)],
    [`${side}Toes`, toRadians(8)],
    [`${side}Shoulder`, toRadians(6)],
    [`${side}UpperArm`, toRadians(3)],
    [`${side}LowerArm`, toRadians(3)],
    [`${side}Hand`, toRadians(10)],
  ]),
];
/** What of the hips' place (m) counts alike: left, up, forward. */
const PLACES_M = [0.012, 0.006, 0.02] as const;
const ROWS = LOOKED.length * 3 + 3;
/** Pull of every number to where it began, per step: what no pose shows stays. */
const HOME = 0.02;
/** Rounds at most; two in a row that better the fit by less than this part are the last. */
const ROUNDS = 24;
const ENOUGH = 0.001;
/** Steps in a row that are taken by amended columns. */
const OLDEST = 5;
/** Off by more than this (degrees, legs), a gait of two like sides is given two. */
const TWO_SIDES = 0.6;

/**
 * Fits a gait to a stride on a body: damped least squares (Levenberg, Marquardt) over the gait's numbers, each tried by making the
 * motion anew. Yields the part (0 to 1) that is done.
 */
export function* takingGait(stride: MeanStride, body: Body, name: string): Generator<number, TakenGait> {
  let fit: Fit = { gait: firstGait(stride, body, name), late: 0 };
  const off = () => offOf(fit, stride, body);
  fit = yield* fitted(fit, stride, body, gaitNumbers(fit.gait), [0, 0.4]);
  if (legsOff(off()) > TWO_SIDES) {
    const gait = twoSided(fit.gait);
    fit = yield* fitted({ ...fit, gait }, stride, body, gaitNumbers(gait), [0.4, 0.7]);
  }
  const before = off();
  const paths = CURVED.filter(({ roles, off: most }) => roles.some((role) => before[role]! > most)).flatMap((c) => c.paths);
  if (paths.length > 0) {
    const { gait } = fit;
    const curved = yield* fitted({ ...fit, gait: withKeys(gait, paths) }, stride, body, keyNumbers(gait, paths), [0.7, 1]);
    if (sumOf(offOf(curved, stride, body)) < WORTH_KEYS * sumOf(before)) fit = curved;
  }
  return { gait: fit.gait, off: off(), bent: bentOf(fit, stride, body) };
}

/** A gait, and by which part of the stride its landing comes after the one that was seen. */
interface Fit {
  readonly gait: GaitSpec;
  readonly late: number;
}
/** A step of that. */
const LATE_STEP = 0.005;

/** Channels that are given keys where a wave leaves any of these joints off by more than so many degrees. */
const CURVED: readonly { readonly roles: readonly Role[]; readonly off: number; readonly paths: readonly string[] }[] = [
  { roles: ['hips'], off: 1, paths: ['hips.turn', 'hips.list', 'hips.tilt'] },
  { roles: ['leftUpperLeg', 'rightUpperLeg', 'leftLowerLeg', 'rightLowerLeg'], off: 1.2, paths: ['hips.rise', 'hips.surge', 'hips.shift'] },
  { roles: ['upperChest'], off: 1, paths: ['trunk.lean', 'trunk.sideLean', 'trunk.counterTurn'] },
  { roles: ['head'], off: 2, paths: ['head.nod', 'head.turn', 'head.list'] },
  { roles: ['leftUpperArm', 'rightUpperArm'], off: 2, paths: ['arms.swing', 'arms.out'] },
  { roles: ['leftLowerArm', 'rightLowerArm'], off: 2, paths: ['arms.elbow'] },
];
/** Keys are worth their trouble where they leave less than this part of what was off. */
const WORTH_KEYS = 0.9;
const sumOf = (off: TakenGait['off']): number => Object.values(off).reduce((sum, v) => sum + v * v, 0);

/** Heels that are up a little roll in another way from heels that are down: either is begun with (rad). */
const TIPTOE = 0.15;

/** The gait of the library that comes nearest in the stride's time, length and contacts. */
function firstGait(stride: MeanStride, body: Body, name: string): GaitSpec {
  let [best, least] = [inTimeOf(stride, PRESETS[0]!.make(), body, name), Infinity];
  const tiptoe = (gait: GaitSpec): GaitSpec => ({ ...gait, feet: { ...gait.feet, heelUp: TIPTOE } });
  for (const gait of PRESETS.map(({ make }) => inTimeOf(stride, make(), body, name)).flatMap((g) => (g.feet.heelUp > 0 ? [g] : [g, tiptoe(g)]))) {
    const cost = residuals({ gait, late: 0 }, stride, body).reduce((sum, r) => sum + r * r, 0);
    if (cost < least) [best, least] = [gait, cost];
  }
  return best;
}

/** Feet that stand for parts of the stride that differ by less do so alike. */
const STAND_ALIKE = 0.02;

function inTimeOf({ strideTime, strideLength, direction, stands, rightLands }: MeanStride, source: GaitSpec, body: Body, name: string): GaitSpec {
  const gait = structuredCloneGait(fitGait(source, body.legLength));
  const alike = Math.abs(stands[0] - stands[1]) < STAND_ALIKE;
  Object.assign(gait, {
    name,
    about: 'Fitted to a clip.',
    tags: [],
    carry: 'nothing',
    right: alike ? {} : { 'timing.dutyFactor': stands[1] },
  });
  Object.assign(gait.timing, {
    strideTime,
    strideLength,
    speed: strideLength / strideTime,
    homeStride: Math.max(0.05, strideLength),
    amountsFollow: 1,
    dutyFactor: alike ? (stands[0] + stands[1]) / 2 : stands[0],
    leftLeg: 0,
    rightLeg: rightLands,
    skip: 0,
  });
  gait.head.lookAround = 0;
  gait.direction = { ...gait.direction, travel: direction, hips: 0, feet: 0, chest: 0 };
  return gait;
}

/** The gait with a right side of its own everywhere. */
function twoSided(gait: GaitSpec): GaitSpec {
  const next = structuredCloneGait(gait);
  for (const entry of PARAMETER_LIST)
    if (entry.parameter.perSide && !isSplit(gait, entry.path)) next.right[entry.path] = structuredCloneGait(readValue(gait, entry) as never) as never;
  return next;
}

function* fitted(start: Fit, stride: MeanStride, body: Body, numbers: GaitNumbers, [done, over]: readonly [number, number]): Generator<number, Fit> {
  const part = (round: number, u: number) => done + ((round + u) / ROUNDS) * (over - done);
  // The gait's numbers, and how late it is.
  const count = numbers.count + 1;
  const steps = Float64Array.of(...numbers.steps, LATE_STEP);
  const home = Float64Array.of(...numbers.read(start.gait), start.late);
  const write = (x: Float64Array): Fit => ({ gait: numbers.write(fit.gait, x), late: x[count - 1]! });
  let fit = start;
  let x = home.slice();
  fit = write(x);
  let residual = residuals(fit, stride, body);
  let cost = costOf(residual, x, home, steps);
  let damping = 0.01;
  let small = 0;
  const columns = Array.from({ length: count }, () => new Float64Array(0));
  let age = OLDEST;
  for (let round = 0; round < ROUNDS; round++) {
    if (age >= OLDEST) {
      age = 0;
      yield* differences(round);
    }
    let better = false;
    for (let attempt = 0; attempt < 10 && !better; attempt++) {
      const step = solve(columns, residual, x, home, steps, damping);
      const tried = x.map((v, i) => v + step[i]! * steps[i]!);
      const to = write(tried);
      const r = residuals(to, stride, body);
      const now = costOf(r, tried, home, steps);
      if (now < cost) {
        better = true;
        damping = Math.max(1e-4, damping / 4);
        small = 1 - now / cost < ENOUGH ? small + 1 : 0;
        amend(
          columns,
          tried.map((v, i) => (v - x[i]!) / steps[i]!),
          r.map((v, k) => v - residual[k]!),
        );
        [x, fit, residual, cost] = [tried, to, r, now];
      } else damping *= 5;
      // What was amended may point nowhere: looked at anew sooner than with ever smaller steps.
      if (!better && age > 0 && attempt === 1) break;
      yield part(round, 0.9);
    }
    if ((!better && age === 0) || small > 1) return fit;
    age = better && small === 0 ? age + 1 : OLDEST;
  }
  return fit;

  /** Columns by trying each number. */
  function* differences(round: number): Generator<number, void> {
    for (let i = 0; i < count; i++) {
      columns[i] = difference(i, 1) ?? difference(i, -1) ?? new Float64Array(residual.length);
      yield part(round, (0.9 * i) / count);
    }
  }

  /** What a step of a number does; null where it is at a limit. */
  function difference(i: number, sign: 1 | -1): Float64Array<ArrayBuffer> | null {
    const tried = x.slice();
    tried[i] = tried[i]! + sign * steps[i]!;
    const to = write(tried);
    const by = (tried[i]! - x[i]!) / steps[i]!;
    if (Math.abs(by) < 0.5) return null;
    return residuals(to, stride, body).map((v, k) => (v - residual[k]!) / by);
  }
}

/** Takes into the columns what a step really did: the least change that does (Broyden 1965). */
function amend(columns: readonly Float64Array[], step: Float64Array, did: Float64Array): void {
  const square = step.reduce((sum, v) => sum + v * v, 0);
  if (square === 0) return;
  const missed = did.map((v, k) => v - columns.reduce((sum, c, i) => sum + c[k]! * step[i]!, 0));
  columns.forEach((c, i) => {
    const by = step[i]! / square;
    if (by !== 0) for (let k = 0; k < c.length; k++) c[k] = c[k]! + missed[k]! * by;
  });
}

const costOf = (residual: Float64Array, x: Float64Array, home: Float64Array, steps: Float64Array): number =>
  residual.reduce((sum, r) => sum + r * r, 0) + x.reduce((sum, v, i) => sum + (HOME * ((v - home[i]!) / steps[i]!)) ** 2, 0);

/** Steps (each in its own measure) that better the fit most as far as it is linear, damped. */
function solve(
  columns: readonly Float64Array[],
  residual: Float64Array,
  x: Float64Array,
  home: Float64Array,
  steps: Float64Array,
  damping: number,
): Float64Array {
  const n = columns.length;
  const band = createBand(n, n, false);
  const row = new Float64Array(n);
  for (let k = 0; k < residual.length; k++) {
    for (let i = 0; i < n; i++) row[i] = columns[i]![k]!;
    addRow(band, 0, n, row, residual[k]!);
  }
  for (let i = 0; i < n; i++) {
    row[0] = HOME;
    addRow(band, i, 1, row, (HOME * (x[i]! - home[i]!)) / steps[i]!);
    const size = columns[i]!.reduce((sum, v) => sum + v * v, 0);
    row[0] = Math.sqrt(damping * (size + 1e-6));
    addRow(band, i, 1, row, 0);
  }
  const step = band.right.slice();
  solveBand(band, step);
  return step;
}

/** What is off at each look, each in its own measure: joints as rotation vectors, the hips' place without what is always so along the way. */
function residuals(fit: Fit, stride: MeanStride, body: Body): Float64Array<ArrayBuffer> {
  const looks = looksOf(fit, stride, body);
  const out = new Float64Array(LOOKS * ROWS);
  const weight = 1 / Math.sqrt(LOOKS);
  const mean = [0, 0, 0];
  for (let i = 0; i < LOOKS; i++) for (const k of [0, 2]) mean[k] = mean[k]! + (looks[i * LOOK + k]! - stride.looks[i * LOOK + k]!) / LOOKS;
  for (let i = 0; i < LOOKS; i++) {
    const o = i * ROWS;
    LOOKED.forEach(([role, size], j) => {
      between(looks, stride.looks, i, role, V);
      for (let k = 0; k < 3; k++) out[o + j * 3 + k] = (weight * V[k]!) / size;
    });
    for (let k = 0; k < 3; k++) out[o + LOOKED.length * 3 + k] = (weight * (looks[i * LOOK + k]! - stride.looks[i * LOOK + k]! - mean[k]!)) / PLACES_M[k]!;
  }
  return out;
}

const D = new Float64Array(4);
const V = new Float64Array(3);

/** From the stride's turn of a joint to another look's, as a rotation vector. */
function between(a: Float64Array, b: Float64Array, look: number, role: Role, out: Float64Array): void {
  const at = look * LOOK + (role === 'hips' ? 3 : 7 + JOINT[role] * 4);
  multiply(D, 0, a, at, [-b[at]!, -b[at + 1]!, -b[at + 2]!, b[at + 3]!], 0);
  toRotationVector(out, 0, D, 0);
}

function looksOf({ gait, late }: Fit, stride: MeanStride, body: Body): Float64Array {
  const motion = cycle(gait, body);
  const read = createLookReader(motion);
  const looks = new Float64Array(LOOKS * LOOK);
  const look = new Float64Array(LOOK);
  const { speed } = gait.timing;
  const [dx, dz] = [Math.sin(stride.direction), Math.cos(stride.direction)];
  for (let i = 0; i < LOOKS; i++) {
    const t = (i / LOOKS + late) * stride.strideTime;
    read(t, dx * speed * t, dz * speed * t, 0, look);
    looks.set(look, i * LOOK);
  }
  return looks;
}

/** How far each joint is off, degrees root mean square over the stride. */
function offOf(fit: Fit, stride: MeanStride, body: Body): TakenGait['off'] {
  const looks = looksOf(fit, stride, body);
  const off: Partial<Record<Role, number>> = {};
  for (const [role] of LOOKED) {
    let sum = 0;
    for (let i = 0; i < LOOKS; i++) {
      between(looks, stride.looks, i, role, V);
      sum += V[0]! ** 2 + V[1]! ** 2 + V[2]! ** 2;
    }
    off[role] = toDegrees(Math.sqrt(sum / LOOKS));
  }
  return off;
}

/** Bend is about the axis across: the first part of a leg joint's rotation vector. */
function bentOf(fit: Fit, stride: MeanStride, body: Body): TakenGait['bent'] {
  const looks = looksOf(fit, stride, body);
  const worse = (part: 'UpperLeg' | 'LowerLeg' | 'Foot') =>
    Math.max(
      ...(['left', 'right'] as const).map((side) => {
        let sum = 0;
        for (let i = 0; i < LOOKS; i++) {
          between(looks, stride.looks, i, `${side}${part}`, V);
          sum += V[0]! ** 2;
        }
        return toDegrees(Math.sqrt(sum / LOOKS));
      }),
    );
  return { hip: worse('UpperLeg'), knee: worse('LowerLeg'), ankle: worse('Foot') };
}

const legsOff = (off: TakenGait['off']): number =>
  Math.max(...(['left', 'right'] as const).flatMap((s) => [off[`${s}UpperLeg`]!, off[`${s}LowerLeg`]!, off[`${s}Foot`]!]));
