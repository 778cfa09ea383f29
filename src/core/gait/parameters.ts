import type { CurveKey } from './curve';

/**
 * The one table of gait parameters. The schema, the command line, the channel strips, the fit to a body and the checks
 * all follow from it: a new parameter is one entry here (plus its use in the solver).
 *
 * Units are SI (m, s, m/s, rad); 'share' is a part of 1, 'factor' multiplies, 'phase' is a part of the stride.
 * A channel is offset + amount × shape(phase + delay); its entry gives the range of offset and of amount.
 * `scales` says how the value follows body size at equal Froude number: length ∝ ℓ, time ∝ √ℓ, speed ∝ √ℓ,
 * rate ∝ 1/√ℓ. `perSide` values may differ for the right side. `before` is what gaits of version 1, which lacked the entry, meant.
 */
export type Unit = 'm' | 's' | 'm/s' | 'rad' | 'share' | 'factor' | 'phase' | 'Hz' | 'count';
export type Scaling = 'length' | 'time' | 'speed' | 'rate';
export type Range = readonly [min: number, max: number];

interface Described {
  readonly label: string;
  readonly tooltip: string;
  readonly unit: Unit;
  /** One step of slider, box and wheel, in the table's unit. */
  readonly step: number;
  readonly scales?: Scaling;
  readonly perSide?: true;
}
export interface ScalarParameter extends Described {
  readonly kind: 'scalar';
  readonly range: Range;
  readonly default: number;
  readonly before?: number;
}
export interface ChannelParameter extends Described {
  readonly kind: 'channel';
  /** Waves per stride of the channel's shape, a cosine (twice: minus cosine, so that delay 0 is low at landings). */
  readonly waves: 1 | 2;
  readonly offset: Range;
  readonly amount: Range;
  readonly default: Channel;
  readonly before?: Channel;
}
export interface Channel {
  offset: number;
  amount: number;
  /** Part of the stride by which the shape is moved earlier. */
  delay: number;
  /** Keys of an edited curve; without them the channel has its own shape. Kept when the amount is 0. */
  curve?: CurveKey[];
}
export type Parameter = ScalarParameter | ChannelParameter;

/** Step of a value that names none of its own. */
export const STEPS: { readonly [U in Unit]: number } = {
  m: 0.005,
  s: 0.01,
  'm/s': 0.05,
  rad: Math.PI / 180,
  share: 0.01,
  factor: 0.05,
  phase: 0.01,
  Hz: 0.1,
  count: 1,
};

interface More<V> {
  readonly step?: number;
  readonly scales?: Scaling;
  readonly perSide?: true;
  readonly before?: V;
}

const scalar = (label: string, unit: Unit, range: Range, value: number, tooltip: string, more: More<number> = {}): ScalarParameter => ({
  kind: 'scalar',
  label,
  unit,
  step: STEPS[unit],
  range,
  default: value,
  tooltip,
  ...more,
});

const channel = (
  label: string,
  unit: Unit,
  waves: 1 | 2,
  offset: Range,
  amount: Range,
  value: Channel,
  tooltip: string,
  more: More<Channel> = {},
): ChannelParameter => ({ kind: 'channel', label, unit, step: STEPS[unit], waves, offset, amount, default: value, tooltip, ...more });

/** A channel that does nothing. */
const still: Channel = { offset: 0, amount: 0, delay: 0 };
const length = { scales: 'length' } as const;
const side = { perSide: true } as const;
const sideLength = { scales: 'length', perSide: true } as const;

/**
 * Hips of the natural walk: lowest at down, highest past passing, low again before the next landing. Fitted, with the other
 * defaults, to the published joint curves (measure/published-curves.ts).
 */
const NATURAL_RISE: CurveKey[] = [0, 0.5].flatMap((step): CurveKey[] => [
  { at: step + 0.0094, value: -0.9136, tangent: 'smooth' },
  { at: step + 0.1249, value: -1, tangent: 'smooth' },
  { at: step + 0.2641, value: 1, tangent: 'smooth' },
]);

/** Lengths are for a 1.72 m body; `fitGait` takes them to another. Defaults are the natural walk. */
const TABLE = {
  timing: {
    strideLength: scalar('Stride length', 'm', [-6, 6], 1.42, 'Ground covered from one landing of a foot to its next. Below zero: backward.', {
      ...length,
      step: 0.01,
    }),
    speed: scalar('Speed', 'm/s', [-12, 12], 1.3524, 'Constant travel speed of the body. Below zero it walks backward, toes first.', { scales: 'speed' }),
    strideTime: scalar('Stride time', 's', [0.2, 6], 1.05, 'Time of one full stride, two steps.', { scales: 'time' }),
    dutyFactor: scalar('Time on the ground', 'share', [0.15, 0.85], 0.605, 'Part of the stride each foot stands. Under a half there is flight: a run.', side),
    leftLeg: scalar('Left leg phase', 'phase', [0, 1], 0, 'When in the stride the left foot lands.'),
    rightLeg: scalar('Right leg phase', 'phase', [0, 1], 0.5, 'When in the stride the right foot lands. Equal to the left: a hop.'),
    leftArm: scalar('Left arm phase', 'phase', [0, 1], 0.5, 'When in the stride the left arm is farthest forward.'),
    rightArm: scalar('Right arm phase', 'phase', [0, 1], 0, 'When in the stride the right arm is farthest forward.'),
    skip: scalar('Skip', 'share', [0, 0.25], 0, 'Part of the stride for which the standing foot hops in the middle of its time on the ground.', { before: 0 }),
    homeStride: scalar('Amounts made for', 'm', [0.05, 6], 1.42, 'Stride at which swings, lifts and rolls are as written; a shorter one makes less of them.', {
      ...length,
      before: 1.42,
    }),
    amountsFollow: scalar('Amounts follow', 'share', [0, 1], 1, 'How far swings, lifts and rolls follow the length of the stride.', { before: 1 }),
    gravity: scalar('Gravity', 'factor', [0.1, 2], 1, 'Below 1 the flights of a run float, above 1 they snap down.'),
    wholeBody: scalar('Whole body thrown', 'share', [0, 1], 1, 'What flies as a thrown body: at 0 the hips, at 1 the centre of mass of the whole figure.', {
      before: 0,
    }),
  },
  feet: {
    lift: scalar('Foot lift', 'm', [0, 0.6], 0.078, 'Extra height of the ankle in mid-swing.', sideLength),
    liftPeak: scalar('Lift peak', 'share', [0.2, 0.8], 0.41, 'When in the swing the extra height peaks.', side),
    clearance: scalar('Clearance', 'm', [0, 0.2], 0.011, 'Least height of the whole sole above the ground in mid-swing.', sideLength),
    landingPitch: scalar('Landing pitch', 'rad', [-0.9, 0.7], 0.2714, 'Toes up at landing; below zero the toes land first.', side),
    flatAt: scalar('Foot flat at', 'share', [0.03, 0.6], 0.1694, 'Part of the stance after which the sole is flat.', side),
    heelUp: scalar('Heel held up', 'rad', [0, 0.9], 0, 'How far the heel stays up through the stance: a walk on tiptoe.', { ...side, before: 0 }),
    heelOff: scalar('Heel leaves at', 'share', [0.1, 0.97], 0.5226, 'Part of the stance after which the heel rises.', side),
    liftOffPitch: scalar('Lift-off pitch', 'rad', [0, 1.45], 0.9719, 'How far the heel is up when the toes leave.', side),
    toeBend: scalar('Toe bend', 'rad', [0, 1.2], 0.7333, 'How far the toes bend before the foot rolls over their tip.', side),
    stepWidth: scalar('Step width', 'm', [0, 0.8], 0.1, 'Sideways distance between the two feet.', length),
    toeOut: scalar('Toe-out', 'rad', [-0.6, 1], 0.12, 'How far the toes point outward.', side),
    roll: scalar('Roll outward', 'rad', [-0.3, 0.5], 0, 'How far the swinging foot turns onto its outer edge.', { ...side, before: 0 }),
    landAhead: scalar('Landing ahead', 'share', [0.1, 0.7], 0.3809, 'Part of the stance travel for which the foot is ahead of the hips.', side),
    landing: scalar('Landing speed', 'm/s', [0, 1.5], 0, 'How hard the foot comes down: it waits above the ground and drops in the last moment.', {
      scales: 'speed',
      perSide: true,
      before: 0,
    }),
    swingBias: scalar('Swing timing', 'factor', [-1, 1], -0.07, 'Below zero the foot swings late, above zero early.', side),
    pitchBias: scalar('Foot levelling', 'factor', [-1, 1], -0.136, 'Below zero the toes hang longer in the swing, above zero the foot levels early.', side),
    swingOut: scalar('Swing outward', 'm', [-0.1, 0.3], 0.0398, 'Sideways arc of the swinging foot, away from the other.', sideLength),
  },
  hips: {
    crouch: scalar('Crouch', 'm', [0, 0.35], 0.0155, 'Hips lower than standing.', length),
    rise: channel(
      'Rise',
      'm',
      2,
      [-0.1, 0.1],
      [0, 0.15],
      { offset: 0, amount: 0.0236, delay: 0.017, curve: NATURAL_RISE },
      'Hips up and down, twice a stride; half the whole range.',
      length,
    ),
    surge: channel('Surge', 'm', 2, [-0.15, 0.15], [0, 0.1], { offset: 0, amount: 0.025, delay: -0.1601 }, 'Hips forward and back around the steady travel.', {
      scales: 'length',
      before: still,
    }),
    sway: scalar('Sway', 'factor', [0, 4], 1.68, 'Hips over the standing foot. 1 is what the pendulum of the body asks for.'),
    shift: channel('Side shift', 'm', 1, [-0.15, 0.15], [0, 0.15], still, 'Hips to the left and right on top of the sway.', {
      scales: 'length',
      before: still,
    }),
    turn: channel('Hips turn', 'rad', 1, [-0.6, 0.6], [0, 0.7], { offset: 0, amount: 0.0999, delay: 0.0509 }, 'The side whose foot lands turns forward.'),
    list: channel('Hips list', 'rad', 1, [-0.4, 0.4], [0, 0.4], { offset: 0, amount: 0.0899, delay: -0.2095 }, 'The swinging side drops.'),
    tilt: channel('Hips tilt', 'rad', 2, [-0.5, 0.8], [0, 0.3], { offset: 0.15, amount: 0.0282, delay: 0.4993 }, 'Pelvis tipped forward.'),
  },
  legs: {
    kneesOut: scalar('Knees out', 'rad', [-0.4, 0.9], 0.03, 'Knees point outward of the line between hip and foot.', side),
    straightest: scalar('Straightest knee', 'rad', [0.02, 1], 0.036, 'The knee never opens further than this bend.'),
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
    bend: channel('Spine curve', 'rad', 2, [-0.5, 0.9], [0, 0.3], { offset: 0, amount: 0.01, delay: 0 }, 'Back rounded; amount lets the spine breathe.', {
      before: still,
    }),
    shoulderLevel: scalar('Level shoulders', 'share', [0, 1.5], 0.85, 'How much of the hips’ list and tilt the spine takes back.'),
  },
  arms: {
    swing: channel('Arm swing', 'rad', 1, [-0.8, 1.6], [0, 1.5], { offset: -0.03, amount: 0.36, delay: 0 }, 'Upper arm forward and back.', side),
    elbow: channel(
      'Elbow bend',
      'rad',
      1,
      [0.02, 2.3],
      [0, 1],
      { offset: 0.38, amount: 0.16, delay: -0.04 },
      'Elbow; amount bends it more as the arm comes forward.',
      side,
    ),
    out: channel('Arms out', 'rad', 1, [0, 1.4], [0, 0.6], { offset: 0.14, amount: 0, delay: 0 }, 'Arms away from the body.', side),
    inward: scalar('Forearms in', 'rad', [-0.5, 1.4], 0.12, 'Forearms turned across the body.', side),
    shoulders: channel('Shoulders up', 'rad', 2, [-0.3, 0.5], [0, 0.3], still, 'Shoulders raised; amount lets them bounce.', { ...side, before: still }),
    hand: channel('Hand bend', 'rad', 1, [-1, 1], [0, 0.8], still, 'Wrist bent towards the palm.', { ...side, before: still }),
    clearance: scalar('Arm clearance', 'm', [0, 0.15], 0.015, 'Least room between arms and trunk; arms go further out where they need it.', {
      ...length,
      before: 0,
    }),
  },
  head: {
    steadiness: scalar('Head steadiness', 'share', [0, 1], 0.85, 'How much neck and head cancel what the trunk does.'),
    nod: channel('Head forward', 'rad', 2, [-0.6, 0.9], [0, 0.4], still, 'Face down, or up below zero; amount nods twice a stride.'),
    turn: channel('Head turn', 'rad', 1, [-1.2, 1.2], [0, 0.6], still, 'Face to the left; amount looks from side to side.', { before: still }),
    list: channel('Head tilt', 'rad', 1, [-0.5, 0.5], [0, 0.4], still, 'Head towards a shoulder.', { before: still }),
    lookAround: scalar('Look around', 'rad', [0, 1.2], 0, 'A slow look to both sides over several cycles.', { before: 0 }),
    lookCycles: scalar('Look lasts', 'count', [1, 12], 4, 'Cycles that one slow look around takes; the loop gets as long.', { before: 4 }),
  },
  follow: {
    spine: scalar('Spine follows', 'share', [0, 1], 0, 'How much the chest answers late and soft to what the spine does below it.', { before: 0 }),
    spineFrequency: scalar('Spine frequency', 'Hz', [0.5, 10], 3, 'Natural frequency of the spine: low is loose, high is stiff.', {
      scales: 'rate',
      before: 3,
    }),
    spineDamping: scalar('Spine damping', 'share', [0.1, 0.95], 0.6, 'How soon the spine stops ringing.', { before: 0.6 }),
    head: scalar('Head follows', 'share', [0, 1], 0, 'How much the head answers late to its own and the trunk’s motion.', { before: 0 }),
    headFrequency: scalar('Head frequency', 'Hz', [0.5, 10], 2.5, 'Natural frequency of the neck.', { scales: 'rate', before: 2.5 }),
    headDamping: scalar('Head damping', 'share', [0.1, 0.95], 0.6, 'How soon the head stops nodding.', { before: 0.6 }),
    arms: scalar('Forearms follow', 'share', [0, 1], 0, 'How much the forearms trail the upper arms.', { before: 0 }),
    armsFrequency: scalar('Forearm frequency', 'Hz', [0.5, 10], 3, 'Natural frequency of the forearms.', { scales: 'rate', before: 3 }),
    armsDamping: scalar('Forearm damping', 'share', [0.1, 0.95], 0.5, 'How soon the forearms stop swinging on.', { before: 0.5 }),
    hands: scalar('Hands follow', 'share', [0, 1], 0, 'How much the hands trail the arms.', { before: 0 }),
    handsFrequency: scalar('Hand frequency', 'Hz', [0.5, 10], 3.5, 'Natural frequency of the wrists.', { scales: 'rate', before: 3.5 }),
    handsDamping: scalar('Hand damping', 'share', [0.1, 0.95], 0.45, 'How soon the hands stop flapping.', { before: 0.45 }),
  },
  props: {
    handleHeight: scalar('Handle height', 'm', [0.3, 1.6], 0.98, 'Height of the cart’s handle.', { ...length, before: 0.98 }),
    handleAhead: scalar('Handle ahead', 'm', [0.1, 0.9], 0.42, 'How far ahead of the body the handle is.', { ...length, before: 0.42 }),
    gripWidth: scalar('Grip width', 'm', [0.1, 0.9], 0.46, 'Distance between the two hands on the handle.', { ...length, before: 0.46 }),
    wheelRadius: scalar('Wheel radius', 'm', [0.08, 0.5], 0.24, 'Radius of the cart’s wheels; they roll without slipping.', { ...length, before: 0.24 }),
    cord: scalar('Lantern cord', 'm', [0.05, 0.8], 0.22, 'Length from the hand to the lantern’s weight.', { ...length, before: 0.22 }),
    cordDamping: scalar('Lantern damping', 'share', [0.01, 0.95], 0.12, 'How soon the lantern stops swinging.', { before: 0.12 }),
  },
  direction: {
    travel: scalar('Travel direction', 'rad', [-Math.PI, Math.PI], 0, 'Direction of travel against the facing; left is positive.'),
    hips: scalar('Hips heading', 'rad', [-2.2, 2.2], 0, 'Heading of the hips and feet against the facing.'),
    feet: scalar('Feet heading', 'rad', [-2.2, 2.2], 0, 'Extra turn of the planted feet, added to the hips heading.'),
    chest: scalar('Chest heading', 'rad', [-1.6, 1.6], 0, 'Heading of the chest against the facing.'),
  },
} as const;
export const PARAMETERS = TABLE;

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
