import { SHOULDER, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY, TAU, wrapPhase } from '../math/scalar';
import type { Motion } from './motion';

/** Moments of the stride at which the lantern's hand is looked at; harmonics up to a quarter of them. */
const SAMPLES = 64;

/**
 * The lantern's swing over one stride: a damped pendulum of length `cord` hung on a hand whose accelerations are known,
 *     θ″ + 2ζω θ′ + ω² θ = −a / cord,   ω = √(g / cord)
 * answered harmonic by harmonic, so that it closes exactly. Angles (rad) fore and aft and to the side; small angles.
 */
export interface LanternSwing {
  /** cos and sin of each harmonic, fore-and-aft then sideways: 4 numbers a harmonic. */
  readonly harmonics: Float64Array;
}

/** The swing of a lantern carried through a motion that repeats. */
export function lanternSwing(motion: Motion, { cord, cordDamping: damping }: GaitSpec['props'], hand: Side): LanternSwing {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const path = [new Float64Array(SAMPLES), new Float64Array(SAMPLES)] as const;
  const wrist = (SHOULDER[hand] + 3) * 3;
  const { duration } = motion;
  for (let i = 0; i < SAMPLES; i++) {
    motion.pose((duration * i) / SAMPLES, pose, 0);
    forwardKinematics(skeleton, pose, 0, world);
    // Steady travel has no acceleration: against the root, the path is periodic.
    path[0][i] = world.positions[wrist + 2]! - pose[2]!;
    path[1][i] = world.positions[wrist]! - pose[0]!;
  }
  const omega = Math.sqrt(GRAVITY / cord);
  const count = SAMPLES / 4;
  const harmonics = new Float64Array(count * 4);
  for (let h = 1; h <= count; h++) {
    const drive = (TAU * h) / duration;
    path.forEach((values, axis) => {
      let c = 0,
        s = 0;
      for (let i = 0; i < SAMPLES; i++) {
        c += (values[i]! * Math.cos((TAU * h * i) / SAMPLES) * 2) / SAMPLES;
        s += (values[i]! * Math.sin((TAU * h * i) / SAMPLES) * 2) / SAMPLES;
      }
      // −a/cord of x = c cos + s sin is (drive²/cord) x; then the pendulum's gain and lag.
      const push = (drive * drive) / cord;
      const re = omega * omega - drive * drive,
        im = 2 * damping * omega * drive;
      const k = push / (re * re + im * im);
      harmonics[(h - 1) * 4 + axis * 2] = k * (c * re - s * im);
      harmonics[(h - 1) * 4 + axis * 2 + 1] = k * (s * re + c * im);
    });
  }
  return { harmonics };
}

/** Angle (rad) that the lantern's swing nears but never passes. */
const MOST_SWING_RAD = 1;

/**
 * Angle (rad) of the lantern at a phase: axis 0 fore and aft (forward positive), 1 sideways (left positive). Small swings are
 * the linear answer; a hand that drives the cord near its own rhythm would take that over the top, so large ones are held
 * back smoothly.
 */
export const lanternAngle = (swing: LanternSwing, axis: 0 | 1, phase: number): number =>
  MOST_SWING_RAD * Math.tanh(linearLanternAngle(swing, axis, phase) / MOST_SWING_RAD);

/** The linear pendulum's angle (rad), exact for small swings. */
export function linearLanternAngle({ harmonics }: LanternSwing, axis: 0 | 1, phase: number): number {
  let sum = 0;
  for (let h = 0; h * 4 < harmonics.length; h++) {
    const a = TAU * (h + 1) * phase;
    sum += harmonics[h * 4 + axis * 2]! * Math.cos(a) + harmonics[h * 4 + axis * 2 + 1]! * Math.sin(a);
  }
  return sum;
}

/** Angle (rad) a wheel has turned after `distance` m without slipping. */
export const wheelAngle = (distance: number, radius: number): number => distance / radius;

/** Steps a second of a lantern that swings through a walk, and how many of them are made at once. */
const STEPS_PER_S = 120;
const AT_ONCE = 256;

/**
 * The same pendulum through a walk that ends, hanging at rest at first: angles along +Z (axis 0) and +X (axis 1) over time. Its
 * answer to a hand whose acceleration is even from step to step is exact. Made as far as it is asked for, always from the start.
 */
export function lanternWay(motion: Motion, { cord, cordDamping }: GaitSpec['props'], hand: Side): (t: number, axis: 0 | 1) => number {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const wrist = (SHOULDER[hand] + 3) * 3;
  const dt = 1 / STEPS_PER_S;
  const last = Math.ceil(motion.duration * STEPS_PER_S);
  const omega = Math.sqrt(GRAVITY / cord);
  const fade = cordDamping * omega,
    swing = omega * Math.sqrt(Math.max(1e-6, 1 - cordDamping * cordDamping));
  const e = Math.exp(-fade * dt),
    c = Math.cos(swing * dt),
    s = Math.sin(swing * dt);
  const angles: [number[], number[]] = [[0], [0]];
  const rates = [0, 0];
  const places: [number[], number[]] = [[], []];
  const placeAt = (i: number, axis: 0 | 1): number => {
    for (let k = places[0].length; k <= i; k++) {
      motion.pose(Math.min(k * dt, motion.duration), pose, 0);
      forwardKinematics(skeleton, pose, 0, world);
      places[0].push(world.positions[wrist + 2]!);
      places[1].push(world.positions[wrist]!);
    }
    return places[axis][i]!;
  };
  const until = (i: number) => {
    // Of a motion that is only now being made no more is known than now.
    const end = Number.isFinite(last) ? Math.min(last, Math.ceil((i + 1) / AT_ONCE) * AT_ONCE) : i + 1;
    for (let k = angles[0].length; k <= end; k++)
      for (const axis of [0, 1] as const) {
        const push = (placeAt(k + 1, axis) - 2 * placeAt(k, axis) + placeAt(Math.max(0, k - 1), axis)) / (dt * dt);
        // Where it would hang under so even a push, and its swing about that.
        const rest = -push / cord / (omega * omega);
        const x = angles[axis][k - 1]! - rest,
          v = rates[axis]!;
        const b = (v + fade * x) / swing;
        angles[axis].push(rest + e * (x * c + b * s));
        rates[axis] = e * ((b * swing - fade * x) * c - (x * swing + fade * b) * s);
      }
  };
  return (t, axis) => {
    const place = Math.min(Math.max(t * STEPS_PER_S, 0), last);
    const i = Math.min(last - 1, Math.floor(place));
    if (angles[0].length <= i + 1) until(i + 1);
    const linear = angles[axis][i]! + (angles[axis][i + 1]! - angles[axis][i]!) * (place - i);
    return MOST_SWING_RAD * Math.tanh(linear / MOST_SWING_RAD);
  };
}

/** What a figure carries through a motion, moved by time and by the way it has come. */
export type Prop =
  | { readonly kind: 'cart'; readonly measures: GaitSpec['props']; readonly heading: number; wheel(t: number): number }
  | { readonly kind: 'lantern'; readonly hand: Side; readonly cord: number; angle(t: number, axis: 0 | 1): number };

/** The prop a gait carries through its motion; null where the hands are free. */
export function propOf(motion: Motion, gait: GaitSpec): Prop | null {
  if (gait.carry === 'cart') {
    const { props } = gait;
    return { kind: 'cart', measures: props, heading: motion.pace.direction, wheel: (t) => wheelAngle(motion.travelled(t), props.wheelRadius) };
  }
  if (gait.carry === 'nothing') return null;
  const hand: Side = gait.carry === 'lanternLeft' ? 0 : 1;
  if (!motion.repeat) return { kind: 'lantern', hand, cord: gait.props.cord, angle: lanternWay(motion, gait.props, hand) };
  const swing = lanternSwing(motion, gait.props, hand);
  return { kind: 'lantern', hand, cord: gait.props.cord, angle: (t, axis) => lanternAngle(swing, axis, wrapPhase(t / motion.duration)) };
}
