import type { Body } from '../body/body';
import { legThickness } from '../body/limbs';
import { SIDES, type Side } from '../body/roles';
import type { SidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { ROW, straightestKnee } from '../gait/style';
import type { Ground } from '../ground/ground';
import { rotate } from '../math/quaternion';
import { clamp, lerp, smoothstep } from '../math/scalar';
import { readTrack } from '../schedule/along';
import { flightShare } from '../schedule/flight';
import type { Schedule } from '../schedule/schedule';
import { FOOT_SIZE } from './foot-state';
import { mirrorTwins, walkTwins } from './twins';
import { addArms, ARMS_EXTRA_SIZE, type ArmsSpline } from './clear-arms';
import { createFootTrack, type FootTrack, type HipPlace } from './foot-track';
import { createHips, HIPS, HIPS_SIZE } from './hips';
import { createHipsPlan, type HipsPlan, type Pushes } from './hips-plan';
import { longestReach } from './leg';
import { createLegShaper, HIP_JOINT, HIP_JOINT_SIZE } from './leg-shape';
import { DEMAND, type Demand } from './stance';
import { ARM_TARGET, armAt, FOOT_TARGET, footAt, TARGET, type Targets } from './targets';
import { createUpperBody } from './upper-body';

/** What is to be aimed: a planned gait on a body and a ground. */
export interface AimSource {
  readonly body: Body;
  readonly sided: SidedGait;
  readonly schedule: Schedule;
  readonly ground: Ground;
  /** The same gait as a cycle: where a walk goes as that does, what was found for it is taken. */
  readonly steady?: Aimer | null;
  /** What flights have the hips do; without it hips are what is thrown. */
  readonly pushes?: Pushes | null;
  /** Arms of another aimer of the same schedule. */
  readonly arms?: Aimer['arms'];
  /** Found less closely, in a fraction of the time. */
  readonly quickly?: boolean;
}

/** A span of a walk (s) in which arms have a way of their own; not yet looked for while undefined. */
export interface ArmsSpan {
  readonly from: number;
  readonly to: number;
  spline: ArmsSpline | null | undefined;
}

/** How both arms keep clear. */
interface ArmsWay {
  /** What is being tried, on top of the rest. */
  readonly trial: Float64Array;
  /** What was found over the stride, and in spans of a walk. */
  stride: ArmsSpline | null;
  spans: readonly ArmsSpan[];
  /** Finds what is needed at a time (s) of the round; to be called before arms are read there. */
  prepare: (t: number) => void;
}

/** Decides the targets of a schedule at any time of one round. */
export interface Aimer {
  readonly schedule: Schedule;
  readonly plan: HipsPlan;
  /** Both feet's tracks: left, right. */
  readonly feet: readonly [FootTrack, FootTrack];
  readonly arms: ArmsWay;
  /** Targets at clock[0] seconds inside a round, `turns` rounds on, in the frame of the first. Allocates nothing once prepared. */
  aim(clock: Float64Array, turns: number, targets: Targets): void;
  /** Chest, head and arms anew, for the time aimed at last: what is being tried for the arms has changed. */
  aimArms(targets: Targets): void;
}

/** The straightest bend the leg itself has, as a part of the one the hips are planned for. */
const REACH_SHARE = 0.15;
const LEAST_BEND_RAD = 0.016;
/** Room (m) a run keeps between its hips and what the legs reach, so that flight stays a thrown body's. */
const RUN_ROOM_M = 0.014;
/** Room (m) that a trailing heel's rise makes for the hips of a walk. */
const WALK_ROOM_M = 0.0015;
/** Part of the time in flight at which a gait is a run through and through; below it, walking and running rules mix. */
const RUN_SHARE = 0.06;

/** The aimer of one motion. Nothing is prepared before it is asked for. */
export function createAim(source: AimSource): Aimer {
  const { body, sided, schedule } = source;
  const { gait } = sided;
  const run = smoothstep(0, RUN_SHARE, flightShare(schedule.flight, schedule.duration));
  const at = new Float64Array(HIPS_SIZE);
  const local = new Float64Array(1);
  const strides = new Float64Array(1);
  const joint = new Float64Array(3);
  const upperBody = createUpperBody(schedule.styles[0]);
  const arms: Aimer['arms'] = source.arms ?? { trial: new Float64Array(ARMS_EXTRA_SIZE), stride: null, spans: [], prepare: () => {} };
  const room = lerp(WALK_ROOM_M, RUN_ROOM_M, run);
  const steady = source.steady ?? null;
  const plan = createHipsPlan(body, schedule, () => feet, steady, source);
  const hips = createHips(body, schedule, plan);
  const thickness = legThickness(body);
  const joints = [plannedJoint(body, schedule, plan, 0), plannedJoint(body, schedule, plan, 1)] as const;
  const standingLeg = (side: Side): HipPlace['other'] => {
    const shape = createLegShaper(body.legs[side]);
    const at = new Float64Array(HIP_JOINT_SIZE),
      foot = new Float64Array(FOOT_SIZE);
    const { repeat, duration } = schedule;
    const later = new Float64Array(1);
    return (clock, out) => {
      // What a foot does before its first landing in a round it does again a round later.
      const before = repeat !== null && clock[0]! < feet[side].holds[0]!.landing;
      later[0] = clock[0]! + (before ? duration : 0);
      if (!feet[side].stands(later, 0, foot, 0)) return false;
      if (before) for (let k = 0; k < 3; k++) foot[k] = foot[k]! - repeat[k]!;
      joints[side](clock, at);
      shape(at, foot, out);
      return true;
    };
  };
  const track = (side: Side): FootTrack =>
    createFootTrack(
      side,
      body.legs[side],
      schedule.footholds[side],
      {
        ground: source.ground,
        duration: schedule.duration,
        repeat: schedule.repeat,
        straightest: straightestKnee(sided.gait),
        thickness,
        flies: schedule.support.length > 1,
      },
      { wished: hipDemand(body, schedule, side, room), planned: joints[side], other: standingLeg((1 - side) as Side) },
      steady ? walkTwins(schedule, steady.schedule, steady.feet[side]) : side === 1 && schedule.repeat ? mirrorTwins(schedule, left) : null,
    );
  const left: FootTrack = track(0);
  const feet: readonly [FootTrack, FootTrack] = [left, track(1)];

  const cart = gait.carry === 'cart' ? gait.props : null;
  function hold({ gripWidth, handleAhead, handleHeight }: GaitSpec['props'], targets: Targets): void {
    for (const side of SIDES) {
      const a = armAt(side);
      targets[a + ARM_TARGET.weight] = 1;
      const yaw = targets[TARGET.root + 3]!;
      const heading = yaw + gait.direction.travel;
      const across = (side === 0 ? 0.5 : -0.5) * gripWidth;
      const sin = Math.sin(heading),
        cos = Math.cos(heading);
      targets[a + ARM_TARGET.palm] = targets[TARGET.root]! + sin * handleAhead + cos * across;
      targets[a + ARM_TARGET.palm + 1] = targets[TARGET.root + 1]! + handleHeight;
      targets[a + ARM_TARGET.palm + 2] = targets[TARGET.root + 2]! + cos * handleAhead - sin * across;
      targets[a + ARM_TARGET.facing] = yaw + gait.direction.chest;
    }
  }

  function aimArms(targets: Targets): void {
    const { extra } = upperBody;
    for (let k = 0; k < ARMS_EXTRA_SIZE; k++) extra[k] = arms.trial[k]!;
    // Half-swung arms need more than half of the room.
    if (arms.stride) {
      readTrack(schedule.strides, local, 0, strides, 0);
      addArms(arms.stride, strides[0]!, hips.share[0]! * (2 - hips.share[0]!), extra);
    }
    for (let i = 0; i < arms.spans.length; i++) {
      const span = arms.spans[i]!;
      if (local[0]! < span.from || local[0]! > span.to) continue;
      if (span.spline) addArms(span.spline, local[0]!, fadeIn(span, local[0]!, schedule.duration), extra);
    }
    upperBody.aim(hips.rows, targets);
  }

  return {
    schedule,
    plan,
    feet,
    arms,
    aimArms,
    aim(clock, turns, targets) {
      local[0] = schedule.repeat ? clock[0]! : clamp(clock[0]!, 0, schedule.duration);
      hips.read(local, 0, turns, at);
      for (let k = 0; k < HIPS_SIZE; k++) targets[k] = at[k]!;
      const { rows } = hips;
      // The plan keeps knees from it; what little it leaves over the leg still has.
      targets[TARGET.straightest] = Math.max(LEAST_BEND_RAD, REACH_SHARE * rows[ROW.straightest]!);
      targets[TARGET.sharpness] = 0;
      const heading = at[HIPS.root + 3]! + rows[ROW.turn]!;
      for (let side = 0; side < 2; side++) {
        const f = footAt(side as Side);
        const { hip } = body.legs[side]!;
        rotate(joint, 0, targets, TARGET.hipsTurn, hip[0], hip[1], hip[2]);
        for (let k = 0; k < 3; k++) joint[k] = joint[k]! + targets[TARGET.hips + k]!;
        feet[side]!.aim(local, 0, joint, targets, f);
        targets[f + FOOT_TARGET.knee] = (heading + targets[f + FOOT_TARGET.heading]!) / 2 + rows[ROW.kneesOut + side]!;
      }
      aimArms(targets);
      if (cart) hold(cart, targets);
      else targets[armAt(0) + ARM_TARGET.weight] = targets[armAt(1) + ARM_TARGET.weight] = 0;
    },
  };
}

/** A span of a walk comes in and goes out over this part of it, where it does not begin or end the walk. */
const SPAN_FADE = 0.15;
function fadeIn({ from, to }: ArmsSpan, t: number, duration: number): number {
  const over = SPAN_FADE * (to - from);
  return (from > 0 ? smoothstep(0, over, t - from) : 1) * (to < duration ? smoothstep(0, over, to - t) : 1);
}

/** Where a side's hip joint wants to be; `room` (m) above the wish. */
function hipDemand(body: Body, schedule: Schedule, side: Side, room: number): Demand {
  const reader = createHips(body, schedule, null, true);
  const at = new Float64Array(HIPS_SIZE);
  const joint = new Float64Array(3);
  const { hip } = body.legs[side];
  let straightest = NaN,
    reach = 0;
  return (clock, out) => {
    reader.read(clock, 0, 0, at);
    rotate(joint, 0, at, HIPS.turn, hip[0], hip[1], hip[2]);
    if (reader.rows[ROW.straightest] !== straightest) {
      straightest = reader.rows[ROW.straightest]!;
      reach = longestReach(body.legs[side], straightest);
    }
    out[DEMAND.x] = at[HIPS.place]! + joint[0]!;
    out[DEMAND.y] = at[HIPS.place + 1]! + joint[1]! + room;
    out[DEMAND.z] = at[HIPS.place + 2]! + joint[2]!;
    out[DEMAND.reach] = reach;
  };
}

/** Where a side's hip joint is by plan. */
function plannedJoint(body: Body, schedule: Schedule, plan: HipsPlan, side: Side): (clock: Float64Array, out: Float64Array) => void {
  const reader = createHips(body, schedule, plan, true);
  const at = new Float64Array(HIPS_SIZE);
  const { hip } = body.legs[side];
  return (clock, out) => {
    reader.read(clock, 0, 0, at);
    rotate(out, 0, at, HIPS.turn, hip[0], hip[1], hip[2]);
    for (let k = 0; k < 3; k++) out[k] = out[k]! + at[HIPS.place + k]!;
    out[HIP_JOINT.heading] = at[HIPS.root + 3]! + reader.rows[ROW.turn]!;
    out[HIP_JOINT.kneesOut] = reader.rows[ROW.kneesOut + side]!;
  };
}
