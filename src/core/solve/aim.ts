import type { Body } from '../body/body';
import { SIDES, type Side } from '../body/roles';
import type { SidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { ROW } from '../gait/style';
import type { Ground } from '../ground/ground';
import { rotate } from '../math/quaternion';
import { clamp, lerp, smoothstep } from '../math/scalar';
import { flightShare } from '../schedule/flight';
import type { Foothold } from '../schedule/foothold';
import type { Schedule } from '../schedule/schedule';
import { createFootTrack, type FootTrack } from './foot-track';
import { createHips, HIPS, HIPS_SIZE, type Heights } from './hips';
import { longestReach } from './leg';
import { createLegsRoom } from './legs-room';
import { createLowering, plainHeights } from './lowering';
import { DEMAND, KNOTS, TRIAL_KNOTS, type Demand } from './stance';
import { ARM_TARGET, armAt, createTargets, FOOT_TARGET, footAt, TARGET, type Targets } from './targets';
import { createUpperBody } from './upper-body';

/** The most a contact of a walk is taken down, as a part of the leg's length. */
const MOST_LOWERED = 0.3;

/** What is to be aimed: a planned gait on a body and a ground. */
export interface AimSource {
  readonly body: Body;
  readonly sided: SidedGait;
  readonly schedule: Schedule;
  readonly ground: Ground;
}

/** Decides the targets of a schedule at any time of one round. */
export interface Aimer {
  /** Both feet's tracks: left, right. */
  readonly feet: readonly [FootTrack, FootTrack];
  /** Extra angle (rad) by which the arms go out, set by whoever prepares them. */
  readonly armsOut: Float64Array;
  /** How far (m) contacts are taken down so that both legs reach through the flights; the most of all. */
  lowered(): number;
  /** Targets at clock[0] seconds inside a round, `turns` rounds on, in the frame of the first. Allocates nothing once prepared. */
  aim(clock: Float64Array, turns: number, targets: Targets): void;
}

/** Sharpness (1/m) of the hips' giving way: walking rounds it over some millimetres (more would bend a straight knee); a run must stay ballistic. */
const WALK_SHARPNESS = 500;
const RUN_SHARPNESS = 1200;
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
  const sharpness = WALK_SHARPNESS * (RUN_SHARPNESS / WALK_SHARPNESS) ** run;
  const room = lerp(WALK_ROOM_M, RUN_ROOM_M, run);
  const at = new Float64Array(HIPS_SIZE);
  const local = new Float64Array(1);
  const upperBody = createUpperBody(schedule.styles[0]);
  /** Both feet, prepared for hips whose flights are as high as told. */
  const tracksFor = (flights: Heights, knots: number, holds: Schedule['footholds']): [FootTrack, FootTrack] => {
    const track = (side: Side) =>
      createFootTrack(
        side,
        body.legs[side].sole,
        holds[side],
        { ground: source.ground, duration: schedule.duration, repeat: schedule.repeat, knots },
        hipDemand(body, schedule, flights, side, room),
      );
    return [track(0), track(1)];
  };
  const lowering =
    run > 0
      ? createLowering(schedule, {
          room: RUN_ROOM_M,
          share: run,
          most: MOST_LOWERED * body.legLength,
          trial: (flight, from, to) => {
            const heights = plainHeights(flight);
            const tracks = schedule.repeat ? tracksFor(heights, KNOTS, schedule.footholds) : tracksFor(heights, TRIAL_KNOTS, holdsNear(schedule, from, to));
            return trialRoom(body, schedule, heights, tracks);
          },
        })
      : null;
  const heights = lowering ?? plainHeights(schedule.flight);
  const hips = createHips(body, schedule, heights);
  const feet = tracksFor(heights, KNOTS, schedule.footholds);

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

  return {
    feet,
    armsOut: upperBody.armsOut,
    lowered: () => lowering?.lowered() ?? 0,
    aim(clock, turns, targets) {
      local[0] = schedule.repeat ? clock[0]! : clamp(clock[0]!, 0, schedule.duration);
      hips.read(local, 0, turns, at);
      for (let k = 0; k < HIPS_SIZE; k++) targets[k] = at[k]!;
      const { rows } = hips;
      targets[TARGET.straightest] = rows[ROW.straightest]!;
      targets[TARGET.sharpness] = sharpness;
      const heading = at[HIPS.root + 3]! + rows[ROW.turn]!;
      for (let side = 0; side < 2; side++) {
        const f = footAt(side as Side);
        feet[side]!.aim(local, 0, targets, f);
        targets[f + FOOT_TARGET.knee] = (heading + targets[f + FOOT_TARGET.heading]!) / 2 + rows[ROW.kneesOut + side]!;
      }
      upperBody.aim(rows, targets);
      if (cart) hold(cart, targets);
      else targets[armAt(0) + ARM_TARGET.weight] = targets[armAt(1) + ARM_TARGET.weight] = 0;
    },
  };
}

/** Where a side's hip joint wants to be; `room` (m) above the wish. */
function hipDemand(body: Body, schedule: Schedule, flights: Heights, side: Side, room: number): Demand {
  const reader = createHips(body, schedule, flights);
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

/** The footholds that matter between two times: those stood on then, and the ones before and after. */
function holdsNear({ footholds }: Schedule, from: number, to: number): Schedule['footholds'] {
  const near = (holds: readonly Foothold[]) => {
    const first = holds.findLastIndex((h) => h.landing <= from),
      last = holds.findIndex((h) => h.landing > to);
    return holds.slice(Math.max(0, first), last < 0 ? holds.length : last + 1);
  };
  return [near(footholds[0]), near(footholds[1])];
}

/** How much room (m) both legs leave the hips at a time, were the flights as tried; feet are prepared for that alone. */
function trialRoom(body: Body, schedule: Schedule, flights: Heights, tracks: readonly [FootTrack, FootTrack]): (t: number) => number {
  const reader = createHips(body, schedule, flights);
  const targets = createTargets();
  const legs = createLegsRoom(body);
  const clock = new Float64Array(1);
  const at = new Float64Array(HIPS_SIZE);
  return (t) => {
    clock[0] = t;
    reader.read(clock, 0, 0, at);
    for (let k = 0; k < HIPS_SIZE; k++) targets[k] = at[k]!;
    targets[TARGET.straightest] = reader.rows[ROW.straightest]!;
    for (const side of SIDES) tracks[side].aim(clock, 0, targets, footAt(side));
    legs.read(targets);
    return Math.min(legs.ceilings[0]!, legs.ceilings[1]!) - targets[TARGET.hips + 1]!;
  };
}
