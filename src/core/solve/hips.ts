import type { Body } from '../body/body';
import { hipsOnly, mixStyles, ROW, ROW_COUNT } from '../gait/style';
import { composePoint, createPlacement, repeatPlacement } from '../math/placement';
import { setYzx } from '../math/euler';
import { clamp, smootherstep, wrapPhase } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { readTrack } from '../schedule/along';
import { readFlight } from '../schedule/flight';
import { readPendulum } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';
import { createAlive } from './standing';

/** Where the trunk's base wants to be: root placement (4), hips' place (3) and orientation (4); world, m, rad. */
export const HIPS = { root: 0, place: 4, turn: 7 } as const;
export const HIPS_SIZE = 11;

/** Part of the lean an acceleration asks for that the trunk takes, and how far hips go back under it and down, parts of their height. */
const LEAN_SHARE = 1;
const BACK_SHARE = 0.3;
const DROP_SHARE = 0.25;
/** A body this close to full speed is at it; and what makes the effort 1 at its most, a third of the way. */
const FULL_SHARE = 0.985;
const EFFORT_PEAK = 6.75;
/** The trunk leans into what is about to come before the first foot leaves: by this part of the lean the start asks for, over that time (s) before and after. */
const INTO_SHARE = 0.42;
const INTO_S = 0.6;
/** Part of a slope by which the trunk leans forward uphill and back downhill. Common practice, no published source. */
const CLIMB_SHARE = 0.35;
/** Who climbs keeps the knees bent: hips go down by this part of their height a radian, in full from about so steep on (rad). */
const DESCENT_CROUCH = 0.3;
const CLIMB_CROUCH = 0.22;
const CLIMB_BEND = 0.8;
const CLIMB_FULL_RAD = 0.1;
/** Steeper than this (rad) makes hardly a difference. */
const STEEPEST_RAD = 0.5;
/** Parts of a bend's lean that pelvis and trunk tilt by; height of the centre of mass and how far it goes inward by those tilts, parts of the hips' height (a radian). Measured on the shipped bodies. */
const BANK_SHARE = { pelvis: 0.5, trunk: 0.6 };
const CENTRE_HEIGHT = 1.06;
const TILTED = 0.045;
const LISTING = [ROW.chestList, ROW.leadList, ROW.carryList];
const LEANING = [ROW.chestLean, ROW.leadLean, ROW.carryLean];

/** Reads root and hips of a schedule. Its scratch belongs to one motion. */
export interface HipsReader {
  /** Rows of the styles at the last time read. */
  readonly rows: Float64Array;
  /** Share of the full styles then, 0 … 1, at [0]. */
  readonly share: Float64Array;
  /** Writes HIPS_SIZE numbers at clock[c] seconds (any time) to out; `turns` counts rounds on for slow looks. */
  read(clock: Float64Array, c: number, turns: number, out: Float64Array): void;
}

/** Heights of the hips as planned, against the world. */
export interface Heights {
  /** Writes the height (m) at clock[c] seconds inside a round to out[o]. */
  read(clock: Float64Array, c: number, out: Float64Array, o: number): void;
}

/** A reader of one schedule on one body: of the styled wish, or of what is `planned`. Who keeps `rows` for later needs a reader of its own; `legsOnly`: rows above the hips are not told. */
export function createHips(body: Body, schedule: Schedule, planned: Heights | null, legsOnly = false): HipsReader {
  const { duration, repeat, efforts } = schedule;
  const gaits = schedule.shares.length;
  const styles = legsOnly ? schedule.styles.map(hipsOnly) : schedule.styles;
  const begins = Float64Array.from(efforts, (_, i) => (i === 0 ? -Infinity : efforts[i - 1]!.to));
  const leans = efforts.some((e) => e.lean !== 0);
  const curved = schedule.bank.times.length > 1,
    climbs = schedule.climb.times.length > 1;
  // Of the hips along the way, of the hips downward, of the trunk.
  const effort = new Float64Array(3);
  const alive = createAlive(schedule, gaits);
  const rows = new Float64Array(ROW_COUNT);
  const local = new Float64Array(1);
  const strides = new Float64Array(1);
  const full = new Float64Array(2);
  const weights = new Float64Array(gaits + 1);
  // Share of full swing, and what of it each gait has.
  const swing = new Float64Array(2);
  const speeds = new Float64Array(2);
  // Climb and bank, rad; crouch and what is cut, m.
  const lie = new Float64Array(4);
  const travel = new Float64Array(4);
  const sway = new Float64Array(4);
  const heights = new Float64Array(3);
  const moved = createPlacement();
  const angles = new Float64Array(3);
  // Ahead and aside in the world, and the heading they were found for.
  const axes = Float64Array.of(0, 0, 0, 0, NaN, NaN, NaN);
  // Directions of travel and of the hips against the facing.
  const turned = new Float64Array(2);
  /** Leans forward by a share of an angle towards where the travel goes: aslant, the body lists with it. */
  const leanTowards = (angle: number) => {
    const [ahead, left] = [angle * Math.cos(turned[0]!), angle * Math.sin(turned[0]!)];
    for (let k = 0; k < LEANING.length; k++) rows[LEANING[k]!] = rows[LEANING[k]!]! + ahead;
    if (left !== 0) for (let k = 0; k < LISTING.length; k++) rows[LISTING[k]!] = rows[LISTING[k]!]! - left;
  };
  return {
    rows,
    share: full,
    read(clock, c, turns, out) {
      const t = clock[c]!;
      // A walk's body stands still before its start and after its end; a pendulum run on from there would fall over.
      local[0] = repeat ? wrapPhase(t / duration) * duration : clamp(t, 0, duration);
      const rounds = repeat ? Math.floor(t / duration) : 0;
      readPendulum(schedule.travel, local, 0, travel, 0);
      readPendulum(schedule.sway, local, 0, sway, 0);
      readTrack(schedule.heading, local, 0, heights, 0);
      readTrack(schedule.level, local, 0, heights, 1);
      readTrack(schedule.travelAngle, local, 0, turned, 0);
      readTrack(schedule.hipsAngle, local, 0, turned, 1);
      if (planned) planned.read(local, 0, heights, 2);
      else readFlight(schedule.flight, local, 0, heights, 2);
      readTrack(schedule.amount, local, 0, swing, 0);
      readTrack(schedule.fullSpeed, local, 0, speeds, 0);
      if (schedule.speed) readTrack(schedule.speed, local, 0, full, 1);
      const speed = schedule.speed ? Math.max(0, full[1]!) : Math.sqrt(travel[2]! * travel[2]! + travel[3]! * travel[3]!);
      if (speeds[0]! > 0) {
        const r = clamp(speed / (FULL_SHARE * speeds[0]!), 0, 1);
        swing[0] = swing[0]! * (r * r * (3 - 2 * r));
      }
      for (let g = 0; g < gaits; g++) {
        if (gaits > 1) readTrack(schedule.shares[g]!, local, 0, swing, 1);
        weights[g] = gaits > 1 ? swing[0]! * swing[1]! : swing[0]!;
      }
      weights[gaits] = 1 - swing[0]!;
      full[0] = swing[0]!;
      effort[0] = effort[1] = effort[2] = 0;
      if (leans) {
        const e = begins.length === 1 ? 0 : seekIndex(begins, begins.length, local[0]!);
        const { from, to, turn, over, lean: own } = efforts[e]!;
        const stopped = begins[e]!;
        // Over a rest what the stop leaves goes over into what the start asks for.
        const w = e === 0 ? 1 : smootherstep(stopped, from, local[0]!);
        const lean = e === 0 ? own : efforts[e - 1]!.lean + (own - efforts[e - 1]!.lean) * w;
        // Most where the speed changes most, forward while it grows, back while it falls.
        const u = clamp((local[0]! - turn) / over + 0.5, 0, 1);
        const slows = 1 - w * (1 - u * u * (3 - 2 * u));
        readTrack(schedule.pace, local, 0, speeds, 1);
        const r = speeds[1]! > 0 ? clamp(speed / (FULL_SHARE * speeds[1]!), 0, 1) : 0;
        const into = Math.min(INTO_S, from - stopped),
          away = Math.min(INTO_S, to - from);
        effort[1] = EFFORT_PEAK * lean * r * (1 - r) * (1 - r);
        effort[0] = effort[1]! * (1 - 2 * slows);
        effort[2] = effort[0]! + INTO_SHARE * own * smootherstep(from - into, from, local[0]!) * (1 - smootherstep(from, from + away, local[0]!));
      }
      readTrack(schedule.strides, local, 0, strides, 0);
      strides[0] = strides[0]! + turns;
      mixStyles(styles, strides, 0, weights, rows);
      if (leans) leanTowards(LEAN_SHARE * effort[2]!);
      lie[2] = 0;
      if (climbs) {
        readTrack(schedule.climb, local, 0, lie, 0);
        const up = STEEPEST_RAD * Math.tanh(Math.max(0, lie[0]!) / STEEPEST_RAD);
        const steep = (up * up) / (up + CLIMB_FULL_RAD);
        lie[2] = CLIMB_CROUCH * body.hipHeight * steep;
        rows[ROW.straightest] = rows[ROW.straightest]! + CLIMB_BEND * steep;
        const down = STEEPEST_RAD * Math.tanh(Math.max(0, -lie[0]!) / STEEPEST_RAD);
        lie[2] = lie[2]! + (DESCENT_CROUCH * body.hipHeight * down * down) / (down + CLIMB_FULL_RAD);
        leanTowards(CLIMB_SHARE * lie[0]!);
      }
      lie[1] = 0;
      if (curved) {
        readTrack(schedule.bank, local, 0, lie, 1);
        readTrack(schedule.cut, local, 0, lie, 3);
        const across = Math.cos(turned[0]!),
          back = Math.sin(turned[0]!);
        rows[ROW.list] = rows[ROW.list]! - BANK_SHARE.pelvis * lie[1]! * across;
        for (let k = 0; k < LISTING.length; k++) rows[LISTING[k]!] = rows[LISTING[k]!]! - BANK_SHARE.trunk * lie[1]! * across;
        if (back !== 0) for (let k = 0; k < LEANING.length; k++) rows[LEANING[k]!] = rows[LEANING[k]!]! - BANK_SHARE.trunk * lie[1]! * back;
      }
      alive?.(local, weights, rows);
      const yaw = heights[0]!;
      if (yaw !== axes[4] || turned[0] !== axes[5] || turned[1] !== axes[6]) {
        axes[0] = Math.sin(yaw + turned[0]!);
        axes[1] = Math.cos(yaw + turned[0]!);
        axes[2] = Math.cos(yaw + turned[1]!);
        axes[3] = -Math.sin(yaw + turned[1]!);
        axes[4] = yaw;
        axes[5] = turned[0]!;
        axes[6] = turned[1]!;
      }
      const shift = rows[ROW.sway]!,
        forward = rows[ROW.ahead]! - BACK_SHARE * body.hipHeight * effort[0]!,
        aside = rows[ROW.aside]!;
      out[0] = travel[0]!;
      out[1] = heights[1]!;
      out[2] = travel[1]!;
      out[3] = yaw;
      const inward = curved ? (body.hipHeight * CENTRE_HEIGHT + rows[ROW.height]!) * Math.tan(lie[1]!) - lie[3]! - TILTED * body.hipHeight * lie[1]! : 0;
      out[4] = travel[0]! + (shift * sway[0]! + (aside * axes[2]! + inward * axes[1]!)) + forward * axes[0]!;
      out[5] = planned
        ? heights[2]!
        : heights[1]! +
          body.hipHeight +
          rows[ROW.height]! +
          heights[2]! -
          DROP_SHARE * body.hipHeight * effort[1]! -
          body.hipHeight * (1 - Math.cos(lie[1]!)) -
          lie[2]!;
      out[6] = travel[1]! + (shift * sway[1]! + (aside * axes[3]! - inward * axes[0]!)) + forward * axes[1]!;
      angles[0] = yaw + rows[ROW.turn]!;
      if (rounds !== 0) {
        repeatPlacement(moved, 0, repeat!, 0, rounds);
        composePoint(out, HIPS.root, moved, 0, out, HIPS.root);
        composePoint(out, HIPS.place, moved, 0, out, HIPS.place);
        out[3] = yaw + moved[3]!;
        angles[0] = angles[0]! + moved[3]!;
      }
      angles[1] = rows[ROW.list]!;
      angles[2] = rows[ROW.tilt]!;
      setYzx(out, HIPS.turn, angles, 0);
    },
  };
}
