import type { Sole } from '../body/body';
import { cubicHermite, monotoneTangents } from '../math/hermite';
import { clamp, smoothMax, smoothstep } from '../math/scalar';
import type { Foothold } from '../schedule/schedule';
import { FOOT } from './foot-state';
import { rollFoot, type RolledFoot } from './rocker';

/** Knots of the pitch over one stance. More do not change the picture; fewer blur where the heel leaves. */
const KNOTS = 41;
/** The heel may rise up to this far (rad) when the trailing leg would otherwise pull the hips down. */
const MOST_RISE_RAD = 1.35;
/** Sharpness (1/rad) with which a needed rise takes over from the styled one. */
const RISE_SHARPNESS = 30;
/** Where the wished hip joint is, m world, and how long the leg may be: what a stance foot has to serve. */
export interface Demand {
  x: number;
  y: number;
  z: number;
  reach: number;
}

export interface Stance {
  readonly hold: Foothold;
  readonly values: Float64Array;
  readonly tangents: Float64Array;
  readonly toeBend: number;
}

/** Sole pitch by style alone at `t` seconds: landing pitch to flat, flat, heel rising to the leaving pitch. */
function styledPitch(hold: Foothold, t: number): number {
  const early = clamp(1 - (t - hold.landing) / hold.flatAfter, 0, 1);
  const late = clamp(1 - (hold.leaving - t) / hold.riseFor, 0, 1);
  const { standingPitch: stand } = hold;
  return stand + (hold.landingPitch - stand) * early * early + (hold.leavingPitch - stand) * late * late;
}

/**
 * Prepares one foothold: its pitch over time, with the heel rising as much earlier as the trailing leg needs to reach the
 * wished hips. `demand(t)` gives that wish. A stance `like` it from another stride has the same pitch.
 */
export function createStance(sole: Sole, hold: Foothold, toeBend: number, demand: (t: number, out: Demand) => void, like?: Stance): Stance {
  if (like) return { ...like, hold };
  const values = new Float64Array(KNOTS);
  const tangents = new Float64Array(KNOTS);
  const want: Demand = { x: 0, y: 0, z: 0, reach: 0 };
  const sh = Math.sin(hold.heading),
    ch = Math.cos(hold.heading);
  for (let k = 0; k < KNOTS; k++) {
    const t = hold.landing + ((hold.leaving - hold.landing) * k) / (KNOTS - 1);
    const styled = styledPitch(hold, t);
    demand(t, want);
    const forward = (want.x - hold.x) * sh + (want.z - hold.z) * ch;
    const across = (want.x - hold.x) * ch - (want.z - hold.z) * sh;
    // Rising helps only a foot that the hips have passed.
    const gate = smoothstep(0, 0.25 * want.reach, forward);
    values[k] = styled;
    if (gate > 0 && styled <= 0) {
      const need = neededRise(sole, toeBend, forward, want.y - hold.y, Math.sqrt(Math.max(1e-6, want.reach ** 2 - across ** 2)));
      const rise = smoothMax(-styled, need, RISE_SHARPNESS);
      const extra = Math.min(Math.max(rise, -styled), Math.max(MOST_RISE_RAD, -styled)) + styled;
      // What smoothing adds where nothing is needed must not lift a flat sole.
      const quiet = smoothstep(-0.12, 0, need + styled);
      values[k] = styled - extra * gate * quiet;
    }
  }
  monotoneTangents(values, 0, KNOTS, tangents);
  return { hold, values, tangents, toeBend };
}

/** When the search for a needed rise is close enough: rad, m; and the most rounds it takes. */
const RISE_EPS_RAD = 5e-6;
const GAP_EPS_M = 1e-7;
const MOST_ROUNDS = 24;

const rolled: RolledFoot = { forward: 0, height: 0, bend: 0 };

/** Smallest heel rise (rad) that brings the ankle within `reach` of a hip at (forward, up); negative where there is slack. */
function neededRise(sole: Sole, toeBend: number, forward: number, up: number, reach: number): number {
  const gap = (rise: number): number => {
    rollFoot(sole, -rise, toeBend, rolled);
    return Math.hypot(forward - rolled.forward, up - rolled.height) - reach;
  };
  const flat = gap(0);
  if (flat <= 0) return flat / sole.ballAhead;
  let lo = 0,
    hi = MOST_RISE_RAD,
    atLo = flat,
    atHi = gap(hi);
  if (atHi > 0) return hi;
  // Regula falsi, Illinois variant: the end that stays has its value halved, so that both ends close in.
  for (let i = 0; i < MOST_ROUNDS && hi - lo > RISE_EPS_RAD; i++) {
    const mid = (lo * atHi - hi * atLo) / (atHi - atLo);
    const found = gap(mid);
    if (Math.abs(found) < GAP_EPS_M) return mid;
    if (found > 0) {
      lo = mid;
      atLo = found;
      atHi /= 2;
    } else {
      hi = mid;
      atHi = found;
      atLo /= 2;
    }
  }
  return (lo + hi) / 2;
}

/** Foot state at `t` inside the stance, written to out[at..]. */
export function evaluateStance(sole: Sole, stance: Stance, t: number, out: Float64Array, at: number, scratch: RolledFoot): void {
  const { hold, values, tangents } = stance;
  const s = clamp((t - hold.landing) / (hold.leaving - hold.landing), 0, 1) * (KNOTS - 1);
  const i = Math.min(KNOTS - 2, Math.floor(s));
  const pitch = cubicHermite(values[i]!, tangents[i]!, values[i + 1]!, tangents[i + 1]!, s - i);
  rollFoot(sole, pitch, stance.toeBend, scratch);
  out[at + FOOT.x] = hold.x + Math.sin(hold.heading) * scratch.forward;
  out[at + FOOT.y] = hold.y + scratch.height;
  out[at + FOOT.z] = hold.z + Math.cos(hold.heading) * scratch.forward;
  out[at + FOOT.pitch] = pitch;
  out[at + FOOT.bend] = scratch.bend;
  out[at + FOOT.heading] = hold.heading;
  out[at + FOOT.roll] = 0;
}
