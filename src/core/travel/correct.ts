import { JOINT, type Role } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, restWorld, rotationAt } from '../body/skeleton';
import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createLimbReach, usualHinge, type Limb } from '../clip/limb-reach';
import { multiply, multiplyConjugate, rotateFrom, slerp } from '../math/quaternion';
import { fromRotationVector } from '../math/rotation-vector';
import { clipPhase } from './clip-phase';
import type { Layer, LayerTarget } from './layer-spec';
import { countingLayers, layerValue, layerWeight, VALUE } from './layer-value';
import { carrierOf, moveCarrier } from './lock';

/** A standing leg is never stretched beyond this part of its length by hips that are moved: they give way. */
const REACH = 0.9995;
const GIVE_ROUNDS = 4;

/** Joints a turn of the chest, or of the look, is shared by. */
const SHARED: Readonly<Partial<Record<LayerTarget, readonly Role[]>>> = { chest: ['spine', 'chest', 'upperChest'], look: ['neck', 'head'] };

/**
 * A clip with layers of corrections on it. Moves and turns are seen from where the body faces (`places`: 4 numbers a picture,
 * the travel). The body comes first, then legs reach for where their feet are, so that feet that stand stay; hands and single
 * joints last. Pictures in which no layer counts are the clip's own, bit for bit.
 */
export function correctedClip(figure: ClipFigure, layers: readonly Layer[], places: Float64Array, held: readonly ClipContact[]): Clip {
  const { clip } = figure;
  const counting = countingLayers(layers);
  if (counting.length === 0) return clip;
  const { skeleton, frames, rate, loop } = clip;
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const correct = createCorrection(figure, held);
  const phase = clipPhase(clip, held);
  const read = counting.map((layer) => ({ layer, value: layerValue(layer, loop ? frames / rate : null) }));
  const values = new Float64Array(counting.length * VALUE);
  const weights = new Float64Array(counting.length);
  for (let f = 0; f < frames; f++) {
    const t = f / rate;
    let any = false;
    read.forEach(({ layer, value }, i) => {
      weights[i] = layerWeight(layer, t, phase ? phase(t) : null);
      value(t, values.subarray(i * VALUE, (i + 1) * VALUE));
      any ||= weights[i]! > 0;
    });
    if (any) correct(f, poses, f * size, counting, values, weights, places[f * 4 + 3]!);
  }
  return { ...clip, poses };
}

function createCorrection(figure: ClipFigure, held: readonly ClipContact[]) {
  const { clip, roles, feet } = figure;
  const { skeleton } = clip;
  const world = createWorldPose(skeleton);
  const rest = restWorld(skeleton);
  const carrier = carrierOf(skeleton, roles);
  const carrierAt = skeleton.moving.indexOf(carrier) * 3;
  const looked = (at: number) => {
    forwardKinematics(skeleton, clip.poses, at, world);
    return world;
  };
  const legs = feet.map((foot) => {
    const limb: Limb = { root: foot.hip, hinge: foot.knee, end: foot.ankle };
    return { foot, reach: createLimbReach(skeleton, limb, usualHinge(skeleton, clip.poses, limb, looked)) };
  });
  const arms = (['left', 'right'] as const).map((side) => {
    const limb: Limb = { root: roles[JOINT[`${side}UpperArm`]]!, hinge: roles[JOINT[`${side}LowerArm`]]!, end: roles[JOINT[`${side}Hand`]]! };
    return Math.min(limb.root, limb.hinge, limb.end) < 0
      ? null
      : { limb, reach: createLimbReach(skeleton, limb, usualHinge(skeleton, clip.poses, limb, looked)) };
  });
  const stands = feet.map((foot) => {
    const on = new Uint8Array(clip.frames);
    for (const c of held) if (c.foot === foot.name) on.fill(1, Math.max(0, Math.ceil(c.from)), Math.min(clip.frames, Math.floor(c.to) + 1));
    return on;
  });
  const [v, w, q, r, faced] = [new Float64Array(3), new Float64Array(3), new Float64Array(4), new Float64Array(4), new Float64Array(4)];
  const ankles = new Float64Array(6),
    soles = new Float64Array(16),
    target = new Float64Array(3);

  /** Turns a joint of the pose, in the world, by a rotation vector seen from where the body faces. */
  const turnJoint = (pose: Float64Array, at: number, joint: number, turn: Float64Array, o: number, share: number): void => {
    for (let k = 0; k < 3; k++) v[k] = turn[o + k]! * share;
    rotateFrom(w, 0, faced, 0, v, 0);
    fromRotationVector(q, 0, w, 0);
    multiply(r, 0, q, 0, world.rotations, joint * 4);
    setWorld(pose, at, joint, r);
  };
  const setWorld = (pose: Float64Array, at: number, joint: number, rotation: Float64Array): void => {
    const parent = skeleton.parents[joint]!;
    const local = at + rotationAt(skeleton, joint);
    if (parent < 0) for (let k = 0; k < 4; k++) pose[local + k] = rotation[k]!;
    else multiplyConjugate(pose, local, world.rotations, parent * 4, rotation, 0);
  };
  /** Takes a joint's world orientation towards that of rest, faced and turned, by a share. */
  const replaceJoint = (pose: Float64Array, at: number, joint: number, turn: Float64Array, o: number, share: number): void => {
    for (let k = 0; k < 3; k++) v[k] = turn[o + k]!;
    fromRotationVector(q, 0, v, 0);
    multiply(r, 0, faced, 0, q, 0);
    multiply(q, 0, r, 0, rest.rotations, joint * 4);
    slerp(r, 0, world.rotations, joint * 4, q, 0, share);
    setWorld(pose, at, joint, r);
  };

  return (f: number, pose: Float64Array, at: number, layers: readonly Layer[], values: Float64Array, weights: Float64Array, yaw: number): void => {
    faced.set([0, Math.sin(yaw / 2), 0, Math.cos(yaw / 2)]);
    const see = () => forwardKinematics(skeleton, pose, at, world);
    see();
    legs.forEach(({ foot }, s) => {
      for (let k = 0; k < 3; k++) ankles[s * 3 + k] = world.positions[foot.ankle * 3 + k]!;
      for (let k = 0; k < 4; k++) {
        soles[s * 8 + k] = world.rotations[foot.ankle * 4 + k]!;
        soles[s * 8 + 4 + k] = world.rotations[foot.toes * 4 + k]!;
      }
    });
    let body = false;
    const each = (targets: (t: LayerTarget) => boolean, run: (layer: Layer, o: number, weight: number) => void) =>
      layers.forEach((layer, i) => {
        if (weights[i]! > 0 && targets(layer.target)) run(layer, i * VALUE, weights[i]!);
      });
    const turned = (layer: Layer, joint: number, o: number, share: number) => {
      see();
      if (layer.mode === 'replacing') replaceJoint(pose, at, joint, values, o + 3, share);
      else turnJoint(pose, at, joint, values, o + 3, share);
    };
    each(
      (t) => t === 'hips',
      (layer, o, weight) => {
        body = true;
        for (let k = 0; k < 3; k++) v[k] = values[o + k]! * weight;
        rotateFrom(w, 0, faced, 0, v, 0);
        see();
        moveCarrier(skeleton, carrier, carrierAt, world.rotations, w, 0, pose, at, v);
        turned(layer, roles[JOINT.hips]!, o, weight);
      },
    );
    each(
      (t) => t === 'chest' || t === 'look',
      (layer, o, weight) => {
        const joints = SHARED[layer.target]!.map((role) => roles[JOINT[role]]!).filter((j) => j >= 0);
        for (const joint of joints) {
          if (layer.mode === 'replacing') turned(layer, joint, o, weight);
          else turned(layer, joint, o, weight / joints.length);
        }
      },
    );
    // Single joints of the trunk and of the arms go with the body; those of the legs come after their feet.
    const jointOf = (target: LayerTarget): number => (target.startsWith('joint ') ? roles[JOINT[target.slice(6) as Role]]! : -1);
    const ofLegs = (target: LayerTarget) => /Leg$|Foot$|Toes$/.test(target);
    each(
      (t) => t.startsWith('joint ') && !ofLegs(t),
      (layer, o, weight) => {
        const joint = jointOf(layer.target);
        if (joint < 0) return;
        if (layer.target === 'joint hips') body = true;
        turned(layer, joint, o, weight);
      },
    );
    if (body) giveWay();
    legs.forEach(({ foot, reach }, s) => {
      let own = body;
      for (let k = 0; k < 3; k++) target[k] = ankles[s * 3 + k]!;
      const turn = [0, 0, 0];
      each(
        (t) => t === `${foot.name}Foot`,
        (_, o, weight) => {
          own = true;
          for (let k = 0; k < 3; k++) v[k] = values[o + k]! * weight;
          rotateFrom(w, 0, faced, 0, v, 0);
          for (let k = 0; k < 3; k++) {
            target[k] = target[k]! + w[k]!;
            turn[k] = turn[k]! + values[o + 3 + k]! * weight;
          }
        },
      );
      if (!own) return;
      see();
      reach(pose, at, world, target, 0);
      see();
      v.set(turn);
      rotateFrom(w, 0, faced, 0, v, 0);
      fromRotationVector(q, 0, w, 0);
      multiply(r, 0, q, 0, soles, s * 8);
      setWorld(pose, at, foot.ankle, r);
      if (foot.toes === foot.ankle) return;
      see();
      multiply(r, 0, q, 0, soles, s * 8 + 4);
      setWorld(pose, at, foot.toes, r);
    });
    arms.forEach((arm, s) => {
      if (!arm) return;
      each(
        (t) => t === (s === 0 ? 'leftHand' : 'rightHand'),
        (layer, o, weight) => {
          see();
          for (let k = 0; k < 3; k++) v[k] = values[o + k]! * weight;
          rotateFrom(w, 0, faced, 0, v, 0);
          for (let k = 0; k < 3; k++) target[k] = world.positions[arm.limb.end * 3 + k]! + w[k]!;
          arm.reach(pose, at, world, target, 0);
          turned(layer, arm.limb.end, o, weight);
        },
      );
    });
    each(
      (t) => t.startsWith('joint ') && ofLegs(t),
      (layer, o, weight) => {
        const joint = jointOf(layer.target);
        if (joint >= 0) turned(layer, joint, o, weight);
      },
    );

    /** Hips that are moved come back as far as a standing leg does not reach. */
    function giveWay(): void {
      for (let round = 0; round < GIVE_ROUNDS; round++) {
        see();
        let moved = false;
        legs.forEach(({ foot }, s) => {
          if (!stands[s]![f]) return;
          const p = world.positions;
          const bone = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((k) => p[a * 3 + k]! - p[b * 3 + k]!));
          const most = REACH * (bone(foot.hip, foot.knee) + bone(foot.knee, foot.ankle));
          for (let k = 0; k < 3; k++) v[k] = ankles[s * 3 + k]! - p[foot.hip * 3 + k]!;
          const d = Math.hypot(v[0]!, v[1]!, v[2]!);
          if (d <= most) return;
          moved = true;
          for (let k = 0; k < 3; k++) w[k] = (v[k]! * (d - most)) / d;
          moveCarrier(skeleton, carrier, carrierAt, world.rotations, w, 0, pose, at, v);
          see();
        });
        if (!moved) return;
      }
    }
  };
}
