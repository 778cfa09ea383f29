import { defaultGait, type GaitSpec } from './spec';
import { follow } from './timing';

type DeepPartial<T> = { [K in keyof T]?: T[K] extends object ? DeepPartial<T[K]> : T[K] };

/** Lays `changes` over the default gait; speed follows from stride length and time. */
function preset(name: string, changes: DeepPartial<GaitSpec>): GaitSpec {
  const gait = defaultGait();
  gait.name = name;
  merge(gait as unknown as Record<string, unknown>, changes as Record<string, unknown>);
  follow(gait.timing, 'speed');
  return gait;
}

function merge(into: Record<string, unknown>, changes: Record<string, unknown>): void {
  for (const [key, value] of Object.entries(changes)) {
    if (typeof value === 'object' && value !== null) merge(into[key] as Record<string, unknown>, value as Record<string, unknown>);
    else into[key] = value;
  }
}

export interface Preset {
  readonly key: string;
  readonly about: string;
  /** A fresh copy for the reference leg length; `fitGait` takes it to a body. */
  readonly make: () => GaitSpec;
}

/** The gaits that ship, for a body of 1.72 m (leg length REFERENCE_LEG_M of spec.ts). */
export const PRESETS: readonly Preset[] = [
  { key: 'walk', about: 'Natural walk: heel first, weight over each foot in turn, arms against the legs.', make: () => preset('Walk', {}) },
  {
    key: 'run',
    about: 'Steady run at 3 m/s: two flights a stride, knees high behind, arms bent.',
    make: () =>
      preset('Run', {
        timing: { strideLength: 2.2, strideTime: 0.7333333333333333, dutyFactor: 0.345 },
        feet: {
          lift: 0.09,
          liftPeak: 0.36,
          clearance: 0.03,
          landingPitch: 0.1,
          flatAt: 0.16,
          heelOff: 0.32,
          liftOffPitch: 1,
          toeBend: 0.55,
          stepWidth: 0.05,
          toeOut: 0.07,
          landAhead: 0.26,
          swingBias: -0.4,
          pitchBias: -0.12,
          swingOut: 0.02,
        },
        hips: {
          crouch: 0.01,
          rise: { amount: 0 },
          sway: 0.8,
          turn: { amount: 0.12 },
          list: { amount: 0.06, delay: -0.18 },
          tilt: { offset: 0.12, amount: 0.02 },
        },
        legs: { straightest: 0.15 },
        trunk: { lean: { offset: 0.12, amount: 0.02 }, counterTurn: { amount: 0.16 }, sideLean: { amount: 0.015 } },
        arms: { swing: { offset: -0.1, amount: 0.62 }, elbow: { offset: 1.5, amount: 0.22, delay: 0 }, out: { offset: 0.16 }, inward: 0.5 },
        head: { steadiness: 0.9 },
      }),
  },
  {
    key: 'sneak',
    about: 'Slow sneak: low, leaning in, each foot lifted high and set down toes first.',
    make: () =>
      preset('Sneak', {
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
          rise: { amount: 0.016, delay: -0.12 },
          sway: 1,
          turn: { amount: 0.14, delay: -0.05 },
          list: { amount: 0.04, delay: -0.25 },
          tilt: { offset: 0.2, amount: 0.02 },
        },
        legs: { kneesOut: 0.1, straightest: 0.25 },
        trunk: { lean: { offset: 0.36, amount: 0.04, delay: 0 }, counterTurn: { amount: 0.1 }, sideLean: { amount: 0.04 }, shoulderLevel: 0.9 },
        arms: { swing: { offset: 0.32, amount: 0.26, delay: -0.06 }, elbow: { offset: 1.45, amount: 0.25, delay: -0.1 }, out: { offset: 0.34 }, inward: 0.55 },
        head: { steadiness: 0.95, nod: { offset: 0.04 } },
      }),
  },
];

/** The preset of that key, or undefined. */
export const findPreset = (key: string): Preset | undefined => PRESETS.find((p) => p.key === key);
