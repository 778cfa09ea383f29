import type { Sole } from '../body/body';
import { softRamp } from '../math/scalar';

/**
 * The foot's pose in its own vertical plane. Forward distance and height are metres from the foothold's ground point
 * (under the ankle of the flat foot); `pitch` and `bend` radians: pitch of the foot, toes up positive, and bend of the toes
 * against it, toes up positive.
 */
export interface RolledFoot {
  forward: number;
  height: number;
  bend: number;
}

/** Half the width (rad) over which the toes' bend gives way to the toe tip's pivot, so that the ankle keeps its velocity. */
const TIP_BLEND_RAD = 0.12;

/** How far the toes themselves have left the ground for a heel raised by `rise` radians: 0 until the bend limit nears. */
export const toeTipPitch = (rise: number, toeBend: number): number => softRamp(rise - Math.max(toeBend, TIP_BLEND_RAD), TIP_BLEND_RAD);

/**
 * Where the ankle is while the sole rolls over its pivots: heel point (pitch > 0), flat (0), ball point with bending toes
 * (pitch < 0), toe tip once the bend limit `toeBend` (rad) is reached. Every pivot lies fixed on the ground by construction.
 */
export function rollFoot(sole: Sole, pitch: number, toeBend: number, out: RolledFoot): void {
  if (pitch >= 0) {
    const s = Math.sin(pitch),
      c = Math.cos(pitch);
    out.forward = -sole.heelBack + sole.heelBack * c - sole.ankleHeight * s;
    out.height = sole.heelBack * s + sole.ankleHeight * c;
    out.bend = 0;
    return;
  }
  const rise = -pitch;
  const tip = toeTipPitch(rise, toeBend);
  const toes = sole.tipAhead - sole.ballAhead;
  const st = Math.sin(tip),
    ct = Math.cos(tip);
  const sr = Math.sin(rise),
    cr = Math.cos(rise);
  const up = sole.ankleHeight - sole.toeJointHeight;
  out.forward = sole.tipAhead - toes * ct + sole.toeJointHeight * st - sole.ballAhead * cr + up * sr;
  out.height = toes * st + sole.toeJointHeight * ct + sole.ballAhead * sr + up * cr;
  out.bend = rise - tip;
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
