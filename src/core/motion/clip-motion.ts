import type { Body } from '../body/body';
import { mannequinRig, type Rig } from '../body/rig';
import { SIDES, SIDE_NAMES } from '../body/roles';
import { poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { createInterpolator } from '../clip/interpolate';
import { levelGround, type Ground } from '../ground/ground';
import type { Foothold, SwingStyle } from '../schedule/foothold';
import { createPoseReader } from '../solve/read';
import { createTargets, FOOT_TARGET, footAt } from '../solve/targets';
import { footholdsBetween } from './footholds';
import type { Contact, Motion } from './motion';
import { kept, nowhereWorst } from './survey';

/** Swings of a clip are as they are: nothing plans them. */
const NO_SWING: SwingStyle = { stride: 0, lift: 0, liftPeak: 0.5, clearance: 0, landing: 0, swingBias: 0, pitchBias: 0, swingOut: 0, roll: 0 };

/**
 * A sampled clip as a motion: between pictures as glTF LINEAR has it. `rig` says how the clip's skeleton shows the figure;
 * contacts are the clip's own (none where it tells none).
 */
export function clipMotion(clip: Clip, body: Body, rig: Rig = mannequinRig(body), ground: Ground = levelGround): Motion {
  const { rate, frames, loop } = clip;
  const duration = loop ? frames / rate : Math.max(1, frames - 1) / rate;
  const repeat = loop ? clip.loopTravel : null;
  const interpolate = createInterpolator(clip);
  const shown = new Float64Array(poseSize(clip.skeleton));
  const canonical = new Float64Array(poseSize(body.skeleton));
  const readPose = createPoseReader(body);
  const contacts = (clip.contacts ?? [])
    .map((c): Contact => ({ side: c.foot === SIDE_NAMES[0] ? 0 : 1, from: c.from / rate, to: c.to / rate }))
    .sort((a, b) => a.from - b.from);
  const left = contacts.filter((c) => c.side === 0);
  const strideTime = loop
    ? duration / Math.max(1, left.length)
    : left.length > 1
      ? (left[left.length - 1]!.from - left[0]!.from) / (left.length - 1)
      : duration;

  function pose(t: number, out: Float64Array, at: number): void {
    const frame = t * rate;
    // What lies a rounding beside a picture is that picture.
    const whole = Math.round(frame);
    interpolate(Math.abs(frame - whole) < 1e-9 ? whole : frame, shown, 0);
    rig.take(shown, 0, out, at);
  }

  function targets(t: number, out: Float64Array): void {
    pose(t, canonical, 0);
    readPose(canonical, 0, out);
    for (const side of SIDES) out[footAt(side) + FOOT_TARGET.planted] = contacts.some((c) => c.side === side && stands(c, t)) ? 1 : 0;
  }

  function stands({ from, to }: Contact, t: number): boolean {
    if (!repeat) return t >= from && t <= to;
    const round = Math.floor((t - from) / duration) * duration;
    return t - round <= to;
  }

  /** A contact's foothold as its sole lies in the middle of it. */
  function foothold({ side, from, to }: Contact): Foothold {
    const at = createTargets();
    targets((from + to) / 2, at);
    const f = footAt(side);
    const k = (name: keyof typeof FOOT_TARGET) => at[f + FOOT_TARGET[name]]!;
    const rest = { landingPitch: 0, leavingPitch: 0, standingPitch: k('pitch'), flatAfter: 0, riseFor: 0, toeBend: k('bend'), rests: false, swing: NO_SWING };
    return {
      side,
      step: 0,
      x: k('x'),
      y: k('y'),
      z: k('z'),
      heading: k('heading'),
      slopeX: k('slopeX'),
      slopeZ: k('slopeZ'),
      landing: from,
      leaving: to,
      ...rest,
    };
  }

  let holds: readonly Foothold[] | null = null;
  const way = (t: number) => {
    pose(0, canonical, 0);
    const [x, z] = [canonical[0]!, canonical[2]!];
    pose(t, canonical, 0);
    return Math.hypot(canonical[0]! - x, canonical[2]! - z);
  };
  const travelled = repeat ? Math.hypot(repeat[0]!, repeat[2]!) : way(duration);
  return {
    name: clip.name,
    body,
    gaits: [],
    ground,
    duration,
    repeat,
    rounds: 1,
    strideTime,
    pace: {
      speed: travelled / duration,
      strideLength: (travelled / duration) * strideTime,
      strideTime,
      dutyFactor: left.length > 0 ? left.reduce((sum, c) => sum + c.to - c.from, 0) / left.length / strideTime : 1,
      direction: repeat ? Math.atan2(repeat[0]!, repeat[2]!) : 0,
    },
    contacts,
    footholds: (from, to) => footholdsBetween((holds ??= contacts.map(foothold)), duration, repeat, from, to),
    phaseAt: (t) => (t - (left[0]?.from ?? 0)) / strideTime,
    travelled: way,
    place(t, out) {
      pose(t, canonical, 0);
      for (let k = 0; k < 3; k++) out[k] = canonical[k]!;
      out[3] = 2 * Math.atan2(canonical[7]!, canonical[9]!);
    },
    pose,
    targets,
    // What was recorded was reached.
    ...kept(function* () {
      yield undefined;
      return {
        tooFar: 0,
        tooNear: 0,
        handMissed: 0,
        kneeSnap: 0,
        hipsAcceleration: [0, 0],
        jolts: [],
        level: [],
        armsOut: [0, 0],
        armsClose: 0,
        worst: nowhereWorst(),
      };
    }),
  };
}
