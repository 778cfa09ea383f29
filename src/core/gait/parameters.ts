/**
 * The one table of gait parameters. The schema, the command line, the channel strips, the fit to a body and the checks
 * all follow from it: a new parameter is one entry here (plus its use in the solver).
 *
 * Units are SI (m, s, m/s, rad); 'share' is a part of 1, 'factor' multiplies, 'phase' is a part of the stride.
 * A channel is offset + amount × shape(phase + delay); its entry gives the range of offset and of amount.
 * `scales` says how the value follows body size at equal Froude number: length ∝ ℓ, time ∝ √ℓ, speed ∝ √ℓ.
 */
export type Unit = 'm' | 's' | 'm/s' | 'rad' | 'share' | 'factor' | 'phase';
export type Scaling = 'length' | 'time' | 'speed';
export type Range = readonly [min: number, max: number];

interface Described {
  readonly label: string;
  readonly tooltip: string;
  readonly unit: Unit;
  readonly scales?: Scaling;
}
export interface ScalarParameter extends Described {
  readonly kind: 'scalar';
  readonly range: Range;
  readonly default: number;
}
export interface ChannelParameter extends Described {
  readonly kind: 'channel';
  /** Waves per stride of the channel's shape, a cosine (twice: minus cosine, so that delay 0 is low at landings). */
  readonly waves: 1 | 2;
  readonly offset: Range;
  readonly amount: Range;
  readonly default: Channel;
}
export interface Channel {
  offset: number;
  amount: number;
  /** Part of the stride by which the shape is moved earlier. */
  delay: number;
}
export type Parameter = ScalarParameter | ChannelParameter;

const scalar = (label: string, unit: Unit, range: Range, value: number, tooltip: string, scales?: Scaling) =>
  ({ kind: 'scalar', label, unit, range, default: value, tooltip, scales }) as const satisfies ScalarParameter;

const channel = (label: string, unit: Unit, waves: 1 | 2, offset: Range, amount: Range, value: Channel, tooltip: string, scales?: Scaling) =>
  ({ kind: 'channel', label, unit, waves, offset, amount, default: value, tooltip, scales }) as const satisfies ChannelParameter;

/** Lengths are for a 1.72 m body; `fitGait` takes them to another. Defaults are the natural walk. */
export const PARAMETERS = {
  timing: {
    strideLength: scalar('Stride length', 'm', [0.05, 6], 1.42, 'Ground covered from one landing of a foot to its next.', 'length'),
    speed: scalar('Speed', 'm/s', [0.02, 12], 1.3524, 'Constant travel speed of the body.', 'speed'),
    strideTime: scalar('Stride time', 's', [0.2, 6], 1.05, 'Time of one full stride, two steps.', 'time'),
    dutyFactor: scalar('Time on the ground', 'share', [0.2, 0.85], 0.62, 'Part of the stride each foot stands. Under a half there is flight: a run.'),
    leftLeg: scalar('Left leg phase', 'phase', [0, 1], 0, 'When in the stride the left foot lands.'),
    rightLeg: scalar('Right leg phase', 'phase', [0, 1], 0.5, 'When in the stride the right foot lands. Equal to the left: a hop.'),
    leftArm: scalar('Left arm phase', 'phase', [0, 1], 0.5, 'When in the stride the left arm is farthest forward.'),
    rightArm: scalar('Right arm phase', 'phase', [0, 1], 0, 'When in the stride the right arm is farthest forward.'),
    gravity: scalar('Gravity', 'factor', [0.1, 2], 1, 'Below 1 the flights of a run float, above 1 they snap down.'),
  },
  feet: {
    lift: scalar('Foot lift', 'm', [0, 0.6], 0.005, 'Extra height of the ankle in mid-swing.', 'length'),
    liftPeak: scalar('Lift peak', 'share', [0.2, 0.8], 0.62, 'When in the swing the extra height peaks.'),
    clearance: scalar('Clearance', 'm', [0, 0.2], 0.015, 'Least height of the whole sole above the ground in mid-swing.', 'length'),
    landingPitch: scalar('Landing pitch', 'rad', [-0.9, 0.7], 0.29, 'Toes up at landing; below zero the toes land first.'),
    flatAt: scalar('Foot flat at', 'share', [0.03, 0.6], 0.164, 'Part of the stance after which the sole is flat.'),
    heelOff: scalar('Heel leaves at', 'share', [0.1, 0.97], 0.413, 'Part of the stance after which the heel rises.'),
    liftOffPitch: scalar('Lift-off pitch', 'rad', [0, 1.45], 1.09, 'How far the heel is up when the toes leave.'),
    toeBend: scalar('Toe bend', 'rad', [0, 1.2], 0.544, 'How far the toes bend before the foot rolls over their tip.'),
    stepWidth: scalar('Step width', 'm', [0, 0.8], 0.1, 'Sideways distance between the two feet.', 'length'),
    toeOut: scalar('Toe-out', 'rad', [-0.6, 1], 0.12, 'How far the toes point outward.'),
    landAhead: scalar('Landing ahead', 'share', [0.1, 0.7], 0.367, 'Part of the stance travel for which the foot is ahead of the hips.'),
    swingBias: scalar('Swing timing', 'factor', [-1, 1], 0.318, 'Below zero the foot swings late, above zero early.'),
    pitchBias: scalar('Foot levelling', 'factor', [-1, 1], 0.108, 'Below zero the toes hang longer in the swing, above zero the foot levels early.'),
    swingOut: scalar('Swing outward', 'm', [-0.1, 0.3], 0.012, 'Sideways arc of the swinging foot, away from the other.', 'length'),
  },
  hips: {
    crouch: scalar('Crouch', 'm', [0, 0.35], 0.018, 'Hips lower than standing.', 'length'),
    rise: channel(
      'Rise',
      'm',
      2,
      [-0.1, 0.1],
      [0, 0.15],
      { offset: 0, amount: 0.0216, delay: -0.076 },
      'Hips up and down, twice a stride; half the whole range.',
      'length',
    ),
    sway: scalar('Sway', 'factor', [0, 4], 1.3, 'Hips over the standing foot. 1 is what the pendulum of the body asks for.'),
    turn: channel('Hips turn', 'rad', 1, [-0.6, 0.6], [0, 0.7], { offset: 0, amount: 0.094, delay: 0 }, 'The side whose foot lands turns forward.'),
    list: channel('Hips list', 'rad', 1, [-0.4, 0.4], [0, 0.4], { offset: 0, amount: 0.0886, delay: -0.297 }, 'The swinging side drops.'),
    tilt: channel('Hips tilt', 'rad', 2, [-0.5, 0.8], [0, 0.3], { offset: 0.073, amount: 0.015, delay: 0 }, 'Pelvis tipped forward.'),
  },
  legs: {
    kneesOut: scalar('Knees out', 'rad', [-0.4, 0.9], 0.03, 'Knees point outward of the line between hip and foot.'),
    straightest: scalar('Straightest knee', 'rad', [0.02, 1], 0.058, 'The knee never opens further than this bend.'),
  },
  trunk: {
    lean: channel(
      'Lean',
      'rad',
      2,
      [-0.5, 1],
      [0, 0.3],
      { offset: 0.05, amount: 0.012, delay: 0.1 },
      'Trunk forward; amount sways it back at landing and forward at passing.',
    ),
    sideLean: channel('Side lean', 'rad', 1, [-0.4, 0.4], [0, 0.4], { offset: 0, amount: 0.02, delay: -0.2 }, 'Trunk over the standing foot.'),
    counterTurn: channel('Counter-turn', 'rad', 1, [-0.6, 0.6], [0, 0.8], { offset: 0, amount: 0.08, delay: 0 }, 'Chest turns against the hips.'),
    shoulderLevel: scalar('Level shoulders', 'share', [0, 1.5], 0.85, 'How much of the hips’ list and tilt the spine takes back.'),
  },
  arms: {
    swing: channel('Arm swing', 'rad', 1, [-0.8, 1.2], [0, 1.5], { offset: -0.03, amount: 0.36, delay: 0 }, 'Upper arm forward and back.'),
    elbow: channel(
      'Elbow bend',
      'rad',
      1,
      [0.02, 2.3],
      [0, 1],
      { offset: 0.38, amount: 0.16, delay: -0.04 },
      'Elbow; amount bends it more as the arm comes forward.',
    ),
    out: scalar('Arms out', 'rad', [0, 1.4], 0.14, 'Arms away from the body.'),
    inward: scalar('Forearms in', 'rad', [-0.5, 1.4], 0.12, 'Forearms turned across the body.'),
  },
  head: {
    steadiness: scalar('Head steadiness', 'share', [0, 1], 0.85, 'How much neck and head cancel what the trunk does.'),
    nod: scalar('Head forward', 'rad', [-0.6, 0.9], 0, 'Face down, or up below zero.'),
  },
  direction: {
    travel: scalar('Travel direction', 'rad', [-Math.PI, Math.PI], 0, 'Direction of travel against the facing; left is positive.'),
    hips: scalar('Hips heading', 'rad', [-2.2, 2.2], 0, 'Heading of the hips and feet against the facing.'),
    feet: scalar('Feet heading', 'rad', [-2.2, 2.2], 0, 'Extra turn of the planted feet, added to the hips heading.'),
    chest: scalar('Chest heading', 'rad', [-1.6, 1.6], 0, 'Heading of the chest against the facing.'),
  },
} as const;

export type Group = keyof typeof PARAMETERS;

export interface ParameterEntry {
  /** Dotted path in a gait's JSON. */
  readonly path: string;
  readonly group: Group;
  readonly key: string;
  readonly parameter: Parameter;
}

/** Every parameter, in table order. */
export const PARAMETER_LIST: readonly ParameterEntry[] = Object.entries(PARAMETERS).flatMap(([group, entries]) =>
  Object.entries(entries as Record<string, Parameter>).map(([key, parameter]) => ({ path: `${group}.${key}`, group: group as Group, key, parameter })),
);

/** Range of a channel's delay, in strides. */
export const DELAY_RANGE: Range = [-0.5, 0.5];
