import type { Sole } from '../body/sole';
import { clamp, lerp, smoothMax, smoothstep } from '../math/scalar';
import { splineMoments } from '../math/tridiagonal';
import type { Foothold } from '../schedule/foothold';
import { FOOT } from './foot-state';
import { rolledBend, rollOnGround } from './rocker';
import { soleAxes } from './sole-frame';
import type { Twin } from './twin';

/** Knots of the pitch over one stance. More do not change the picture; fewer blur where the heel leaves. */
const KNOTS = 41;
const EVEN = Float64Array.from({ length: KNOTS }, (_, k) => k);
/** Heel's height (rad) at the landing of a foot behind the body, at least, and more than the leg needs then. */
const BALL_LANDING_RAD = 0.14;
const BALL_ROOM_RAD = 0.08;
/** The heel may rise up to this far (rad) when the trailing leg would otherwise pull the hips down. */
const MOST_RISE_RAD = 1.35;
/** The last part of a stance in which the heel still has so far (rad) to rise. */
const RISE_LEFT_SHARE = 0.25;
const RISE_LEFT_RAD = 0.5;
/** Sharpness (1/rad) with which a needed rise takes over from the styled one. */
const RISE_SHARPNESS = 30;

/** Where the wished hip joint is (x, y, z, m, world) and how long the leg may be (m): what a stance foot has to serve. */
export const DEMAND = { x: 0, y: 1, z: 2, reach: 3 } as const;
const DEMAND_SIZE = 4;
/** Writes the demand at clock[0] seconds to out[0 .. DEMAND_SIZE). */
export type Demand = (clock: Float64Array, out: Float64Array) => void;

export interface Stance {
  readonly hold: Foothold;
  /** Sole pitch at so many even times, and its tangents per interval. */
  readonly values: Float64Array;
  readonly tangents: Float64Array;
  /** Where the hip wants to be at a few times of the stance, against the foothold: what a stance is known by. */
  readonly wants: Float64Array;
  /** Forward and up of the foothold's frame. */
  readonly axes: Float64Array;
}

/** Sole pitch by style alone at `t` seconds: landing pitch to flat, flat, heel rising to the leaving pitch. */
function styledPitch(hold: Foothold, landing: number, t: number): number {
  const early = clamp(1 - (t - hold.landing) / hold.flatAfter, 0, 1);
  const late = clamp(1 - (hold.leaving - t) / hold.riseFor, 0, 1);
  const { standingPitch: stand } = hold;
  return stand + (landing - stand) * early * early + (hold.leavingPitch - stand) * late * late;
}

/**
 * Prepares one foothold: its pitch over time, with the heel rising as much earlier as the trailing leg needs to reach the
 * wished hips. A stance `like` it from the round before has the same pitch.
 */
export function createStance(sole: Sole, hold: Foothold, demand: Demand, like?: Stance, twin: Twin<Stance> | null = null): Stance {
  if (like) return { ...like, hold };
  const values = new Float64Array(KNOTS);
  const tangents = new Float64Array(KNOTS);
  const axes = new Float64Array(6);
  soleAxes(Float64Array.of(hold.heading, hold.slopeX, hold.slopeZ), 0, axes, 0);
  const [fx, fy, fz, ux, uy, uz] = axes as unknown as [number, number, number, number, number, number];
  const lx = uy * fz - uz * fy,
    ly = uz * fx - ux * fz,
    lz = ux * fy - uy * fx;
  const clock = new Float64Array(1);
  const want = new Float64Array(DEMAND_SIZE);
  const wants = wantsOf(hold, demand, [fx, fz]);
  if (twin && alike(hold, wants, twin)) return { hold, wants, values: twin.of.values, tangents: twin.of.tangents, axes };
  const search = new Search(sole, hold.toeBend);
  /** The rise the leg needs at clock[0], and how much of it counts; null where the hips have not passed the foot. */
  const needAt = (): { need: number; gate: number } | null => {
    demand(clock, want);
    const dx = want[DEMAND.x]! - hold.x,
      dy = want[DEMAND.y]! - hold.y,
      dz = want[DEMAND.z]! - hold.z;
    const reach = want[DEMAND.reach]!;
    const forward = dx * fx + dy * fy + dz * fz;
    // Rising helps only a foot that the hips have passed.
    const gate = smoothstep(0, 0.25 * reach, forward);
    if (!(gate > 0)) return null;
    const across = dx * lx + dy * ly + dz * lz;
    return { need: search.neededRise(forward, dx * ux + dy * uy + dz * uz, Math.sqrt(Math.max(1e-6, reach ** 2 - across ** 2))), gate };
  };
  clock[0] = hold.landing;
  const first = hold.landingPitch > -BALL_LANDING_RAD ? needAt() : null;
  // A foot that lands behind the body lands on its ball.
  const landing = first
    ? lerp(hold.landingPitch, -Math.max(BALL_LANDING_RAD, first.need) - BALL_ROOM_RAD, first.gate * smoothstep(-0.06, 0.02, first.need))
    : hold.landingPitch;
  for (let k = 0; k < KNOTS; k++) {
    clock[0] = hold.landing + ((hold.leaving - hold.landing) * k) / (KNOTS - 1);
    const styled = styledPitch(hold, landing, clock[0]!);
    values[k] = styled;
    if (styled > 0) continue;
    const needed = needAt();
    if (needed === null) continue;
    const { need, gate } = needed;
    const rise = smoothMax(-styled, need, RISE_SHARPNESS);
    // A heel that rose as far as it goes before it leaves would stop there and kick the knee straight.
    const most = MOST_RISE_RAD - (RISE_LEFT_RAD * (hold.leaving - clock[0]!)) / (RISE_LEFT_SHARE * (hold.leaving - hold.landing));
    const least = Math.max(-styled, 0);
    const extra = Math.max(least, -smoothMax(-rise, -Math.max(most, least), RISE_SHARPNESS)) + styled;
    // What smoothing adds where nothing is needed must not lift a flat sole.
    const quiet = smoothstep(-0.12, 0, need + styled);
    values[k] = styled - extra * gate * quiet;
  }
  soften(values);
  smoothTangents(values, tangents);
  return { hold, wants, values, tangents, axes };
}

/** Times at which the wish of a hip tells one stance from another, parts of the stance. */
const WANT_PLACES = [0, 0.3, 0.55, 0.8, 1];
/** Numbers (m, rad, s) this close are alike. */
const ALIKE = 2e-7;

/** Hip against foothold in the foothold's heading: ahead, up, to the left; and the reach; at WANT_PLACES. */
function wantsOf(hold: Foothold, demand: Demand, [fx, fz]: readonly [number, number]): Float64Array {
  const clock = new Float64Array(1),
    want = new Float64Array(DEMAND_SIZE);
  const out = new Float64Array(4 * WANT_PLACES.length);
  WANT_PLACES.forEach((u, i) => {
    clock[0] = hold.landing + (hold.leaving - hold.landing) * u;
    demand(clock, want);
    const dx = want[DEMAND.x]! - hold.x,
      dz = want[DEMAND.z]! - hold.z;
    out.set([dx * fx + dz * fz, want[DEMAND.y]! - hold.y, dx * fz - dz * fx, want[DEMAND.reach]!], 4 * i);
  });
  return out;
}

/** Whether a foothold with these wants rolls as a known stance does. */
function alike(hold: Foothold, wants: Float64Array, { of: { hold: other, wants: known }, mirrored }: Twin<Stance>): boolean {
  for (const key of ['landingPitch', 'leavingPitch', 'standingPitch', 'flatAfter', 'riseFor', 'toeBend', 'slopeX', 'slopeZ'] as const)
    if (Math.abs(hold[key] - other[key]) > ALIKE) return false;
  if (Math.abs(hold.leaving - hold.landing - other.leaving + other.landing) > ALIKE) return false;
  for (let i = 0; i < wants.length; i++) if (Math.abs(wants[i]! - (mirrored && i % 4 === 2 ? -known[i]! : known[i]!)) > ALIKE) return false;
  return true;
}

/** Takes the corners out of a pitch; its ends stay. */
function soften(values: Float64Array): void {
  const old = Float64Array.from(values);
  for (let k = 2; k < KNOTS - 2; k++) values[k] = (old[k - 2]! + 4 * old[k - 1]! + 6 * old[k]! + 4 * old[k + 1]! + old[k + 2]!) / 16;
}

/** Tangents (per interval) of the natural cubic spline through even values: its second derivative is continuous. */
function smoothTangents(values: Float64Array, tangents: Float64Array): void {
  const moments = splineMoments(EVEN, values);
  for (let k = 0; k < KNOTS; k++)
    tangents[k] =
      k < KNOTS - 1
        ? values[k + 1]! - values[k]! - (2 * moments[k]! + moments[k + 1]!) / 6
        : values[k]! - values[k - 1]! + (2 * moments[k]! + moments[k - 1]!) / 6;
}

/** When the search for a needed rise is close enough: rad, m; and the most rounds it takes. */
const RISE_EPS_RAD = 5e-6;
const GAP_EPS_M = 1e-7;
const MOST_ROUNDS = 24;

/** Looks for the smallest heel rise that lets a leg reach. */
class Search {
  private readonly rolled = new Float64Array(3);

  constructor(
    private readonly sole: Sole,
    private readonly toeBend: number,
  ) {}

  private gap(rise: number, forward: number, up: number, reach: number): number {
    rollOnGround(this.sole, -rise, this.toeBend, this.rolled, 0);
    return Math.hypot(forward - this.rolled[0]!, up - this.rolled[1]!) - reach;
  }

  /** Smallest rise (rad) that brings the ankle within `reach` of a hip at (forward, up); negative where there is slack. */
  neededRise(forward: number, up: number, reach: number): number {
    const flat = this.gap(0, forward, up, reach);
    if (flat <= 0) return flat / this.sole.ballAhead;
    let lo = 0,
      hi = MOST_RISE_RAD,
      atLo = flat,
      atHi = this.gap(hi, forward, up, reach);
    if (atHi > 0) return hi;
    // Regula falsi, Illinois variant: the end that stays has its value halved, so that both ends close in.
    for (let i = 0; i < MOST_ROUNDS && hi - lo > RISE_EPS_RAD; i++) {
      const mid = (lo * atHi - hi * atLo) / (atHi - atLo);
      const found = this.gap(mid, forward, up, reach);
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
}

/** Sole pitch (rad) at clock[c] seconds inside the stance, and the bend that goes with it, to out[o], out[o + 1]. */
export function readPitch({ hold, values, tangents }: Stance, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  const s = clamp((clock[c]! - hold.landing) / (hold.leaving - hold.landing), 0, 1) * (values.length - 1);
  const i = Math.min(values.length - 2, Math.floor(s));
  const u = s - i;
  const p0 = values[i]!,
    m0 = tangents[i]!,
    d = values[i + 1]! - p0,
    m1 = tangents[i + 1]!;
  const pitch = p0 + u * (m0 + u * (3 * d - 2 * m0 - m1 + u * (m0 + m1 - 2 * d)));
  out[o] = pitch;
  out[o + 1] = rolledBend(pitch, hold.toeBend);
}

/** Foot state (FOOT_SIZE numbers) at clock[c] seconds inside the stance, to out[o..]; `scratch` holds four numbers. */
export function evaluateStance(sole: Sole, stance: Stance, clock: Float64Array, c: number, out: Float64Array, o: number, scratch: Float64Array): void {
  const { hold, axes } = stance;
  readPitch(stance, clock, c, scratch, 0);
  rollOnGround(sole, scratch[0]!, hold.toeBend, scratch, 1);
  const forward = scratch[1]!,
    up = scratch[2]!;
  out[o + FOOT.x] = hold.x + axes[0]! * forward + axes[3]! * up;
  out[o + FOOT.y] = hold.y + axes[1]! * forward + axes[4]! * up;
  out[o + FOOT.z] = hold.z + axes[2]! * forward + axes[5]! * up;
  out[o + FOOT.pitch] = scratch[0]!;
  out[o + FOOT.bend] = scratch[3]!;
  out[o + FOOT.heading] = hold.heading;
  out[o + FOOT.slopeX] = hold.slopeX;
  out[o + FOOT.slopeZ] = hold.slopeZ;
  out[o + FOOT.roll] = 0;
}
