import type { FootModel } from '../body/foot-model';
import { contactPoints, CONTACT_NUMBERS } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';

/** A meter of feet that shares nothing with what the engine finds but the skeleton and the sole's points. */
export interface FootLook {
  readonly name: 'left' | 'right';
  /** Heel, ball, tip of each picture, 9 numbers, m. */
  readonly points: Float64Array;
  /** Bend of the knee, angle of foot to shank (degrees), and place of the ankle (m, 3 a picture). */
  readonly knee: Float64Array;
  readonly ankle: Float64Array;
  readonly place: Float64Array;
}

export function lookAtFeet(clip: Clip, feet: readonly FootModel[]): FootLook[] {
  const size = poseSize(clip.skeleton);
  const world = createWorldPose(clip.skeleton);
  const looks = feet.map((foot) => ({
    foot,
    name: foot.name,
    points: new Float64Array(clip.frames * CONTACT_NUMBERS),
    knee: new Float64Array(clip.frames),
    ankle: new Float64Array(clip.frames),
    place: new Float64Array(clip.frames * 3),
  }));
  const p = world.positions;
  const way = (a: number, b: number) => [0, 1, 2].map((k) => p[b * 3 + k]! - p[a * 3 + k]!);
  const between = (u: number[], v: number[]) =>
    (Math.acos(Math.max(-1, Math.min(1, u.reduce((s, x, k) => s + x * v[k]!, 0) / Math.hypot(...u) / Math.hypot(...v)))) * 180) / Math.PI;
  for (let f = 0; f < clip.frames; f++) {
    forwardKinematics(clip.skeleton, clip.poses, f * size, world);
    for (const look of looks) {
      const { hip, knee, ankle, toes } = look.foot;
      contactPoints(look.foot, world, look.points, f * CONTACT_NUMBERS);
      look.knee[f] = between(way(hip, knee), way(knee, ankle));
      look.ankle[f] = between(way(knee, ankle), way(ankle, toes));
      for (let k = 0; k < 3; k++) look.place[f * 3 + k] = p[ankle * 3 + k]!;
    }
  }
  return looks;
}

/**
 * Contacts by heights alone, over level floor: a foot lands when heel, ball or tip comes under 15 mm over its own resting height (the
 * 5th percentile), and leaves when its tip is over 15 mm for 5 pictures at 120 a second.
 */
export function contactsByHeight({ points }: FootLook, frames: number, rate: number, first = 0): [number, number][] {
  const height = (k: number, f: number) => points[f * 9 + k * 3 + 1]!;
  const rest = [0, 1, 2].map((k) => Float64Array.from({ length: frames - first }, (_, i) => height(k, first + i)).sort()[Math.floor(0.05 * (frames - first))]!);
  const low = (k: number, f: number) => height(k, f) - rest[k]! < 0.015;
  const need = Math.round((5 * rate) / 120);
  const found: [number, number][] = [];
  let on = -1;
  for (let f = first; f < frames; f++) {
    const down = low(0, f) || low(1, f) || low(2, f);
    if (on < 0) {
      if (down) on = f;
      continue;
    }
    let left = !down;
    for (let g = f; left && g < Math.min(frames, f + need); g++) left = !low(2, g);
    if (!left) continue;
    found.push([on, f]);
    on = -1;
  }
  if (on >= 0) found.push([on, frames - 1]);
  // A foot that swings low over the floor for a moment has not landed.
  return found.filter(([a, b]) => b - a > 0.25 * rate);
}

/** Angular acceleration (°/s²) at 240 looks a second of a natural cubic spline through the pictures. */
export function jolts(values: Float64Array, rate: number): Float64Array {
  const n = values.length;
  const m = new Float64Array(n),
    c = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    const r = 6 * (values[i - 1]! - 2 * values[i]! + values[i + 1]!);
    c[i] = 1 / (4 - (i > 1 ? c[i - 1]! : 0));
    m[i] = (r - (i > 1 ? m[i - 1]! : 0)) * c[i]!;
  }
  for (let i = n - 3; i >= 1; i--) m[i] = m[i]! - c[i]! * m[i + 1]!;
  const at = (t: number) => {
    const x = Math.min(n - 1, t * rate);
    const i = Math.min(n - 2, Math.floor(x));
    const u = x - i,
      w = 1 - u;
    return w * values[i]! + u * values[i + 1]! + ((w * w * w - w) * m[i]! + (u * u * u - u) * m[i + 1]!) / 6;
  };
  const count = Math.floor(((n - 1) / rate) * 240);
  return Float64Array.from({ length: Math.max(0, count - 1) }, (_, i) => Math.abs((at(i / 240) - 2 * at((i + 1) / 240) + at((i + 2) / 240)) * 240 * 240));
}
