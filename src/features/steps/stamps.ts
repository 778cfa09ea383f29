import type { FeatureKind, GroundFeature } from '@/core/ground/spec';
import type { Common } from './ground-actions';

/** Features that are put down from a list: what each is called and how it is at first, before the figure on its way. */
export const STAMPS: readonly { readonly kind: FeatureKind; readonly label: string; readonly make: (at: Common) => GroundFeature }[] = [
  { kind: 'slope', label: 'Slope', make: (at) => ({ kind: 'slope', ...at, length: 3, breadth: 6, angleDeg: 8 }) },
  { kind: 'stairs', label: 'Stairs', make: (at) => ({ kind: 'stairs', ...at, riser: 0.17, tread: 0.29, count: 8, breadth: 2 }) },
  {
    kind: 'stones',
    label: 'Stones',
    make: (at) => ({
      kind: 'stones',
      ...at,
      length: 4.4,
      breadth: 4,
      depth: 0.3,
      stones: Array.from({ length: 6 }, (_, i) => ({
        x: [0.08, -0.1, 0.05, -0.06, 0.1, -0.04][i]!,
        z: 0.5 + 0.66 * i,
        radius: 0.24,
        height: [0, 0.03, -0.02, 0.02, 0, 0.03][i]!,
      })),
    }),
  },
  { kind: 'rough', label: 'Uneven ground', make: (at) => ({ kind: 'rough', ...at, length: 8, breadth: 6, amount: 0.05, wave: 2, seed: 1 }) },
  { kind: 'obstacle', label: 'Obstacle', make: (at) => ({ kind: 'obstacle', ...at, shape: 'disc', length: 0.6, breadth: 0.6, height: 0.9 }) },
  { kind: 'bystander', label: 'Bystander', make: (at) => ({ kind: 'bystander', ...at, body: 'bosun' }) },
];

/** What a kind of feature is called. */
export const FEATURE_WORDS: Record<FeatureKind, string> = {
  slope: 'slope',
  stairs: 'stairs',
  stones: 'stones',
  rough: 'uneven ground',
  field: 'height field',
  obstacle: 'obstacle',
  bystander: 'bystander',
};

/** Numbers of each kind of feature: field, label, unit, range, step, digits. */
type Sized = readonly [field: string, label: string, unit: string, range: readonly [number, number], step: number, digits: number];
const BREADTH: Sized = ['breadth', 'across', 'm', [0.3, 2000], 0.1, 2];
export const SIZES: { readonly [K in FeatureKind]: readonly Sized[] } = {
  slope: [['length', 'long', 'm', [0.2, 2000], 0.1, 2], BREADTH, ['angleDeg', 'rises', '°', [-35, 35], 1, 1]],
  stairs: [
    ['riser', 'riser', 'm', [-0.4, 0.4], 0.005, 3],
    ['tread', 'tread', 'm', [0.15, 2], 0.01, 3],
    ['count', 'count', '', [1, 200], 1, 0],
    ['breadth', 'across', 'm', [0.3, 200], 0.1, 2],
  ],
  stones: [['length', 'long', 'm', [0.2, 2000], 0.1, 2], BREADTH, ['depth', 'deep', 'm', [0, 3], 0.05, 2]],
  rough: [
    ['length', 'long', 'm', [0.5, 4000], 0.5, 2],
    ['breadth', 'across', 'm', [0.5, 4000], 0.5, 2],
    ['amount', 'height', 'm', [0, 0.5], 0.005, 3],
    ['wave', 'waves', 'm', [0.5, 50], 0.1, 2],
    ['seed', 'seed', '', [0, 1_000_000], 1, 0],
  ],
  field: [
    ['length', 'long', 'm', [0.5, 2000], 0.5, 2],
    ['breadth', 'across', 'm', [0.5, 2000], 0.5, 2],
    ['low', 'lowest', 'm', [-500, 500], 0.05, 2],
    ['high', 'highest', 'm', [-500, 500], 0.05, 2],
  ],
  obstacle: [
    ['length', 'long', 'm', [0.02, 500], 0.05, 2],
    ['breadth', 'across', 'm', [0.02, 500], 0.05, 2],
    ['height', 'tall', 'm', [0.02, 50], 0.05, 2],
  ],
  bystander: [],
};
