import type { Body } from '../body/body';
import { contactPoints, CONTACT_NUMBERS, ownFeet } from '../body/foot-model';
import type { Measured } from '../body/measured';
import { JOINT, JOINT_COUNT, SIDES, UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { createLimbReach, usualHinge, type Limb } from '../clip/limb-reach';
import { createPlacement } from '../math/placement';
import { multiplyConjugate } from '../math/quaternion';
import type { Motion } from '../motion/motion';
import { createReach } from '../solve/reach';
import { ARM_TARGET, armAt, createTargets, footAt, TARGET, type Targets } from '../solve/targets';
import { clipView, type ShownClip } from './clip-view';
import { CALM_HZ } from './foot-series';
import { lockOf } from './lock-loop';
import { lockedClip } from './lock';
import { lockedContacts } from './locked-contacts';
import { standsOf } from './recorded-parts';
import { measureSlide, type ContactSlide } from './slide';
import { traceSoles } from './trace';
import type { TravelSpec } from './spec';

/** A clip on a body of ours, and the slide of each contact there. */
export interface OnBody {
  readonly clip: Clip;
  readonly slides: readonly ContactSlide[];
}

const OWN_ROLES = Int32Array.from({ length: JOINT_COUNT }, (_, j) => j);

/**
 * A prepared clip on a body of ours (retarget): what is turned is turned alike, places and ways are in legs, and soles stand as
 * they did. With `lock` feet are locked anew, since soles of another shape roll otherwise. `measured`: the clip's own body;
 * `made`: whether its feet stand exactly.
 */
export function onBody(shown: ShownClip, measured: Measured, body: Body, lock: TravelSpec['lock'], made: boolean): OnBody {
  const view = clipView(shown, measured);
  const own = measured.body;
  const k = body.legLength / own.legLength;
  const { frames, rate, loop, loopTravel, name } = shown.clip;
  const size = poseSize(body.skeleton);
  const poses = new Float64Array(frames * size);
  const reacher = createReach(body);
  const targets = createTargets();
  // Hips over legs that hang straight.
  const standing = [own, body].map((b) => b.skeleton.offsets[JOINT.hips * 3 + 1]!) as [number, number];
  const shownPose = new Float64Array(poseSize(own.skeleton));
  const legs = createLegs(body, own, view, frames, rate, made ? null : k);
  for (let f = 0; f < frames; f++) {
    view.targets(f / rate, targets);
    // The body that stands under a clip has a root of its own.
    view.place(f / rate, targets.subarray(TARGET.root, TARGET.root + 4));
    resize(targets, k, standing);
    reacher.reach(targets, poses, f * size);
    view.pose(f / rate, shownPose, 0);
    legs(poses, f * size, shownPose);
  }
  const contacts = shown.contacts.map((c) => ({ ...c }));
  const travel = createPlacement(loopTravel[0]! * k, loopTravel[1]! * k, loopTravel[2]! * k, loopTravel[3]!);
  const clip: Clip = { name, skeleton: body.skeleton, frames, rate, loop, poses, loopTravel: travel, contacts };
  const figure = { clip, roles: OWN_ROLES, feet: ownFeet(body), legLength: body.legLength };
  if (!lock) return { clip, slides: measureSlide(traceSoles(clip, figure.feet), contacts) };
  const how = { floor: 0, first: 0, calm: made ? Infinity : CALM_HZ };
  const holding = lockOf(figure, contacts.flatMap(standsOf), { ...lock, ...how });
  const locked = lockedClip(clip, holding);
  const held = lockedContacts({ ...figure, clip: locked }, contacts, holding, how);
  return { clip: { ...locked, contacts: held }, slides: measureSlide(traceSoles(locked, figure.feet), held) };
}

/** Looks at the way knees usually bend. */
const LOOKS = 200;

/**
 * Returns what bends the legs of a pose as the clip's own pose has them: the heading of a knee is told by its own leg, also of one
 * that lies on the ground. With `scale` ankles go where they went, that many times as far, and no lower than soles allow, since
 * a recorded foot dips below its own floor; without, ankles are where they are, as exact soles roll.
 */
function createLegs(
  body: Body,
  own: Body,
  view: Motion,
  frames: number,
  rate: number,
  scale: number | null,
): (poses: Float64Array, at: number, like: Float64Array) => void {
  const { skeleton } = body;
  const size = poseSize(skeleton);
  const world = createWorldPose(skeleton),
    source = createWorldPose(own.skeleton);
  const looks = Math.min(LOOKS, frames);
  const seen = new Float64Array(looks * size);
  for (let i = 0; i < looks; i++) view.pose((i * frames) / looks / rate, seen, i * size);
  const see = (poses: Float64Array, at: number) => {
    forwardKinematics(skeleton, poses, at, world);
    return world;
  };
  const models = ownFeet(body);
  const legs = SIDES.map((side) => {
    const root = UPPER_LEG[side];
    const limb: Limb = { root, hinge: root + 1, end: root + 2 };
    return {
      limb,
      model: models[side]!,
      reach: createLimbReach(
        skeleton,
        limb,
        usualHinge(skeleton, seen, limb, (at) => see(seen, at)),
      ),
    };
  });
  const ankle = new Float64Array(3),
    foot = new Float64Array(4),
    points = new Float64Array(CONTACT_NUMBERS);
  const heights = [own, body].map((b) => b.hipHeight - b.legLength) as [number, number];
  return (poses, at, like) => {
    if (scale !== null) forwardKinematics(own.skeleton, like, 0, source);
    for (const { limb, model, reach } of legs) {
      const { end } = limb;
      see(poses, at);
      foot.set(world.rotations.subarray(end * 4, end * 4 + 4));
      ankle.set((scale === null ? world : source).positions.subarray(end * 3, end * 3 + 3));
      if (scale !== null) {
        ankle[1] = ankle[1]! - heights[0];
        for (let k = 0; k < 3; k++) ankle[k] = ankle[k]! * scale;
        ankle[1] = ankle[1]! + heights[1];
      }
      for (const joint of [limb.root, limb.hinge]) {
        const q = rotationAt(skeleton, joint);
        for (let k = 0; k < 4; k++) poses[at + q + k] = like[q + k]!;
      }
      const step = () => {
        if (scale !== null) soften(ankle, see(poses, at).positions, limb.root, body.legLength);
        reach(poses, at, see(poses, at), ankle, 0);
        multiplyConjugate(poses, at + rotationAt(skeleton, end), see(poses, at).rotations, limb.hinge * 4, foot, 0);
      };
      step();
      if (scale === null) continue;
      contactPoints(model, see(poses, at), points, 0);
      const low = Math.min(points[1]!, points[4]!, points[7]!);
      if (low > 4 * SOFT_M) continue;
      ankle[1] = ankle[1]! + (low < -20 * SOFT_M ? -low : SOFT_M * Math.log1p(Math.exp(-low / SOFT_M)));
      step();
    }
  };
}

/** From this part of its length on a leg is stretched more and more softly. */
const SOFT_REACH = 0.985;

/** Brings the end of a leg nearer to its root where it would be pulled straight. */
function soften(ankle: Float64Array, positions: Float64Array, root: number, length: number): void {
  const away = (k: number) => ankle[k]! - positions[root * 3 + k]!;
  const reach = Math.hypot(away(0), away(1), away(2)) / length;
  if (reach <= SOFT_REACH) return;
  const soft = SOFT_REACH + (1 - SOFT_REACH) * Math.tanh((reach - SOFT_REACH) / (1 - SOFT_REACH));
  for (let k = 0; k < 3; k++) ankle[k] = positions[root * 3 + k]! + (away(k) * soft) / reach;
}

/** A sole that is lower than the floor is lifted as softly as this, m. */
const SOFT_M = 0.002;

/** Places k times as far; the hips as far under where they are over straight legs. */
function resize(targets: Targets, k: number, [from, to]: readonly [number, number]): void {
  const scale = (o: number) => {
    for (let i = o; i < o + 3; i++) targets[i] = targets[i]! * k;
  };
  scale(TARGET.root);
  const height = targets[TARGET.hips + 1]!;
  scale(TARGET.hips);
  targets[TARGET.hips + 1] = to + (height - from) * k;
  // The hips go as they went; what a leg does not reach is for the lock.
  targets[TARGET.sharpness] = 0;
  for (const side of [0, 1] as const) {
    scale(footAt(side));
    scale(armAt(side) + ARM_TARGET.palm);
  }
}
