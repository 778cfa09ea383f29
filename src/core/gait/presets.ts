import { defaultKeys, type CurveKey } from './curve';
import { defaultGait, type GaitSpec } from './spec';
import { follow } from './timing';

type DeepPartial<T> = { [K in keyof T]?: T[K] extends unknown[] ? T[K] : T[K] extends object ? DeepPartial<T[K]> : T[K] };
type Changes = DeepPartial<Omit<GaitSpec, 'right'>> & { right?: GaitSpec['right'] };

/** Lays `changes` over the default gait; speed follows from stride length and time. */
function preset(name: string, about: string, tags: string[], changes: Changes): GaitSpec {
  const gait = defaultGait();
  Object.assign(gait, { name, about, tags });
  merge(gait as unknown as Record<string, unknown>, changes as Record<string, unknown>);
  follow(gait.timing, 'speed');
  gait.timing.homeStride = gait.timing.strideLength;
  return gait;
}

function merge(into: Record<string, unknown>, changes: Record<string, unknown>): void {
  for (const [key, value] of Object.entries(changes)) {
    if (typeof value === 'object' && value !== null && !Array.isArray(value) && typeof into[key] === 'object')
      merge(into[key] as Record<string, unknown>, value as Record<string, unknown>);
    else into[key] = value;
  }
}

/** The plain wave in place of the natural walk's own curve of the hips. */
const plainRise: CurveKey[] = defaultKeys(2);
/** Two bounces to every step. */
const doubleBounce: CurveKey[] = Array.from({ length: 8 }, (_, i) => ({
  at: i / 8,
  value: i % 2 === 0 ? 1 : i % 4 === 1 ? -1 : -0.7,
  tangent: 'flat' as const,
}));
/** Deep on the left step, shallow on the right one. */
const limpRise: CurveKey[] = [
  { at: 0.02, value: -0.2, tangent: 'smooth' },
  { at: 0.3, value: 1, tangent: 'flat' },
  { at: 0.62, value: -1, tangent: 'flat' },
  { at: 0.8, value: -0.1, tangent: 'smooth' },
];

export interface Preset {
  readonly key: string;
  readonly name: string;
  readonly about: string;
  readonly tags: readonly string[];
  /** A fresh copy for the reference leg length; `fitGait` takes it to a body. */
  readonly make: () => GaitSpec;
}

const style = (key: string, name: string, tags: string[], about: string, changes: Changes): Preset => ({
  key,
  name,
  about,
  tags,
  make: () => preset(name, about, tags, structuredCopy(changes)),
});

/** Presets share their change lists: every gait made from them must own its curves. */
const structuredCopy = (changes: Changes): Changes => JSON.parse(JSON.stringify(changes)) as Changes;

/** What all runs share: hips thrown and caught, knees high behind, arms bent. */
const runBase = {
  feet: {
    lift: 0.02,
    liftPeak: 0.36,
    clearance: 0.03,
    landingPitch: 0.1,
    flatAt: 0.16,
    heelOff: 0.32,
    liftOffPitch: 1,
    toeBend: 0.55,
    stepWidth: 0.05,
    toeOut: 0.07,
    landAhead: 0.22,
    swingBias: -0.4,
    pitchBias: -0.12,
    swingOut: 0.02,
  },
  hips: {
    crouch: 0.01,
    rise: { amount: 0, delay: 0, curve: plainRise },
    surge: { amount: 0, delay: 0 },
    sway: 0.8,
    turn: { amount: 0.12, delay: 0 },
    list: { amount: 0.06, delay: -0.18 },
    tilt: { offset: 0.12, amount: 0.02, delay: 0 },
  },
  legs: { straightest: 0.15 },
  trunk: { lean: { offset: 0.12, amount: 0.02 }, counterTurn: { amount: 0.16 }, sideLean: { amount: 0.015 } },
  arms: { swing: { offset: -0.1, amount: 0.62 }, elbow: { offset: 1.5, amount: 0.22, delay: 0 }, out: { offset: 0.16 }, inward: 0.3 },
  head: { steadiness: 0.9 },
} as const satisfies Changes;

/** Group by group, `changes` over `base`. */
const over = (base: Changes, changes: Changes): Changes => {
  const next = structuredCopy(base);
  merge(next as Record<string, unknown>, changes as Record<string, unknown>);
  return next;
};

/** The gaits that ship, for a body of 1.72 m (leg length REFERENCE_LEG_M of spec.ts). */
export const PRESETS: readonly Preset[] = [
  style('walk', 'Walk', ['walk'], 'Natural walk: heel first, weight over each foot in turn, arms against the legs.', {}),
  style(
    'run',
    'Run',
    ['run'],
    'Steady run at 3 m/s: two flights a stride, knees high behind, arms bent.',
    over(runBase, { timing: { strideLength: 2.2, strideTime: 0.7333333333333333, dutyFactor: 0.334 }, feet: { clearance: 0.024 } }),
  ),
  style('sneak', 'Sneak', ['sneak'], 'Slow sneak: low, leaning in, each foot lifted high and set down toes first.', {
    timing: { strideLength: 0.96, strideTime: 2.0833333333333335, dutyFactor: 0.7 },
    feet: {
      lift: 0.1,
      liftPeak: 0.5,
      clearance: 0.04,
      landingPitch: -0.28,
      flatAt: 0.22,
      heelOff: 0.6,
      liftOffPitch: 0.85,
      toeBend: 0.6,
      stepWidth: 0.13,
      toeOut: 0.14,
      landAhead: 0.5,
      swingBias: 0.12,
      pitchBias: 0.1,
      swingOut: 0.02,
    },
    hips: {
      crouch: 0.095,
      rise: { amount: 0.016, delay: -0.12, curve: plainRise },
      surge: { offset: -0.04, amount: 0 },
      sway: 2.1,
      turn: { amount: 0.14, delay: -0.05 },
      list: { amount: 0.04, delay: -0.25 },
      tilt: { offset: 0.2, amount: 0.02, delay: 0 },
    },
    legs: { kneesOut: 0.1, straightest: 0.25 },
    trunk: { lean: { offset: 0.36, amount: 0.04, delay: 0 }, counterTurn: { amount: 0.1 }, sideLean: { amount: 0.04 }, shoulderLevel: 0.9 },
    arms: { swing: { offset: 0.32, amount: 0.26, delay: -0.06 }, elbow: { offset: 1.45, amount: 0.25, delay: -0.1 }, out: { offset: 0.34 }, inward: 0.55 },
    head: { steadiness: 0.95, nod: { offset: 0.04 } },
  }),
  style('brisk', 'Brisk walk', ['walk', 'lively'], 'Brisk walk: long quick steps, elbows bent, the chest turning against the hips.', {
    timing: { strideLength: 1.62, strideTime: 0.9, dutyFactor: 0.58 },
    feet: { stepWidth: 0.08, toeOut: 0.08 },
    hips: { turn: { amount: 0.15 }, tilt: { offset: 0.16 } },
    trunk: { lean: { offset: 0.13 }, counterTurn: { amount: 0.2 } },
    arms: { swing: { offset: 0.02, amount: 0.6 }, elbow: { offset: 1.3, amount: 0.2 }, inward: 0.22 },
    head: { nod: { offset: -0.04 } },
  }),
  style('stroll', 'Stroll', ['walk', 'calm'], 'Stroll: short slow steps, loose arms, an eye on the sea to both sides.', {
    timing: { strideLength: 1.08, strideTime: 4 / 3, dutyFactor: 0.65 },
    feet: { landingPitch: 0.22, liftOffPitch: 0.92 },
    hips: { rise: { amount: 0.018 }, surge: { amount: 0.012 }, sway: 1.9, list: { amount: 0.07 }, tilt: { offset: 0.09 } },
    trunk: { lean: { offset: -0.03 }, sideLean: { amount: 0.035 } },
    arms: { swing: { offset: -0.08, amount: 0.2 }, elbow: { offset: 0.26, amount: 0.1 }, out: { offset: 0.18 } },
    head: { lookAround: 0.4, lookCycles: 4, steadiness: 0.7 },
    follow: { arms: 0.8, armsFrequency: 2, hands: 0.7, head: 0.5 },
  }),
  style('march', 'March', ['walk', 'stiff'], 'March: knees up, straight arms high in front, every foot set down hard and flat.', {
    timing: { strideLength: 1.24, strideTime: 1, dutyFactor: 0.6 },
    feet: { lift: 0.21, liftPeak: 0.55, landingPitch: 0.06, flatAt: 0.12, landing: 0.6, heelOff: 0.3, liftOffPitch: 0.75, swingBias: 0.1, toeOut: 0.1 },
    hips: { crouch: 0.012, rise: { amount: 0.018, delay: -0.06, curve: plainRise }, surge: { amount: 0 }, list: { amount: 0.05 } },
    trunk: { lean: { offset: 0, amount: 0.005 }, bend: { offset: -0.08 }, counterTurn: { amount: 0.05 } },
    arms: { swing: { offset: 0.48, amount: 1 }, elbow: { offset: 0.1, amount: 0.04 }, out: { offset: 0.12 } },
    head: { steadiness: 1, nod: { offset: -0.06 } },
  }),
  style('plod', 'Heavy plod', ['walk', 'heavy'], 'Heavy plod: wide and slow, the whole body over every foot, arms hanging away from it.', {
    timing: { strideLength: 1.14, strideTime: 1.5, dutyFactor: 0.67 },
    feet: { stepWidth: 0.18, toeOut: 0.24, landingPitch: 0.16, liftOffPitch: 0.85, swingOut: 0.035, landing: 0.35 },
    hips: { crouch: 0.035, rise: { amount: 0.02, delay: -0.08, curve: plainRise }, surge: { amount: 0.01 }, sway: 3.3, list: { amount: 0.07 } },
    trunk: { lean: { offset: 0.12, amount: 0.03 }, sideLean: { amount: 0.07 } },
    arms: { swing: { offset: 0, amount: 0.24 }, out: { offset: 0.32 }, elbow: { offset: 0.55 } },
    head: { steadiness: 0.7, nod: { offset: 0.04, amount: 0.03 } },
  }),
  style('tired', 'Tired walk', ['walk', 'sad'], 'Tired walk: dragging feet, a round back, the head down, arms that trail behind.', {
    timing: { strideLength: 0.92, strideTime: 1.5, dutyFactor: 0.68 },
    feet: { lift: 0, clearance: 0.008, landingPitch: 0.1, liftOffPitch: 0.72, swingBias: -0.1, landAhead: 0.42 },
    hips: { crouch: 0.045, rise: { amount: 0.014, delay: -0.08, curve: plainRise }, surge: { amount: 0.01 }, sway: 1.5, tilt: { offset: 0.02 } },
    legs: { straightest: 0.2 },
    trunk: { lean: { offset: 0.2, amount: 0.03 }, bend: { offset: 0.24, amount: 0.03 } },
    arms: { swing: { offset: 0.06, amount: 0.16 }, elbow: { offset: 0.2, amount: 0.05 }, shoulders: { offset: -0.12 } },
    head: { nod: { offset: 0.34, amount: 0.05 }, steadiness: 0.35 },
    follow: { arms: 1, armsFrequency: 1.2, hands: 1, handsFrequency: 1.6, head: 0.8, headFrequency: 1.4 },
  }),
  style('old', 'Old walk', ['walk', 'old'], 'Old walk: small flat steps, bent knees and back, elbows drawn up, the chin pushed out.', {
    timing: { strideLength: 0.66, strideTime: 1.2, dutyFactor: 0.7 },
    feet: { lift: 0.01, landingPitch: 0.06, flatAt: 0.1, heelOff: 0.62, liftOffPitch: 0.5, stepWidth: 0.15, toeOut: 0.3, landAhead: 0.46 },
    hips: {
      crouch: 0.065,
      rise: { amount: 0.008, delay: -0.1, curve: plainRise },
      surge: { amount: 0 },
      sway: 1.6,
      turn: { amount: 0.05 },
      tilt: { offset: -0.02 },
    },
    legs: { kneesOut: 0.16, straightest: 0.34 },
    trunk: { lean: { offset: 0.36, amount: 0.02 }, bend: { offset: 0.34, amount: 0.015 }, counterTurn: { amount: 0.04 } },
    arms: { swing: { offset: 0.1, amount: 0.1 }, elbow: { offset: 1.05, amount: 0.06 }, out: { offset: 0.26 }, inward: 0.3 },
    head: { nod: { offset: -0.16, amount: 0.03 }, steadiness: 0.85 },
  }),
  style('proud', 'Proud walk', ['walk', 'proud'], 'Proud walk: chest out, chin up, toes out, big easy arms.', {
    timing: { strideLength: 1.46, strideTime: 1.1, dutyFactor: 0.61 },
    feet: { lift: 0.08, liftPeak: 0.5, toeOut: 0.28, stepWidth: 0.13 },
    hips: { crouch: 0.008, tilt: { offset: 0.02 }, turn: { amount: 0.15 }, sway: 1.6 },
    trunk: { lean: { offset: -0.14, amount: 0.02 }, bend: { offset: -0.28 }, counterTurn: { amount: 0.26 }, sideLean: { amount: 0.06 } },
    arms: { swing: { offset: -0.2, amount: 0.58 }, elbow: { offset: 0.5, amount: 0.24 }, out: { offset: 0.32 }, shoulders: { offset: 0.05 } },
    head: { nod: { offset: -0.2 }, steadiness: 0.9 },
  }),
  style('doubleBounce', 'Double-bounce walk', ['walk', 'lively', 'cartoon'], 'Double-bounce walk: the hips dip twice to every step, happy and springy.', {
    timing: { strideLength: 1.1, strideTime: 1.0833333333333333, dutyFactor: 0.6 },
    feet: { lift: 0.06, landingPitch: 0.24 },
    hips: { crouch: 0.05, rise: { amount: 0.026, delay: 0, curve: doubleBounce }, surge: { amount: 0 }, list: { amount: 0.07 } },
    legs: { straightest: 0.12 },
    trunk: { lean: { offset: 0.02, amount: 0.03 }, counterTurn: { amount: 0.14 } },
    arms: { swing: { offset: 0, amount: 0.5 }, elbow: { offset: 1.2, amount: 0.35 }, out: { offset: 0.36 } },
    head: { nod: { amount: 0.07 }, steadiness: 0.7 },
    follow: { arms: 0.8, armsFrequency: 2.2, hands: 0.8 },
  }),
  style(
    'jog',
    'Jog',
    ['run', 'calm'],
    'Easy jog at 2.4 m/s: soft and springy, forearms level, shoulders loose.',
    over(runBase, {
      timing: { strideLength: 1.72, strideTime: 0.71, dutyFactor: 0.395 },
      feet: { lift: 0.03, landAhead: 0.3, liftOffPitch: 0.86, stepWidth: 0.07 },
      hips: { crouch: 0 },
      trunk: { lean: { offset: 0.06 }, counterTurn: { amount: 0.2 } },
      arms: { swing: { offset: -0.04, amount: 0.4 }, elbow: { offset: 1.3, amount: 0.1 }, shoulders: { amount: 0.05 }, inward: 0.42 },
      follow: { hands: 0.7, head: 0.3 },
    }),
  ),
  style(
    'sprint',
    'Sprint',
    ['run', 'fast'],
    'Sprint: on the balls of the feet, knees driving high, arms pumping.',
    over(runBase, {
      timing: { strideLength: 3, strideTime: 0.45, dutyFactor: 0.22 },
      feet: { lift: 0.08, liftPeak: 0.42, landingPitch: -0.05, flatAt: 0.4, heelOff: 0.2, liftOffPitch: 0.8, swingBias: -0.4, landAhead: 0.26 },
      hips: { crouch: 0, turn: { amount: 0.2 }, tilt: { offset: 0.16 }, sway: 0.6 },
      trunk: { lean: { offset: 0.28, amount: 0.02 }, counterTurn: { amount: 0.28 } },
      arms: { swing: { offset: 0, amount: 0.95 }, elbow: { offset: 1.5, amount: 0.35 } },
      head: { steadiness: 0.97 },
    }),
  ),
  style('creep', 'Creep on tiptoe', ['sneak', 'careful'], 'Creeping on tiptoe: heels never down, knees high and slow, hands held up in front.', {
    timing: { strideLength: 0.84, strideTime: 2.4, dutyFactor: 0.68 },
    feet: {
      lift: 0.16,
      liftPeak: 0.5,
      clearance: 0.04,
      heelUp: 0.5,
      landingPitch: -0.7,
      flatAt: 0.2,
      heelOff: 0.7,
      liftOffPitch: 0.95,
      toeBend: 0.95,
      stepWidth: 0.1,
      landAhead: 0.5,
      swingBias: 0.1,
      pitchBias: 0.2,
    },
    hips: {
      crouch: 0.06,
      rise: { amount: 0.022, delay: -0.12, curve: plainRise },
      surge: { offset: -0.05, amount: 0.015, delay: 0.1 },
      sway: 2.2,
      turn: { amount: 0.12 },
      list: { amount: 0.04, delay: -0.25 },
      tilt: { offset: 0.16, amount: 0.02, delay: 0 },
    },
    legs: { kneesOut: 0.12, straightest: 0.3 },
    trunk: { lean: { offset: 0.26, amount: 0.05, delay: 0 }, bend: { offset: 0.12 }, counterTurn: { amount: 0.08 } },
    arms: {
      swing: { offset: 0.5, amount: 0.16 },
      elbow: { offset: 1.75, amount: 0.2 },
      out: { offset: 0.3 },
      inward: 0.3,
      shoulders: { offset: 0.2 },
      hand: { offset: 0.5, amount: 0.12 },
    },
    head: { steadiness: 0.95, turn: { amount: 0.12, delay: 0.1 } },
  }),
  style('hurry', 'Crouched hurry', ['sneak', 'fast'], 'Crouched hurry: bent double, quick short steps, arms close.', {
    timing: { strideLength: 1.1, strideTime: 0.66, dutyFactor: 0.54 },
    feet: { lift: 0.04, clearance: 0.025, landingPitch: -0.05, flatAt: 0.2, heelOff: 0.45, liftOffPitch: 0.8, stepWidth: 0.12, landAhead: 0.42, swingBias: 0 },
    hips: {
      crouch: 0.17,
      rise: { amount: 0.012, delay: -0.1, curve: plainRise },
      surge: { offset: -0.11, amount: 0 },
      sway: 1.2,
      tilt: { offset: 0.3, amount: 0.015, delay: 0 },
    },
    legs: { kneesOut: 0.12, straightest: 0.5 },
    trunk: { lean: { offset: 0.62, amount: 0.02 }, bend: { offset: 0.16 } },
    arms: { swing: { offset: 0.3, amount: 0.3 }, elbow: { offset: 1.6, amount: 0.1 }, out: { offset: 0.24 }, inward: 0.3 },
    head: { steadiness: 0.97, nod: { offset: 0.05 } },
  }),
  style('skip', 'Skip', ['skip', 'lively'], 'Skip: a step and a hop on the same foot, arms thrown high.', {
    timing: { strideLength: 1.5, strideTime: 1, dutyFactor: 0.5, skip: 0.15 },
    feet: { lift: 0.12, liftPeak: 0.5, landingPitch: 0, flatAt: 0.4, heelOff: 0.35, liftOffPitch: 0.6, landAhead: 0.46, swingBias: 0 },
    hips: { crouch: 0, rise: { amount: 0, curve: plainRise }, surge: { amount: 0 }, sway: 0.8, turn: { amount: 0.14 } },
    legs: { straightest: 0.2 },
    trunk: { lean: { offset: 0.05, amount: 0.03 }, counterTurn: { amount: 0.2 } },
    arms: { swing: { offset: 0.1, amount: 0.85 }, elbow: { offset: 0.7, amount: 0.35 }, out: { offset: 0.3 } },
    head: { steadiness: 0.8 },
    follow: { hands: 0.7, arms: 0.5 },
  }),
  style(
    'gallop',
    'Gallop',
    ['run', 'lively'],
    'Gallop: the left foot leads, the right one follows close behind it.',
    over(runBase, {
      timing: { strideLength: 1.45, strideTime: 0.5, dutyFactor: 0.4, rightLeg: 0.28, rightArm: 0.3 },
      feet: { lift: 0.08, stepWidth: 0.1, heelOff: 0.25, liftOffPitch: 0.75, landAhead: 0.3 },
      hips: { turn: { offset: -0.18, amount: 0.04 }, list: { amount: 0.03 } },
      trunk: { counterTurn: { offset: -0.05, amount: 0.06 } },
      arms: { swing: { offset: 0.05, amount: 0.4 }, elbow: { offset: 1.2 } },
    }),
  ),
  style('hop', 'Hop', ['hop', 'lively'], 'Hop: both feet together, arms thrown forward at every take-off.', {
    timing: { strideLength: 0.72, strideTime: 0.62, dutyFactor: 0.56, rightLeg: 0, leftArm: 0.62, rightArm: 0.62, wholeBody: 0 },
    feet: {
      lift: 0.05,
      clearance: 0.03,
      landingPitch: -0.25,
      flatAt: 0.25,
      heelOff: 0.55,
      liftOffPitch: 0.88,
      stepWidth: 0.14,
      toeOut: 0.08,
      landAhead: 0.5,
      swingBias: 0,
    },
    hips: {
      crouch: 0.05,
      rise: { amount: 0, curve: plainRise },
      surge: { amount: 0 },
      sway: 0,
      turn: { amount: 0 },
      list: { amount: 0 },
      tilt: { offset: 0.2, amount: 0, delay: 0 },
    },
    legs: { straightest: 0.25 },
    trunk: { lean: { offset: 0.22, amount: 0 }, sideLean: { amount: 0 }, counterTurn: { amount: 0 } },
    arms: { swing: { offset: 0.35, amount: 0.7 }, elbow: { offset: 1.1, amount: 0.2 }, out: { offset: 0.24 } },
    head: { steadiness: 0.85 },
    follow: { hands: 0.6 },
  }),
  style('limp', 'Limp', ['walk', 'hurt'], 'Limp: the right leg is spared, a short stiff step, the body hurrying over it.', {
    timing: { strideLength: 0.96, strideTime: 1.19, dutyFactor: 0.7, rightLeg: 0.55, rightArm: 0.05 },
    feet: { landingPitch: 0.2, liftOffPitch: 0.9 },
    hips: {
      crouch: 0.03,
      rise: { amount: 0.022, delay: 0, curve: limpRise },
      surge: { amount: 0 },
      sway: 1.2,
      shift: { offset: 0.018 },
      list: { offset: 0.03, amount: 0.06 },
    },
    legs: { straightest: 0.12 },
    trunk: { lean: { offset: 0.1, amount: 0.03 }, sideLean: { offset: 0.03, amount: 0.06 } },
    arms: { swing: { amount: 0.2 }, elbow: { offset: 0.6 } },
    head: { nod: { amount: 0.03 } },
    right: {
      'timing.dutyFactor': 0.5,
      'feet.landingPitch': 0.04,
      'feet.landAhead': 0.62,
      'feet.liftOffPitch': 0.4,
      'feet.lift': 0.015,
      'feet.swingOut': 0.05,
      'feet.toeOut': 0.3,
      'arms.elbow': { offset: 0.95, amount: 0.1, delay: 0 },
    },
  }),
  style('bounce', 'Cartoon bounce', ['walk', 'cartoon', 'lively'], 'Cartoon bounce: deep downs and high ups, wide feet, arms and head flapping after.', {
    timing: { strideLength: 1.15, strideTime: 1, dutyFactor: 0.57 },
    feet: { lift: 0.12, liftPeak: 0.5, stepWidth: 0.17, toeOut: 0.26, landingPitch: 0.3, swingOut: 0.04 },
    hips: {
      crouch: 0.085,
      rise: { amount: 0.06, delay: -0.1, curve: plainRise },
      surge: { amount: 0 },
      sway: 1.6,
      list: { amount: 0.14 },
      turn: { amount: 0.16 },
    },
    legs: { kneesOut: 0.16, straightest: 0.14 },
    trunk: { lean: { offset: 0, amount: 0.06 }, sideLean: { amount: 0.1 }, counterTurn: { amount: 0.26 }, bend: { amount: 0.06 } },
    arms: { swing: { offset: 0, amount: 0.8 }, elbow: { offset: 0.75, amount: 0.35 }, out: { offset: 0.4, amount: 0.08 }, shoulders: { amount: 0.1 } },
    head: { nod: { amount: 0.14, delay: 0.08 }, list: { amount: 0.08 }, steadiness: 0.5 },
    follow: { spine: 0.6, spineFrequency: 2.6, arms: 1, armsFrequency: 2, hands: 1, handsFrequency: 2.4, head: 0.8, headFrequency: 2 },
  }),
];

/** The preset of that key, or undefined. */
export const findPreset = (key: string): Preset | undefined => PRESETS.find((p) => p.key === key);
