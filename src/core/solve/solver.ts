import type { Body } from '../body/body';
import { JOINT, SIDES, UPPER_LEG, type Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { flatGround, type Ground } from '../ground/ground';
import { sidedGait } from '../gait/sides';
import { multiplyAxis, multiplyConjugate, setAxis, setIdentity, type Numbers } from '../math/quaternion';
import { lerp, smoothMax, smoothMin3, smoothstep, wrapPhase } from '../math/scalar';
import { flightShare } from '../schedule/flight';
import type { Schedule } from '../schedule/schedule';
import { FOOT, FOOT_SIZE } from './foot-state';
import { createFootTrack, evaluateFoot, type FootTrack } from './foot-track';
import { createFrame, createFrameEvaluator } from './frame';
import { legReach, solveLeg, type LegResult } from './leg';
import type { Demand } from './stance';
import { clearArms } from './clear-arms';
import { createHolding } from './holding';
import { lanternSwing, type LanternSwing } from './props';
import { createUpperBody } from './upper-body';

/** What a solver found out while preparing and solving; lengths in metres. */
interface SolveReport {
  /** How far the hips were taken down as a whole so that both legs reach through the flights of a run. */
  readonly lowered: number;
  /** Farthest any leg's target lay out of reach, over all poses solved so far (positive too far, negative too near). */
  readonly tooFar: number;
  readonly tooNear: number;
  /** Farthest a held hand was from the handle. */
  readonly handMissed: number;
  /** How far (rad) the arms were taken out to stay clear of the trunk, and the room (m) that is still missing then. */
  readonly armsOut: readonly [number, number];
  readonly armsClose: number;
}

export interface Solver {
  readonly body: Body;
  readonly gait: GaitSpec;
  readonly schedule: Schedule;
  readonly feet: readonly [FootTrack, FootTrack];
  readonly report: SolveReport;
  /**
   * Solves the pose at `t` seconds into out[at..at + poseSize): root translation, hips translation, a quaternion a joint.
   * The root carries the travel; the hips are local to it. Whole strides in `t` and in `turn` count on for slow looks.
   * Allocates nothing.
   */
  solve(t: number, out: Numbers, at: number, turn?: number): void;
  /** Swing of a carried lantern over the stride. */
  readonly lantern: LanternSwing | null;
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
/** Hips never go lower than this part of the leg length; then the legs fold and say so. */
const LOWEST_HIPS = 0.3;
const PREPARE_ROUNDS = 3;

/** Prepares the solver of one gait on one body and schedule. */
export function createSolver(body: Body, source: GaitSpec, schedule: Schedule, ground: Ground = flatGround): Solver {
  const { gait, sides } = sidedGait(source);
  const reach = legReach(body.thigh, body.shank, gait.legs.straightest);
  const run = smoothstep(0, RUN_SHARE, flightShare(schedule.flight, schedule.duration));
  const room = lerp(WALK_ROOM_M, RUN_ROOM_M, run);
  const sharpness = WALK_SHARPNESS * (RUN_SHARPNESS / WALK_SHARPNESS) ** run;
  const frame = createFrame();
  const evaluateFrame = createFrameEvaluator(body, gait, schedule);
  const upperBody = createUpperBody(gait, sides, schedule.strideTime);
  const feetState = new Float64Array(2 * FOOT_SIZE);
  const ceilings = new Float64Array(2);
  const legPoints = new Float64Array(6);
  const legWorld = new Float64Array(8);
  const footWorld = new Float64Array(4);
  const leg: LegResult = { missed: 0, knee: 0 };
  const report = { lowered: 0, tooFar: 0, tooNear: 0, handMissed: 0, armsOut: upperBody.extraOut, armsClose: 0 };
  const holding = gait.carry === 'cart' ? createHolding(body, gait) : null;

  const demandOf =
    (side: Side) =>
    (t: number, out: Demand): void => {
      evaluateFrame(t, report.lowered, frame);
      const sign = side === 0 ? 1 : -1;
      out.x = frame.hipsX + sign * frame.hipJoint[0]!;
      out.y = frame.wish + sign * frame.hipJoint[1]! + room;
      out.z = frame.hipsZ + sign * frame.hipJoint[2]!;
      out.reach = reach.longest;
    };
  // On level ground every stride of a cycle is like the last.
  const period = (side: Side): number =>
    schedule.periodic && ground === flatGround ? schedule.footholds[side].filter((h) => h.landing > -1e-9 && h.landing < schedule.duration - 1e-9).length : 0;
  const track = (side: Side): FootTrack =>
    createFootTrack(body.sole, sides[side], ground, schedule.footholds[side], 0, schedule.duration, gait.timing.strideLength, demandOf(side), period(side));

  /** Height of the hips that keeps this foot within reach, m. */
  function ceiling(side: Side): number {
    const sign = side === 0 ? 1 : -1;
    const o = side * FOOT_SIZE;
    const dx = frame.hipsX + sign * frame.hipJoint[0]! - feetState[o + FOOT.x]!;
    const dz = frame.hipsZ + sign * frame.hipJoint[2]! - feetState[o + FOOT.z]!;
    // Beyond reach the root runs out smoothly instead of ending in NaN; the leg then reports what it missed.
    const under = reach.longest * reach.longest - dx * dx - dz * dz;
    const soft = 0.02 * reach.longest * reach.longest;
    const rest = under > soft ? under : soft * Math.exp(under / soft - 1);
    return feetState[o + FOOT.y]! + Math.sqrt(rest) - sign * frame.hipJoint[1]!;
  }

  function placeFeet(t: number): void {
    evaluateFrame(t, report.lowered, frame);
    for (const side of SIDES) {
      evaluateFoot(feet[side], t, feetState, side * FOOT_SIZE);
      ceilings[side] = ceiling(side);
    }
  }

  let feet: [FootTrack, FootTrack] = [track(0), track(1)];
  if (run > 0)
    for (let round = 0; round < PREPARE_ROUNDS; round++) {
      const short = shortestRoom(schedule, (t) => {
        placeFeet(t);
        return Math.min(ceilings[0]!, ceilings[1]!) - frame.wish;
      });
      if (short >= RUN_ROOM_M) break;
      report.lowered += run * (RUN_ROOM_M - short + 1e-4);
      feet = [track(0), track(1)];
    }

  function solve(time: number, out: Numbers, at: number, turn = 0): void {
    const t = schedule.periodic ? wrapPhase(time / schedule.duration) * schedule.duration : Math.min(schedule.duration, Math.max(0, time));
    placeFeet(t);
    const lowest = LOWEST_HIPS * body.legLength;
    const height = smoothMax(smoothMin3(frame.wish, ceilings[0]!, ceilings[1]!, sharpness), lowest, 400);
    out[at] = frame.rootX;
    out[at + 1] = 0;
    out[at + 2] = frame.rootZ;
    out[at + 3] = frame.hipsX - frame.rootX;
    out[at + 4] = height;
    out[at + 5] = frame.hipsZ - frame.rootZ;
    const quats = at + 6;
    setIdentity(out, quats + JOINT.root * 4);
    for (let k = 0; k < 4; k++) out[quats + JOINT.hips * 4 + k] = frame.hips[k]!;
    for (const side of SIDES) {
      const sign = side === 0 ? 1 : -1;
      const o = side * FOOT_SIZE;
      legPoints[0] = frame.hipsX + sign * frame.hipJoint[0]!;
      legPoints[1] = height + sign * frame.hipJoint[1]!;
      legPoints[2] = frame.hipsZ + sign * frame.hipJoint[2]!;
      legPoints[3] = feetState[o + FOOT.x]!;
      legPoints[4] = feetState[o + FOOT.y]!;
      legPoints[5] = feetState[o + FOOT.z]!;
      const heading = feetState[o + FOOT.heading]!;
      solveLeg(body, reach, legPoints, (frame.turn + heading) / 2 + sign * sides[side].legs.kneesOut, legWorld, leg);
      if (leg.missed > report.tooFar) report.tooFar = leg.missed;
      if (leg.missed < report.tooNear) report.tooNear = leg.missed;
      const upper = quats + UPPER_LEG[side] * 4;
      multiplyConjugate(out, upper, frame.hips, 0, legWorld, 0);
      setAxis(out, upper + 4, 0, leg.knee);
      setAxis(footWorld, 0, 1, heading);
      multiplyAxis(footWorld, 0, footWorld, 0, 0, -feetState[o + FOOT.pitch]!);
      multiplyAxis(footWorld, 0, footWorld, 0, 2, -sign * feetState[o + FOOT.roll]!);
      multiplyConjugate(out, upper + 8, legWorld, 4, footWorld, 0);
      setAxis(out, upper + 12, 0, -feetState[o + FOOT.bend]!);
    }
    upperBody.evaluate(frame, frame.phase + turn + (schedule.periodic ? Math.floor(time / schedule.duration) : 0), out, quats);
    if (holding) report.handMissed = Math.max(report.handMissed, holding.hold(out, at));
  }

  if (!holding) report.armsClose = clearArms(body, sides, schedule, upperBody.extraOut, solve);
  const hand = gait.carry === 'lanternLeft' ? 0 : gait.carry === 'lanternRight' ? 1 : null;
  const lantern = hand === null || !schedule.periodic ? null : lanternSwing(body, gait, schedule.strideTime, hand, (t, out) => solve(t, out, 0));
  return { body, gait, schedule, feet, report, solve, lantern };
}

function shortestRoom(schedule: Schedule, roomAt: (t: number) => number): number {
  const n = Math.max(64, Math.ceil((schedule.duration / schedule.strideTime) * 64));
  let least = Infinity;
  for (let i = 0; i < n; i++) least = Math.min(least, roomAt((schedule.duration * i) / n));
  return least;
}
