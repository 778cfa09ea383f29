import type { LegMeasures } from '../body/legs';
import { clamp, lerp, smoothstep } from '../math/scalar';
import { splineMomentsClamped } from '../math/tridiagonal';
import { FOOT, FOOT_SIZE } from './foot-state';
import { gentlestOver } from './gentlest';
import { LEG_ANGLE, toLegAngles, toLegLine } from './leg-angles';
import { HIP_JOINT_SIZE } from './leg-shape';
import { solePoints } from './rocker';
import { soleAxes } from './sole-frame';
import { OVER_KNOTS, stateAt, type Swing, type SwingPlace } from './swing-state';

/** Places of a swing looked at: close enough that no edge slips between two of them. */
const LOOKS = 192;
const AT = Float64Array.from({ length: LOOKS }, (_, i) => (i + 0.5) / LOOKS);
/** Points of the sole looked at, from heel to tip. */
const POINTS = 7;
const ROUNDS = 8;
/** So many rounds that miss more than the best one end it. */
const GIVE_UP = 2;
/** Room (m) kept over what is needed, and what may be missing in the end. */
const ROOM_M = 0.002;
const SHORT_M = 5e-5;
/** A foot that stands into a step comes out of it over this part of its swing. */
const COMES_OUT = 0.2;
/** A foot comes off the ground, and down to it, no faster than this, m/s²: it is thrown over nothing. */
const MOST_RISE_MPS2 = 1500;
/** No swing is raised by more than this (legs): what is higher cannot be stepped, and is said. */
const MOST_RAISED_LEGS = 0.6;
/** How high (m) a foot may be raised so many seconds from the nearer end of its swing. */
const mostRaised = (seconds: number): number => 0.5 * MOST_RISE_MPS2 * seconds * seconds;
/** Towards its ends a swing comes and goes with the ground it stands on: clearance sets in over this part. */
const evenShare = (u: number): number => 16 * u * u * (1 - u) * (1 - u);

/**
 * Takes the swing over ground that is no plane: what height is missing at each moment, made by the gentlest curve over these
 * needs, turned into thigh and knee. Straight up, so that no edge comes closer.
 */
export function goOver(swing: Swing, { leg, ground, joint, hardest }: SwingPlace, clearance: number): void {
  const { sole } = leg;
  const state = new Float64Array(FOOT_SIZE);
  const points = new Float64Array(6),
    axes = new Float64Array(6),
    r = new Float64Array(3),
    q = new Float64Array(3);
  const clock = new Float64Array(1);
  const hips = new Float64Array(LOOKS * 3),
    hip = new Float64Array(HIP_JOINT_SIZE);
  for (let i = 0; i < LOOKS; i++) {
    clock[0] = swing.from + AT[i]! * swing.duration;
    joint(clock, hip);
    for (let k = 0; k < 3; k++) hips[3 * i + k] = hip[k]!;
  }
  const soles = new Float64Array(LOOKS * POINTS),
    under = new Float64Array(LOOKS * POINTS);
  const raised = new Float64Array(LOOKS),
    shorts = new Float64Array(LOOKS),
    needs = new Float64Array(LOOKS);
  /** Heights of the sole and of the ground under it. */
  function look(): void {
    for (let i = 0; i < LOOKS; i++) {
      stateAt(swing, AT[i]!, state, 0);
      toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
      solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
      soleAxes(state, FOOT.heading, axes, 0);
      const edge = (sole.breadth / 2) * Math.abs(Math.sin(state[FOOT.roll]!));
      for (let p = 0; p < POINTS; p++) {
        // Heel, ball and tip, and two places between each.
        const from = p < 4 ? 0 : 2,
          w = (p < 4 ? p : p - 3) / 3;
        const ahead = points[from]! + (points[from + 2]! - points[from]!) * w,
          up = points[from + 1]! + (points[from + 3]! - points[from + 1]!) * w - edge;
        const x = hips[3 * i]! + r[0]! + axes[0]! * ahead + axes[3]! * up,
          z = hips[3 * i + 2]! + r[2]! + axes[2]! * ahead + axes[5]! * up;
        soles[i * POINTS + p] = hips[3 * i + 1]! + r[1]! + axes[1]! * ahead + axes[4]! * up;
        under[i * POINTS + p] = ground.height(x, z);
      }
    }
  }
  // Raising what hardly answers, as the toe of a foot about to leave, runs away: the round that misses least is kept.
  let [least, worse] = [Infinity, 0];
  let kept = swing.over;
  for (let round = 0; round <= ROUNDS; round++) {
    look();
    let missing = 0;
    for (let i = 0; i < LOOKS; i++) {
      let short = -Infinity;
      for (let p = 0; p < POINTS; p++) {
        const o = i * POINTS + p;
        // An edge between two looks counts for both.
        let height = under[o]!;
        if (i > 0) height = Math.max(height, under[o - POINTS]!);
        if (i + 1 < LOOKS) height = Math.max(height, under[o + POINTS]!);
        short = Math.max(short, height - soles[o]!);
      }
      shorts[i] = short;
    }
    const [first, last] = [Math.max(0, shorts[0]!), Math.max(0, shorts[LOOKS - 1]!)];
    for (let i = 0; i < LOOKS; i++) {
      const out = 1 - smoothstep(0, COMES_OUT, AT[i]!),
        back = 1 - smoothstep(0, COMES_OUT, 1 - AT[i]!);
      const short = shorts[i]! - first * out - last * back;
      const room = (clearance + ROOM_M) * evenShare(AT[i]!);
      const most = Math.min(MOST_RAISED_LEGS * (leg.thigh + leg.shank), mostRaised(Math.min(AT[i]!, 1 - AT[i]!) * swing.duration));
      missing = Math.max(missing, Math.min(short, most - raised[i]!));
      needs[i] = Math.min(raised[i]! + short + room, most);
    }
    if (round > 0 && missing <= SHORT_M) return tame(swing, hardest);
    if (missing < least) [least, worse, kept] = [missing, 0, swing.over];
    else worse++;
    if (worse >= GIVE_UP || round === ROUNDS) {
      swing.over = kept;
      return tame(swing, hardest);
    }
    gentlestOver(AT, needs, raised);
    setOver(raised);
  }

  /** Turns heights into angles at even knots. */
  function setOver(heights: Float64Array): void {
    const over = new Float64Array(2 * OVER_KNOTS);
    swing.over = null;
    for (let k = 1; k < OVER_KNOTS - 1; k++) {
      const u = k / (OVER_KNOTS - 1);
      const place = u * LOOKS - 0.5;
      const i = Math.min(LOOKS - 2, Math.max(0, Math.floor(place)));
      const by = heights[i]! + (heights[i + 1]! - heights[i]!) * Math.min(1, Math.max(0, place - i));
      if (!(by > 0)) continue;
      stateAt(swing, u, state, 0);
      toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
      r[1] = r[1]! + by;
      toLegAngles(leg, r, 0, swing.sin, swing.cos, q, 0);
      const early = 1 - smoothstep(EARLY[0], EARLY[1], u);
      if (early > 0) byKnee(leg, state, by, folded);
      over[k] = lerp(q[LEG_ANGLE.forward]! - state[LEG_ANGLE.forward]!, folded[0]!, early);
      over[OVER_KNOTS + k] = lerp(q[LEG_ANGLE.bend]! - state[LEG_ANGLE.bend]!, folded[1]!, early);
    }
    swing.over = Float64Array.of(...over, ...momentsOf(over.subarray(0, OVER_KNOTS)), ...momentsOf(over.subarray(OVER_KNOTS)));
  }
}

/** Takes back what would turn the leg harder (rad/s²) than it may: where it would have to, the foot brushes the ground, and that is said. */
function tame(swing: Swing, hardest: number): void {
  const { over } = swing;
  if (!over) return;
  const perS2 = ((OVER_KNOTS - 1) / swing.duration) ** 2;
  const most = over.subarray(2 * OVER_KNOTS).reduce((all, m) => Math.max(all, Math.abs(m) * perS2), 0);
  if (most > hardest) swing.over = over.map((v) => (v * hardest) / most);
}

/** Until here a foot is lifted by its knee alone, from there on straight up: parts of the swing. */
const EARLY = [0.15, 0.5] as const;
const folded = new Float64Array(2);

/** What the line and the bend of a leg do when the knee folds under a resting thigh until the ankle is `by` m higher, to out. */
function byKnee({ thigh, shank }: LegMeasures, q: Float64Array, by: number, out: Float64Array): void {
  const bend = q[LEG_ANGLE.bend]!;
  const lean = q[LEG_ANGLE.forward]! + Math.atan2(shank * Math.sin(bend), thigh + shank * Math.cos(bend));
  // The shank hangs back from straight down by this.
  const back = bend - lean;
  const folds = Math.acos(clamp(Math.cos(Math.max(0, back)) - by / shank, -0.6, 1)) - Math.max(0, back);
  const next = bend + folds;
  out[0] = lean - Math.atan2(shank * Math.sin(next), thigh + shank * Math.cos(next)) - q[LEG_ANGLE.forward]!;
  out[1] = folds;
}

const EVEN = Float64Array.from({ length: OVER_KNOTS }, (_, k) => k);
const momentsOf = (values: Float64Array): Float64Array => splineMomentsClamped(EVEN, values, 0, 0);
