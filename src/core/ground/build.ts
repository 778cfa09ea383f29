import { alongOf, asideOf, frameOf, placeIn, type FeatureFrame } from './frame';
import { levelGround, type FootingPiece, type Ground, type Obstacle } from './ground';
import { fieldRelief, roughRelief, slopeRelief, stairsRelief, type Relief } from './relief';
import type { GroundFeature, GroundSpec } from './spec';

/** Room (m) a standing body takes around it where nothing more is known. */
const BODY_RADIUS_M = 0.3;
const BODY_HEIGHT_M = 1.8;
/** What smooth uneven ground leaves under a sole, m: its curvature radius is 2 m and more. */
const ROUGH_M = 0.012;

/** Water with stones in it. */
interface Stones {
  readonly frame: FeatureFrame;
  readonly length: number;
  readonly breadth: number;
  readonly depth: number;
  readonly stones: readonly { readonly x: number; readonly z: number; readonly square: number; readonly height: number }[];
}

/** Size of a standing body by the name a feature gives it, m. */
export type BodySize = (body: string) => { readonly radius: number; readonly height: number } | null;

/**
 * The ground of a spec. Slopes, stairs and uneven ground lie on each other: heights add up, whatever their order. Stones stand
 * in water on that; what stands in the way has no footing. Reading it allocates nothing.
 */
export function buildGround(spec: GroundSpec, bodySize: BodySize = () => null): Ground {
  const { features } = spec;
  if (features.length === 0) return levelGround;
  const reliefs = features.flatMap((f): Relief[] => {
    if (f.kind === 'slope') return [slopeRelief(f)];
    if (f.kind === 'stairs') return [stairsRelief(f)];
    if (f.kind === 'rough') return [roughRelief(f)];
    return f.kind === 'field' ? [fieldRelief(f)] : [];
  });
  const waters = features.flatMap((f) => (f.kind === 'stones' ? [stonesOf(f)] : []));
  const obstacles = features.flatMap((f) => obstaclesOf(f, bodySize));
  const at = new Float64Array(3);
  /** Height and rises without water, to `at`. */
  function relief(x: number, z: number): void {
    at[0] = at[1] = at[2] = 0;
    for (let i = 0; i < reliefs.length; i++) reliefs[i]!.add(x, z, at);
  }
  /** Height (m) water or a stone adds; NaN where there is neither. */
  function wet(x: number, z: number): number {
    for (let i = 0; i < waters.length; i++) {
      const { frame, length, breadth, depth, stones } = waters[i]!;
      const a = alongOf(frame, x, z);
      if (a <= 0 || a >= length || Math.abs(asideOf(frame, x, z)) >= breadth / 2) continue;
      for (let k = 0; k < stones.length; k++) {
        const s = stones[k]!;
        const dx = x - s.x,
          dz = z - s.z;
        if (dx * dx + dz * dz <= s.square) return s.height;
      }
      return -depth;
    }
    return NaN;
  }
  const onStone = (x: number, z: number): boolean =>
    waters.every(({ frame, length, breadth, stones }) => {
      const a = alongOf(frame, x, z);
      if (a <= 0 || a >= length || Math.abs(asideOf(frame, x, z)) >= breadth / 2) return true;
      return stones.some((s) => (x - s.x) ** 2 + (z - s.z) ** 2 <= s.square);
    });
  const height = (x: number, z: number): number => {
    relief(x, z);
    const over = wet(x, z);
    return over === over ? at[0]! + over : at[0]!;
  };
  return {
    height,
    normal(x, z, out, o) {
      relief(x, z);
      const n = 1 / Math.sqrt(1 + at[1]! * at[1]! + at[2]! * at[2]!);
      out[o] = -at[1]! * n;
      out[o + 1] = n;
      out[o + 2] = -at[2]! * n;
    },
    footing: (x, z) => onStone(x, z) && obstacles.every((o) => distanceTo(o, x, z) > 0),
    rough: features.some((f) => f.kind === 'rough' || f.kind === 'field') ? ROUGH_M : 0,
    obstacles,
    spec,
    pieces: features.flatMap((f, group) => piecesOf(f, group, height)),
  };
}

function stonesOf(f: Extract<GroundFeature, { kind: 'stones' }>): Stones {
  const frame = frameOf(f);
  return {
    frame,
    length: f.length,
    breadth: f.breadth,
    depth: f.depth,
    stones: f.stones.map((s) => ({ ...placeIn(frame, s.z, s.x), square: s.radius * s.radius, height: s.height })),
  };
}

function piecesOf(f: GroundFeature, group: number, height: (x: number, z: number) => number): FootingPiece[] {
  const frame = frameOf(f);
  const heading = (f.headingDeg * Math.PI) / 180;
  if (f.kind === 'stairs')
    return Array.from({ length: f.count - 1 }, (_, i): FootingPiece => {
      const middle = placeIn(frame, (i + 0.5) * f.tread, 0);
      return { kind: 'tread', group, ...middle, y: height(middle.x, middle.z), heading, length: f.tread, breadth: f.breadth, rise: f.riser };
    });
  if (f.kind !== 'stones') return [];
  return f.stones.map((s): FootingPiece => {
    const middle = placeIn(frame, s.z, s.x);
    return { kind: 'stone', group, ...middle, y: height(middle.x, middle.z), heading, length: 2 * s.radius, breadth: 2 * s.radius, rise: 0 };
  });
}

function obstaclesOf(f: GroundFeature, bodySize: BodySize): Obstacle[] {
  const heading = (f.headingDeg * Math.PI) / 180;
  if (f.kind === 'bystander') {
    const { radius, height } = bodySize(f.body) ?? { radius: BODY_RADIUS_M, height: BODY_HEIGHT_M };
    return [{ shape: 'disc', x: f.x, z: f.z, heading, length: 2 * radius, breadth: 2 * radius, height }];
  }
  return f.kind === 'obstacle'
    ? [{ shape: f.shape, x: f.x, z: f.z, heading, length: f.length, breadth: f.shape === 'disc' ? f.length : f.breadth, height: f.height }]
    : [];
}

/** Distance (m) of a place from an obstacle's outline; below 0 inside it. */
export function distanceTo({ shape, x, z, heading, length, breadth }: Obstacle, px: number, pz: number): number {
  const dx = px - x,
    dz = pz - z;
  if (shape === 'disc') return Math.sqrt(dx * dx + dz * dz) - length / 2;
  const s = Math.sin(heading),
    c = Math.cos(heading);
  const a = Math.abs(dx * s + dz * c) - length / 2,
    b = Math.abs(dx * c - dz * s) - breadth / 2;
  if (a > 0 && b > 0) return Math.sqrt(a * a + b * b);
  return Math.max(a, b);
}
