import type { Sole } from '../body/sole';
import { softRamp } from '../math/scalar';

/** Half the width (rad) over which the toes' bend gives way to the toe tip's pivot, so that the ankle keeps its velocity. */
const TIP_BLEND_RAD = 0.12;

/** How far the toes themselves have left the ground for a heel raised by `rise` radians: 0 until the bend limit nears. */
export const toeTipPitch = (rise: number, toeBend: number): number => softRamp(rise - Math.max(toeBend, TIP_BLEND_RAD), TIP_BLEND_RAD);

/** Bend (rad) of the toes against a foot of sole pitch `pitch` that rolls on the ground: 0 on the heel, then up to the limit. */
export const rolledBend = (pitch: number, toeBend: number): number => (pitch >= 0 ? 0 : -pitch - toeTipPitch(-pitch, toeBend));

/**
 * Where the ankle is while the sole rolls over its pivots: heel point (pitch > 0), flat (0), ball point with bending toes
 * (pitch < 0), toe tip once the toes bend no further. Every pivot lies fixed on the ground by construction. Reads pitch and
 * bend (rad, toes up positive) at angles[i], angles[i + 1]; writes forward distance and height (m) from the point of the
 * ground under the ankle of the flat foot to out[o], out[o + 1].
 */
export function rollFoot(sole: Sole, angles: Float64Array, i: number, out: Float64Array, o: number): void {
  roll(sole, angles[i]!, -angles[i]! - angles[i + 1]!, out, o);
}

/** The same for a foot on the ground whose toes bend up to `toeBend`: writes forward, height and bend to out[o..o+2]. */
export function rollOnGround(sole: Sole, pitch: number, toeBend: number, out: Float64Array, o: number): void {
  const tip = pitch < 0 ? toeTipPitch(-pitch, toeBend) : 0;
  roll(sole, pitch, tip, out, o);
  out[o + 2] = pitch < 0 ? -pitch - tip : 0;
}

/** `tip`: how far (rad) the toes themselves have left the ground. */
function roll(sole: Sole, pitch: number, tip: number, out: Float64Array, o: number): void {
  if (pitch >= 0) {
    const s = Math.sin(pitch),
      c = Math.cos(pitch);
    out[o] = -sole.heelBack + sole.heelBack * c - sole.ankleHeight * s;
    out[o + 1] = sole.heelBack * s + sole.ankleHeight * c;
    return;
  }
  const rise = -pitch;
  const toes = sole.tipAhead - sole.ballAhead;
  const st = Math.sin(tip),
    ct = Math.cos(tip);
  const sr = Math.sin(rise),
    cr = Math.cos(rise);
  const up = sole.ankleHeight - sole.toeJointHeight;
  out[o] = sole.tipAhead - toes * ct + sole.toeJointHeight * st - sole.ballAhead * cr + up * sr;
  out[o + 1] = toes * st + sole.toeJointHeight * ct + sole.ballAhead * sr + up * cr;
}

/**
 * Heights and forward distances of heel, ball and toe tip against the ankle for a foot of the given pitch and bend:
 * writes [heel forward, heel up, ball forward, ball up, tip forward, tip up], metres.
 */
export function solePoints(sole: Sole, pitch: number, bend: number, out: Float64Array): void {
  const s = Math.sin(pitch),
    c = Math.cos(pitch);
  const st = Math.sin(pitch + bend),
    ct = Math.cos(pitch + bend);
  const down = sole.toeJointHeight - sole.ankleHeight;
  const hingeForward = sole.ballAhead * c - down * s;
  const hingeUp = sole.ballAhead * s + down * c;
  const toes = sole.tipAhead - sole.ballAhead;
  out[0] = -sole.heelBack * c + sole.ankleHeight * s;
  out[1] = -sole.heelBack * s - sole.ankleHeight * c;
  out[2] = hingeForward + sole.toeJointHeight * st;
  out[3] = hingeUp - sole.toeJointHeight * ct;
  out[4] = hingeForward + toes * ct + sole.toeJointHeight * st;
  out[5] = hingeUp + toes * st - sole.toeJointHeight * ct;
}
