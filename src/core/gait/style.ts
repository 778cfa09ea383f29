import { SIDES } from '../body/roles';
import { TAU, wrapPhase } from '../math/scalar';
import { curvePieceAt, PIECE } from './curve';
import type { Channel } from './parameters';
import type { SidedGait } from './sides';
import type { GaitSpec } from './spec';
import { compileWave, type Follower, type Wave } from './wave';

/**
 * Rows of a style: everything of a gait that moves the body above its feet, each a number at a phase. Rows are linear:
 * two styles mix row by row. Lengths in m, angles in rad. Chest rows come three times: as the chest goes, as the lowest
 * joint of a following spine leads, and as a following head is carried.
 */
export const ROW = {
  height: 0,
  ahead: 1,
  aside: 2,
  sway: 3,
  turn: 4,
  list: 5,
  tilt: 6,
  chestTurn: 7,
  chestLean: 8,
  chestList: 9,
  leadTurn: 10,
  leadLean: 11,
  leadList: 12,
  carryTurn: 13,
  carryLean: 14,
  carryList: 15,
  spineCurve: 16,
  headTurn: 17,
  headNod: 18,
  headList: 19,
  steadiness: 20,
  straightest: 21,
  /** Left side; the right side's rows follow ARM_ROWS and one row on. */
  shoulder: 22,
  shoulderUp: 23,
  armSwing: 24,
  armOut: 25,
  inward: 26,
  elbow: 27,
  hand: 28,
  kneesOut: 36,
} as const;
type RowName = keyof typeof ROW;
/** Rows from an arm row of the left side to the same row of the right side. */
export const ARM_ROWS = 7;
export const ROW_COUNT = 38;

/** Numbers of a row's waves: cos and sin of one and of two waves a stride. */
const TERMS = 4;
/** No knee is planned straighter than this (rad): closer to straight a millimetre of the hips is three degrees and more of the knee. */
const STRAIGHTEST_RAD = 0.06;
/** Straightest bend (rad) that hips are planned for. */
export const straightestKnee = ({ legs }: GaitSpec): number => Math.max(STRAIGHTEST_RAD, legs.straightest);
/** The elbow (rad) of a figure that stands. */
const STANDING_ELBOW_RAD = 0.22;
/** What a standing figure keeps of its gait's posture, so that it stays the one it is: crouch and lean, knees, elbows, arms out. */
const STANDING_SHARE = 0.5;
const STANDING_CROUCH_SHARE = 0.3;
const STANDING_KNEE_SHARE = 0.4;
const STANDING_ELBOW_SHARE = 0.25;
const HANGING_OUT_RAD = 0.09;
const HANGING_OUT_SHARE = 0.25;
/** Part of the arm's swing with which the shoulder girdle follows, so that the chest does not look like a board. */
const SHOULDER_FOLLOWS = -0.12;

/** A wave that is no plain cosine, added to one row. */
interface CurveTerm {
  readonly row: number;
  readonly weight: number;
  /** Added to the phase, strides. */
  readonly shift: number;
  readonly wave: Wave;
}

/** A gait compiled to rows. Read with `mixStyles`. */
export interface Style {
  /** What each row is without its waves. */
  readonly offsets: Float64Array;
  /** Rows that have plain waves, and their TERMS coefficients. */
  readonly waving: Int32Array;
  readonly waves: Float64Array;
  readonly curves: readonly CurveTerm[];
  /** A slow look to both sides: angle (rad) and how many strides it takes. */
  readonly look: number;
  readonly lookStrides: number;
  /** Whether spine and head answer late, so that their extra chest rows are of use. */
  readonly spineFollows: boolean;
  readonly headFollows: boolean;
}

/**
 * Writes the rows of styles mixed by weights[0], weights[1] … at clock[c] strides (whole strides count, for slow looks) to
 * out[0 .. ROW_COUNT). Allocates nothing; doubles come through arrays so that none is boxed.
 */
export function mixStyles(styles: readonly Style[], clock: Float64Array, c: number, weights: Float64Array, out: Float64Array): void {
  const first = styles[0]!.offsets,
    share = weights[0]!;
  for (let r = 0; r < ROW_COUNT; r++) out[r] = share * first[r]!;
  for (let i = 0; i < styles.length; i++) {
    const weight = weights[i]!;
    if (weight === 0) continue;
    const { offsets } = styles[i]!;
    if (i > 0) for (let r = 0; r < ROW_COUNT; r++) out[r] = out[r]! + weight * offsets[r]!;
    addWaves(styles[i]!, clock, c, weights, i, out);
  }
}

/** Rows that say where the hips and their joints are: all that legs are planned from. */
const HIP_ROWS = new Set<number>([ROW.height, ROW.ahead, ROW.aside, ROW.sway, ROW.turn, ROW.list, ROW.tilt, ROW.straightest, ROW.kneesOut, ROW.kneesOut + 1]);

/** The style with the waves of those rows alone, for who reads it often; the other rows stay at their offsets. */
export function hipsOnly(style: Style): Style {
  const known = HIPS_ONLY.get(style);
  if (known) return known;
  const kept = [...style.waving.keys()].filter((i) => HIP_ROWS.has(style.waving[i]!));
  const made = {
    ...style,
    waving: Int32Array.from(kept, (i) => style.waving[i]!),
    waves: Float64Array.from(kept.flatMap((i) => [...style.waves.subarray(i * TERMS, (i + 1) * TERMS)])),
    curves: style.curves.filter((c) => HIP_ROWS.has(c.row)),
    look: 0,
  };
  HIPS_ONLY.set(style, made);
  return made;
}
/** Styles never change, so the answer is kept with the object. */
const HIPS_ONLY = new WeakMap<Style, Style>();

/** Adds weights[w] × the waves of a style. */
function addWaves(style: Style, clock: Float64Array, c: number, weights: Float64Array, w: number, out: Float64Array): void {
  const weight = weights[w]!;
  const strides = clock[c]!;
  const phase = strides - Math.floor(strides);
  const c1 = Math.cos(TAU * phase),
    s1 = Math.sin(TAU * phase);
  const c2 = c1 * c1 - s1 * s1,
    s2 = 2 * s1 * c1;
  const { waving, waves, curves } = style;
  for (let i = 0, k = 0; i < waving.length; i++, k += TERMS) {
    const r = waving[i]!;
    out[r] = out[r]! + weight * (waves[k]! * c1 + waves[k + 1]! * s1 + waves[k + 2]! * c2 + waves[k + 3]! * s2);
  }
  for (let i = 0; i < curves.length; i++) {
    const term = curves[i]!;
    const { wave } = term;
    const pieces = wave.pieces!;
    const p = wrapPhase(phase + term.shift + wave.delay);
    const piece = curvePieceAt(pieces, p);
    const o = piece * PIECE;
    const x = wrapPhase(p - pieces.data[o]!);
    let value = pieces.data[o + 1]! + x * (pieces.data[o + 2]! + x * (pieces.data[o + 3]! + x * pieces.data[o + 4]!));
    if (wave.free !== null)
      value += Math.exp(-wave.decay * x) * (wave.free[piece * 2]! * Math.cos(wave.ring * x) + wave.free[piece * 2 + 1]! * Math.sin(wave.ring * x));
    out[term.row] = out[term.row]! + weight * term.weight * wave.amount * value;
  }
  if (style.look > 0) out[ROW.headTurn] = out[ROW.headTurn]! + weight * style.look * Math.sin((TAU * strides) / style.lookStrides);
}

/** Collects rows while a gait is compiled. */
class RowBank {
  private readonly offsets = new Float64Array(ROW_COUNT);
  private readonly waves = new Float64Array(ROW_COUNT * TERMS);
  private readonly curves: CurveTerm[] = [];
  constructor(private readonly strideTime: number) {}

  constant(row: RowName, value: number, side: 0 | 1 = 0): void {
    const r = rowAt(row, side);
    this.offsets[r] = this.offsets[r]! + value;
  }

  /** weight × the channel's wave, `late` strides later, as a follower answers it where there is one. */
  wave(row: RowName, weight: number, channel: Channel, waves: 1 | 2, follower?: Follower, late = 0, side: 0 | 1 = 0): void {
    if (weight === 0 || channel.amount === 0) return;
    const wave = compileWave(channel, waves, this.strideTime, follower);
    const at = rowAt(row, side);
    if (wave.pieces !== null) {
      this.curves.push({ row: at, weight, shift: -late, wave });
      return;
    }
    const angle = wave.turns * (wave.delay - late);
    const k = at * TERMS + (waves === 1 ? 0 : 2);
    this.waves[k] = this.waves[k]! + weight * wave.amount * Math.cos(angle);
    this.waves[k + 1] = this.waves[k + 1]! - weight * wave.amount * Math.sin(angle);
  }

  /** A wave of which `share` answers late. */
  followed(row: RowName, weight: number, channel: Channel, waves: 1 | 2, share: number, follower: Follower, late = 0, side: 0 | 1 = 0): void {
    this.wave(row, weight * (1 - share), channel, waves, undefined, late, side);
    this.wave(row, weight * share, channel, waves, follower, late, side);
  }

  style(look: number, lookStrides: number, spineFollows: boolean, headFollows: boolean): Style {
    const waves = (r: number) => this.waves.subarray(r * TERMS, (r + 1) * TERMS);
    const waving = Array.from({ length: ROW_COUNT }, (_, r) => r).filter((r) => waves(r).some((v) => v !== 0));
    return {
      offsets: this.offsets,
      waving: Int32Array.from(waving),
      waves: Float64Array.from(waving.flatMap((r) => [...waves(r)])),
      curves: this.curves,
      look,
      lookStrides,
      spineFollows,
      headFollows,
    };
  }
}

const rowAt = (row: RowName, side: 0 | 1): number =>
  ROW[row] + side * (row === 'kneesOut' ? 1 : ROW[row] >= ROW.shoulder && ROW[row] < ROW.kneesOut ? ARM_ROWS : 0);

/** Whose spine or head answers late, so that their extra chest rows are told. */
export interface Follows {
  readonly spine: boolean;
  readonly head: boolean;
}

/** The gait in full swing; `follows`: of all styles it is mixed with. */
export function gaitStyle(sided: SidedGait, follows?: Follows): Style {
  return compile(sided, 1, follows);
}

/** The figure that stands as this gait stands: its postures without its waves, arms hanging. */
export function standingStyle(sided: SidedGait, follows?: Follows): Style {
  return compile(sided, 0, follows);
}

/** `full` 1: offsets and waves; 0: what stays of them when the figure stands. */
function compile(
  { gait, sides }: SidedGait,
  full: 0 | 1,
  { spine: spineFollows, head: headFollows }: Follows = { spine: gait.follow.spine > 0, head: gait.follow.head > 0 },
): Style {
  const { hips, direction, head, follow } = gait;
  const bank = new RowBank(gait.timing.strideTime);
  // Going backward, the fore-and-aft waves of turn and arms run the other way.
  const along = Math.cos(direction.travel - direction.hips);
  bank.constant('height', full === 1 ? hips.rise.offset - hips.crouch : -STANDING_CROUCH_SHARE * hips.crouch);
  bank.constant('ahead', full * hips.surge.offset);
  bank.constant('aside', full * hips.shift.offset);
  bank.constant('sway', hips.sway);
  bank.constant('turn', direction.hips + hips.turn.offset);
  bank.constant('list', hips.list.offset);
  bank.constant('tilt', hips.tilt.offset);
  bank.wave('height', full, hips.rise, 2);
  bank.wave('ahead', full, hips.surge, 2);
  bank.wave('aside', full, hips.shift, 1);
  bank.wave('turn', -full * along, hips.turn, 1);
  bank.wave('list', full, hips.list, 1);
  bank.wave('tilt', full, hips.tilt, 2);
  const spine = { frequency: follow.spineFrequency, damping: follow.spineDamping };
  const carried = { frequency: follow.headFrequency, damping: follow.headDamping };
  chestRows(bank, 'chest', gait, full, follow.spine, spine);
  // What leads a following spine goes with the raw waves.
  if (spineFollows) chestRows(bank, 'lead', gait, full, 0, spine);
  // A head that follows is carried by a chest of its own lateness; otherwise it goes with the chest.
  if (headFollows) chestRows(bank, 'carry', gait, full, follow.head, carried);
  bank.constant('spineCurve', gait.trunk.bend.offset);
  bank.wave('spineCurve', full, gait.trunk.bend, 2);
  bank.constant('headTurn', head.turn.offset);
  bank.constant('headNod', head.nod.offset);
  bank.constant('headList', -head.list.offset);
  bank.followed('headTurn', full, head.turn, 1, follow.head, carried);
  bank.followed('headNod', full, head.nod, 2, follow.head, carried);
  bank.followed('headList', -full, head.list, 1, follow.head, carried);
  bank.constant('steadiness', head.steadiness);
  bank.constant('straightest', full === 1 ? straightestKnee(gait) : Math.max(STRAIGHTEST_RAD, STANDING_KNEE_SHARE * straightestKnee(gait)));
  for (const side of SIDES) {
    armRows(bank, gait, sides[side], side, full, along);
    bank.constant('kneesOut', (side === 0 ? 1 : -1) * sides[side].legs.kneesOut, side);
  }
  return bank.style(head.lookAround, Math.max(1, Math.round(head.lookCycles)), spineFollows, headFollows);
}

/** Chest against the world: turn about Y, lean about X, list about Z; `share` of its waves answer late. */
function chestRows(bank: RowBank, of: 'chest' | 'lead' | 'carry', gait: GaitSpec, full: 0 | 1, share: number, follower: Follower): void {
  const { trunk, hips, direction } = gait;
  const along = Math.cos(direction.travel - direction.hips);
  // Leaning into the way one goes: full forward, a third sideways, against it a little.
  const leanShare = 0.35 + 0.65 * Math.cos(direction.travel);
  const keep = 1 - trunk.shoulderLevel;
  bank.constant(`${of}Turn`, direction.chest + trunk.counterTurn.offset);
  bank.followed(`${of}Turn`, full * along, trunk.counterTurn, 1, share, follower);
  bank.constant(`${of}Lean`, (full === 1 ? leanShare : STANDING_SHARE) * trunk.lean.offset + full * keep * hips.tilt.offset);
  bank.followed(`${of}Lean`, full * leanShare, trunk.lean, 2, share, follower);
  bank.wave(`${of}Lean`, full * keep, hips.tilt, 2);
  bank.constant(`${of}List`, keep * hips.list.offset - trunk.sideLean.offset);
  bank.wave(`${of}List`, full * keep, hips.list, 1);
  bank.followed(`${of}List`, -full, trunk.sideLean, 1, share, follower);
}

/** One arm: joint angles as `aim` turns them into rotations. */
function armRows(bank: RowBank, gait: GaitSpec, own: GaitSpec, side: 0 | 1, full: 0 | 1, along: number): void {
  const { arms } = own;
  const { follow, timing } = gait;
  const late = side === 0 ? timing.leftArm : timing.rightArm;
  const trailing = { frequency: follow.armsFrequency, damping: follow.armsDamping };
  const flapping = { frequency: follow.handsFrequency, damping: follow.handsDamping };
  const add = (row: RowName, weight: number, channel: Channel, follower?: Follower) => bank.wave(row, full * weight, channel, 1, follower, late, side);
  bank.constant('shoulder', full * SHOULDER_FOLLOWS * arms.swing.offset, side);
  add('shoulder', SHOULDER_FOLLOWS * along, arms.swing);
  bank.constant('armSwing', (full === 1 ? 1 : STANDING_SHARE) * arms.swing.offset, side);
  add('armSwing', along, arms.swing);
  bank.constant('shoulderUp', arms.shoulders.offset, side);
  bank.wave('shoulderUp', full, arms.shoulders, 2, undefined, 0, side);
  bank.constant('armOut', full === 1 ? arms.out.offset : Math.min(arms.out.offset, HANGING_OUT_RAD + HANGING_OUT_SHARE * arms.out.offset), side);
  add('armOut', 1, arms.out);
  bank.constant('inward', arms.inward, side);
  bank.constant(
    'elbow',
    full === 1 ? arms.elbow.offset : STANDING_ELBOW_RAD + STANDING_ELBOW_SHARE * Math.max(0, arms.elbow.offset - STANDING_ELBOW_RAD),
    side,
  );
  add('elbow', along, arms.elbow);
  // Forearms that trail: what the late arm does more than the arm itself.
  add('elbow', follow.arms * along, arms.swing, trailing);
  add('elbow', -follow.arms * along, arms.swing);
  bank.constant('hand', arms.hand.offset, side);
  add('hand', 1, arms.hand);
  for (const channel of [arms.swing, arms.elbow]) {
    add('hand', follow.hands * along, channel, flapping);
    add('hand', -follow.hands * along, channel);
  }
}
