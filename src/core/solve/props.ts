import type { Body } from '../body/body';
import { SHOULDER } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY, TAU } from '../math/scalar';

/** Where the hand's palm is along the hand, as a part of stature. */
const PALM_SHARE = 0.045;
/** Moments of the stride at which the lantern's hand is looked at; harmonics up to half of them. */
const SAMPLES = 64;

/**
 * The lantern's swing over one stride: a damped pendulum of length `cord` hung on a hand whose accelerations are known,
 *     θ″ + 2ζω θ′ + ω² θ = −a / cord,   ω = √((g + mean lift) / cord)
 * answered harmonic by harmonic, so that it closes exactly. Angles (rad) fore and aft and to the side; small angles.
 */
export interface LanternSwing {
  /** cos and sin of each harmonic, fore-and-aft then sideways: 4 numbers a harmonic. */
  readonly harmonics: Float64Array;
}

/** Computes the swing from a function that solves poses over one stride of `strideTime` s. `hand` 0 left, 1 right. */
export function lanternSwing(body: Body, gait: GaitSpec, strideTime: number, hand: 0 | 1, solve: (t: number, out: Float64Array) => void): LanternSwing {
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const path = [new Float64Array(SAMPLES), new Float64Array(SAMPLES)] as const;
  const wrist = (SHOULDER[hand] + 3) * 3;
  for (let i = 0; i < SAMPLES; i++) {
    solve((strideTime * i) / SAMPLES, pose);
    forwardKinematics(body.skeleton, pose, 0, world);
    // Steady travel has no acceleration: against the root, the path is periodic.
    path[0][i] = world.positions[wrist + 2]! - pose[2]!;
    path[1][i] = world.positions[wrist]! - pose[0]!;
  }
  const { cord, cordDamping: damping } = gait.props;
  const omega = Math.sqrt(GRAVITY / cord);
  const count = SAMPLES / 4;
  const harmonics = new Float64Array(count * 4);
  for (let h = 1; h <= count; h++) {
    const drive = (TAU * h) / strideTime;
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

/** Distance from the wrist to the middle of the palm, m. */
export const palmLength = (body: Body): number => PALM_SHARE * body.spec.stature;
