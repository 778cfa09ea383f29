import { findLegs } from '../body/find-legs';
import { guessRoles, isBiped } from '../body/guess-roles';
import { JOINT, type Role } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { deckWay, onDeck } from '../clip/deck';
import { inWorld, worldTurn, type Up } from '../clip/in-world';
import type { ClipFigure } from '../clip/figure';
import { toRadians } from '../math/scalar';
import { FormatFault, READ_LIMITS } from './limits';
import type { FoundClip } from './motion-file';

/** What a person has said of a clip; what is null is guessed. */
export interface BringSettings {
  /** Metres a unit of the file. */
  readonly unit: number | null;
  readonly up: Up | null;
  /** By how much the clip is turned, degrees, left positive. */
  readonly heading: number;
  /** Joints that were given roles by hand, −1 for none. */
  readonly roles: Readonly<Partial<Record<Role, number>>>;
}

export const NOTHING_SAID: BringSettings = { unit: null, up: null, heading: 0, roles: {} };

/** A clip brought in: in metres, Y up, with whose joint is which. */
export interface Brought {
  readonly figure: ClipFigure;
  readonly unit: number;
  readonly up: Up;
  /** Rotation from the file's world to ours. */
  readonly turn: Float64Array;
  /** Roles that are a guess, and all else that is unsure, in words. */
  readonly unsure: readonly Role[];
  readonly doubts: readonly string[];
}

/** Brings a clip in. Throws FormatFault where it has no two legs, or walks on four. */
export function bring(found: FoundClip, said: BringSettings = NOTHING_SAID): Brought {
  const { clip, ends } = found;
  const guessed = guessRoles(clip.skeleton, ends);
  if (!isBiped(guessed) && Object.keys(said.roles).length === 0) throw new FormatFault(guessed.reason, clip.name);
  const joints = isBiped(guessed) ? guessed.joints.slice() : new Int32Array(Object.keys(JOINT).length).fill(-1);
  for (const [role, joint] of Object.entries(said.roles) as [Role, number][]) joints[JOINT[role]] = joint < clip.skeleton.names.length ? joint : -1;
  const raw = findLegs(clip.skeleton, ends, null, joints);
  if (!raw) throw new FormatFault('a thigh, a shank and a foot are needed on both sides', clip.name);
  const doubts = isBiped(guessed) ? [...guessed.doubts] : [];
  const unit = said.unit ?? guessUnit(raw.legLength);
  const leg = raw.legLength * unit;
  if (!(leg > 1e-4 && leg < READ_LIMITS.metres)) throw new FormatFault(`the legs are ${leg} m long; nothing can be measured by them`, clip.name);
  if (said.unit === null && (leg < PLAUSIBLE_LEG_M[0] || leg > PLAUSIBLE_LEG_M[1]))
    doubts.push(`the unit is a guess: with ${unit} m a unit the legs are ${leg.toFixed(2)} m long`);
  const seen = guessUp(found, joints);
  const up = said.up ?? seen.up;
  if (said.up === null && !seen.sure) doubts.push('which way is up is a guess: the figure is not upright for most of the time');
  if (clip.deck) doubts.push(`its floor moves, by up to ${deckWay(clip.deck).farthest.toFixed(2)} m: it is taken as it goes over that floor`);
  const turn = worldTurn(up, toRadians(said.heading));
  const placed = inWorld(onDeck(clip), unit, turn);
  const scaled = ends.map((e) => (e ? (e.map((v) => v * unit) as [number, number, number]) : null));
  const legs = findLegs(placed.skeleton, scaled, found.sole, joints)!;
  return {
    figure: { clip: placed, roles: joints, ...legs, ...(found.sole ? { soled: true } : {}), ...(clip.deck ? { deck: clip.deck } : {}) },
    unit,
    up,
    turn,
    unsure: isBiped(guessed) ? guessed.unsure.filter((r) => !(r in said.roles)) : [],
    doubts,
  };
}

/** Metres, centimetres, millimetres, decimetres, inches, feet, and the inch / 0.45 of motion capture converted from ASF files. */
const UNITS = [1, 0.01, 0.001, 0.1, 0.0254, 0.3048, 0.0254 / 0.45];
/** Leg length (m) of a person of about 1.7 m, and between what a leg is believed. */
const USUAL_LEG_M = 0.84;
const PLAUSIBLE_LEG_M = [0.5, 1.2] as const;

/** Metres per unit that make the leg most like a person's. */
export const guessUnit = (legLength: number): number =>
  UNITS.reduce((best, unit) =>
    Math.abs(Math.log((legLength * unit) / USUAL_LEG_M)) < Math.abs(Math.log((legLength * best) / USUAL_LEG_M)) - 1e-9 ? unit : best,
  );

/** Pictures looked at, and how upright (cosine) the figure must be on the whole to be sure. */
const LOOKS = 200;
const UPRIGHT = 0.8;

/** The axis along which the figure stands for most of the time: from its feet to its hips, and on to its head. */
function guessUp({ clip }: FoundClip, joints: Int32Array): { up: Up; sure: boolean } {
  const { skeleton, frames, poses } = clip;
  const world = createWorldPose(skeleton);
  const top = joints[JOINT.head]! >= 0 ? joints[JOINT.head]! : joints[JOINT.hips]! >= 0 ? joints[JOINT.hips]! : joints[JOINT.leftUpperLeg]!;
  const feet = [joints[JOINT.leftFoot]!, joints[JOINT.rightFoot]!];
  const only = withAncestors(skeleton, [top, ...feet]);
  const size = poseSize(skeleton);
  const sum = [0, 0, 0];
  const step = Math.max(1, Math.floor(frames / LOOKS));
  let looks = 0;
  for (let f = 0; f < frames; f += step, looks++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    const p = world.positions;
    const v = [0, 1, 2].map((k) => p[top * 3 + k]! - (p[feet[0]! * 3 + k]! + p[feet[1]! * 3 + k]!) / 2);
    const l = Math.hypot(...v) || 1;
    for (let k = 0; k < 3; k++) sum[k] = sum[k]! + v[k]! / l;
  }
  // Y where nothing says otherwise.
  const axis = [1, 2, 0].reduce((best, k) => (Math.abs(sum[k]!) > Math.abs(sum[best]!) + 1e-9 ? k : best), 1);
  return { up: `${sum[axis]! < 0 ? '-' : '+'}${'xyz'[axis]!}` as Up, sure: Math.abs(sum[axis]!) > UPRIGHT * looks };
}
