import { seeded } from '../math/random';
import { TAU } from '../math/scalar';
import { alongOf, asideOf, frameOf, type FeatureFrame } from './frame';
import type { GroundFeature } from './spec';

/** Height (m) of a feature over the ground under it, with its rise along x and z, to out[0..2] at a place; added, so that features lie on each other. */
export interface Relief {
  add(x: number, z: number, out: Float64Array): void;
}

type Of<K extends GroundFeature['kind']> = Extract<GroundFeature, { kind: K }>;

/** Adds a height and its rises along and across a feature. */
function addAt({ sin, cos }: FeatureFrame, height: number, along: number, aside: number, out: Float64Array): void {
  out[0] = out[0]! + height;
  out[1] = out[1]! + along * sin + aside * cos;
  out[2] = out[2]! + along * cos - aside * sin;
}

/** A plane between two levels; what lies beyond its end lies on the level it leads to. */
export function slopeRelief(feature: Of<'slope'>): Relief {
  const frame = frameOf(feature);
  const rise = Math.tan((feature.angleDeg * Math.PI) / 180);
  const { length, breadth } = feature;
  return {
    add(x, z, out) {
      const a = alongOf(frame, x, z);
      if (a <= 0 || Math.abs(asideOf(frame, x, z)) > breadth / 2) return;
      const inside = a < length;
      addAt(frame, rise * (inside ? a : length), inside ? rise : 0, 0, out);
    },
  };
}

/** Treads one riser over each other from its first edge on. */
export function stairsRelief({ riser, tread, count, breadth, ...feature }: Of<'stairs'>): Relief {
  const frame = frameOf(feature);
  return {
    add(x, z, out) {
      if (Math.abs(asideOf(frame, x, z)) > breadth / 2) return;
      out[0] = out[0]! + riser * Math.min(count, Math.max(0, Math.floor(alongOf(frame, x, z) / tread + 1e-9) + 1));
    },
  };
}

/** Waves that make a rough ground, and part of its length and breadth over which they set in. */
const WAVES = 12;
const EDGE_SHARE = 0.15;

/** Seeded even waves in all directions: C∞ but at its edges, where it sets in smoothly. */
export function roughRelief(feature: Of<'rough'>): Relief {
  const frame = frameOf(feature);
  const { length, breadth, amount, wave } = feature;
  const random = seeded(feature.seed);
  const waves = new Float64Array(WAVES * 3);
  for (let i = 0; i < WAVES; i++) {
    const direction = TAU * ((i + random()) / WAVES);
    const k = TAU / (wave * (1 + 1.5 * random()));
    waves.set([k * Math.sin(direction), k * Math.cos(direction), TAU * random()], 3 * i);
  }
  // No sum of them is higher than the amount.
  const each = amount / WAVES;
  const edge = Math.min(length, breadth) * EDGE_SHARE;
  const fade = new Float64Array(4);
  /** 0 at an edge, 1 from `edge` m inside, and its rate, to fade[o], fade[o + 1]. */
  const sets = (d: number, o: number): void => {
    const u = Math.min(Math.max(d / edge, 0), 1);
    fade[o] = u * u * u * (u * (6 * u - 15) + 10);
    fade[o + 1] = (30 * u * u * (u - 1) * (u - 1)) / edge;
  };
  return {
    add(x, z, out) {
      const a = alongOf(frame, x, z),
        b = asideOf(frame, x, z);
      if (a <= 0 || a >= length || Math.abs(b) >= breadth / 2) return;
      let h = 0,
        ha = 0,
        hb = 0;
      for (let i = 0; i < waves.length; i += 3) {
        const phase = waves[i]! * a + waves[i + 1]! * b + waves[i + 2]!;
        h += Math.sin(phase);
        const c = Math.cos(phase);
        ha += waves[i]! * c;
        hb += waves[i + 1]! * c;
      }
      sets(a < length / 2 ? a : length - a, 0);
      sets(breadth / 2 - Math.abs(b), 2);
      const wa = fade[0]!,
        wb = fade[2]!;
      const sa = a < length / 2 ? 1 : -1,
        sb = b > 0 ? -1 : 1;
      addAt(frame, each * h * wa * wb, each * (ha * wa + h * fade[1]! * sa) * wb, each * (hb * wb + h * fade[3]! * sb) * wa, out);
    },
  };
}

/** A grid of heights as a smooth surface through them: cubic along both sides, C1. Source: Catmull & Rom 1974. */
export function fieldRelief({ columns, rows, low, high, heights, length, breadth, ...feature }: Of<'field'>): Relief {
  const frame = frameOf(feature);
  const grid = decodeHeights(heights, columns * rows, low, high);
  const dl = length / (rows - 1),
    db = breadth / (columns - 1);
  const wr = new Float64Array(8),
    wc = new Float64Array(8);
  return {
    add(x, z, out) {
      const a = alongOf(frame, x, z) / dl,
        b = (breadth / 2 - asideOf(frame, x, z)) / db;
      if (a < 0 || b < 0 || a > rows - 1 || b > columns - 1) return;
      const r = Math.min(rows - 2, Math.floor(a)),
        c = Math.min(columns - 2, Math.floor(b));
      weights(a - r, wr);
      weights(b - c, wc);
      let h = 0,
        ha = 0,
        hb = 0;
      for (let i = 0; i < 4; i++) {
        const row = Math.min(rows - 1, Math.max(0, r + i - 1)) * columns;
        let v = 0,
          vb = 0;
        for (let k = 0; k < 4; k++) {
          const g = grid[row + Math.min(columns - 1, Math.max(0, c + k - 1))]!;
          v += wc[k]! * g;
          vb += wc[4 + k]! * g;
        }
        h += wr[i]! * v;
        ha += wr[4 + i]! * v;
        hb += wr[i]! * vb;
      }
      addAt(frame, h, ha / dl, -hb / db, out);
    },
  };
}

/** Weights of four neighbours at u between the middle two, then their rates. */
function weights(u: number, out: Float64Array): void {
  const u2 = u * u,
    u3 = u2 * u;
  out[0] = (-u + 2 * u2 - u3) / 2;
  out[1] = (2 - 5 * u2 + 3 * u3) / 2;
  out[2] = (u + 4 * u2 - 3 * u3) / 2;
  out[3] = (u3 - u2) / 2;
  out[4] = (-1 + 4 * u - 3 * u2) / 2;
  out[5] = (-10 * u + 9 * u2) / 2;
  out[6] = (1 + 8 * u - 9 * u2) / 2;
  out[7] = (3 * u2 - 2 * u) / 2;
}

/** Both are there in every browser and in Node; the core's own types know no browser. */
declare const atob: (base64: string) => string, btoa: (bytes: string) => string;

/** Heights (m) of a field; those that are missing are 0. */
function decodeHeights(base64: string, count: number, low: number, high: number): Float64Array {
  const bytes = atob(base64);
  const grid = new Float64Array(count);
  for (let i = 0; i < count && 2 * i + 1 < bytes.length; i++)
    grid[i] = low + ((high - low) * (bytes.charCodeAt(2 * i) + 256 * bytes.charCodeAt(2 * i + 1))) / 65535;
  return grid;
}

/** The same the other way; heights outside [low, high] go to its ends. */
export function encodeHeights(heights: ArrayLike<number>, low: number, high: number): string {
  let bytes = '';
  for (let i = 0; i < heights.length; i++) {
    const v = Math.round(Math.min(1, Math.max(0, (heights[i]! - low) / Math.max(1e-9, high - low))) * 65535);
    bytes += String.fromCharCode(v & 255, v >> 8);
  }
  return btoa(bytes);
}
