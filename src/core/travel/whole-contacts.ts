import type { ClipContact } from '../clip/clip';
import { calmSole, type CalmSole } from './recorded-contacts';
import type { ClipTrace } from './trace';

/**
 * Where a recorded contact begins and ends. A foot has landed when heel, ball or tip is less than `near` (m) over the level it
 * rests at and the foot has come to its place; it has left when its tip is over `off` over its own level for `leaves` (s). A foot
 * that is nowhere lower than `elsewhere` over its levels stands on something else, whose level counts.
 */
const ENDS = {
  near: 0.007,
  off: 0.013,
  elsewhere: 0.03,
  uneven: 0.02,
  heelUp: 0.06,
  leaves: 5 / 120,
  /** Part of a foot's low pictures that lie under the level a point rests at. */
  rests: 0.05,
  /** A foot that lands is no farther (m) from where it will stand; one that leaves has moved no farther from there. */
  arrives: 0.04,
  slides: 0.12,
  /** Longest (s) that a landing is looked for before and after a foot is slow, a lift-off after it was. */
  before: 0.12,
  comes: 0.06,
  after: 0.3,
  /** Feet are looked at without what is quicker, Hz. */
  cutoff: 20,
} as const;

/**
 * Contacts of a recording from where the foot lands to where its toes leave, the stretches given being those in which it surely
 * stands. `first`: the first frame that belongs to the motion.
 */
export function wholeContacts({ clip, soles }: ClipTrace, standing: readonly ClipContact[], first = 0): ClipContact[] {
  const { frames, rate } = clip;
  return soles.flatMap((trace) => {
    const own = standing.filter((c) => c.foot === trace.foot.name).sort((a, b) => a.from - b.from);
    const sole = calmSole(trace, frames, rate, first, ENDS.cutoff);
    const rests = restingLevels(sole, own, frames);
    const whole = own.map((c, i): ClipContact => {
      const [a, b] = [Math.max(first, Math.ceil(c.from)), Math.min(frames - 1, Math.floor(c.to))];
      const over = levelsOver(sole, rests, a, b);
      const floor = i > 0 ? Math.floor(own[i - 1]!.to) + 1 : first,
        ceiling = i + 1 < own.length ? Math.ceil(own[i + 1]!.from) - 1 : frames - 1;
      const from = landing(sole, over, a, b, Math.max(floor, a - Math.round(ENDS.before * rate)), Math.min(b, a + Math.round(ENDS.comes * rate)));
      const to = leaving(sole, over, a, b, Math.min(ceiling, b + Math.round(ENDS.after * rate)), Math.round(ENDS.leaves * rate));
      return to > from ? { ...c, from, to } : c;
    });
    // A foot leaves before it lands again.
    return whole.map((c, i) => (i + 1 < whole.length && c.to >= whole[i + 1]!.from ? { ...c, to: Math.max(c.from, whole[i + 1]!.from - 1) } : c));
  });
}

/** The level (m) each point of a sole rests at on the floor: under which it hardly ever is. */
function restingLevels({ points }: CalmSole, own: readonly ClipContact[], frames: number): readonly number[] {
  return [0, 1, 2].map((k) => {
    const heights: number[] = [];
    for (const c of own) for (let f = Math.max(0, Math.ceil(c.from)); f <= Math.min(frames - 1, c.to); f++) heights.push(points[f * 9 + k * 3 + 1]!);
    heights.sort((a, b) => a - b);
    return heights[Math.floor(ENDS.rests * heights.length)] ?? 0;
  });
}

/** How high (m) point k of a sole is at a frame: over its level in this contact, and over the lowest it rests at. */
interface Over {
  readonly own: (k: number, f: number) => number;
  readonly rest: (k: number, f: number) => number;
}

/**
 * How high (m) a point is over the level it rests at in this contact: that of the floor, or the one it mostly has here where that
 * is higher, as soles lie unevenly; what stands on something else is as much higher.
 */
function levelsOver({ points }: CalmSole, rests: readonly number[], a: number, b: number): Over {
  const heights = [0, 1, 2].map((k) => Float64Array.from({ length: b - a + 1 }, (_, i) => points[(a + i) * 9 + k * 3 + 1]!).sort());
  const higher = Math.min(...heights.map((h, k) => h[0]! - rests[k]!));
  const raised = higher > ENDS.elsewhere ? higher : 0;
  const own = heights.map((h, k) => Math.max(rests[k]! + raised, Math.min(h[h.length >> 1]!, rests[k]! + raised + ENDS.uneven)));
  return {
    own: (k, f) => points[f * 9 + k * 3 + 1]! - own[k]!,
    rest: (k, f) => points[f * 9 + k * 3 + 1]! - rests[k]! - raised,
  };
}

function landing(sole: CalmSole, { own: over }: Over, a: number, b: number, earliest: number, latest: number): number {
  const k = [0, 1, 2].reduce((low, i) => (over(i, a) < over(low, a) ? i : low), 0);
  const low = (f: number) => Math.min(over(0, f), over(1, f), over(2, f)) < ENDS.near;
  const anchor = middlePlace(sole, k, a, Math.min(b, a + ((b - a) >> 1)));
  const near = (f: number) => Math.hypot(sole.points[f * 9 + k * 3]! - anchor[0], sole.points[f * 9 + k * 3 + 2]! - anchor[1]) < ENDS.arrives;
  let f = a;
  // Slow in the air is not landed yet.
  while (f < latest && !low(f)) f++;
  if (f > a) return low(f) ? f : a;
  while (f > earliest && low(f - 1) && near(f - 1)) f--;
  return f;
}

function leaving(sole: CalmSole, { own, rest }: Over, a: number, b: number, latest: number, need: number): number {
  // A foot whose heel is up stands on toes that are bent down below where they rest: they leave as soon as they rise from there.
  const up = (f: number) => own(2, f) > ENDS.off || (rest(2, f) > ENDS.off && rest(0, f) > ENDS.heelUp);
  const gone = (f: number) => {
    for (let g = f; g < f + need && g <= latest; g++) if (!up(g)) return false;
    return true;
  };
  const tip = middlePlace(sole, 2, a + ((b - a) >> 1), b);
  const near = (f: number) => Math.hypot(sole.points[f * 9 + 6]! - tip[0], sole.points[f * 9 + 8]! - tip[1]) < ENDS.slides;
  let f = b;
  if (up(f)) {
    // Toes that are up in a standing foot are held up; such a foot leaves when its ball does, where it was seen to.
    while (f > a && up(f - 1)) f--;
    return f > (a + b) / 2 ? f : b;
  }
  while (f < latest && !gone(f + 1) && near(f + 1)) f++;
  return f;
}

/** Middle place (x, z) of a point of the sole over a stretch. */
function middlePlace({ points }: CalmSole, k: number, from: number, to: number): [number, number] {
  const middle = (axis: number) => {
    const values = Float64Array.from({ length: to - from + 1 }, (_, i) => points[(from + i) * 9 + k * 3 + axis]!).sort();
    return values[values.length >> 1]!;
  };
  return [middle(0), middle(2)];
}
