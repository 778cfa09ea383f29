import { distanceTo } from '../ground/build';
import { frameOf, placeIn } from '../ground/frame';
import type { Ground } from '../ground/ground';
import { wrapAngle } from '../math/scalar';
import { BucketQueue, MinHeap } from './queues';
import type { CoursePoint } from './rope';

/** What a way is looked for: from a place with a heading (rad) to another; a goal without a heading may be come to from anywhere. */
export interface WayQuery {
  readonly ground: Ground;
  readonly from: CoursePoint & { readonly heading: number };
  readonly to: CoursePoint & { readonly heading: number | null };
  /** Room (m) the body needs to either side, a step's usual length and the longest one that can be made, m. */
  readonly radius: number;
  readonly step: number;
  readonly reach: number;
}

export interface WayFound {
  readonly kind: 'found';
  /** Places of the body, a step apart or less. */
  readonly points: readonly CoursePoint[];
  readonly cost: number;
  /** No way on the lattice costs less than the one found divided by this. */
  readonly bound: number;
  /** Places looked at. */
  readonly searched: readonly CoursePoint[];
}
export interface NoWay {
  readonly kind: 'none';
  readonly reason: string;
  readonly at: CoursePoint;
  readonly searched: readonly CoursePoint[];
}

/** Side of a cell, m; headings told apart; room around start and goal that is searched, m. */
const CELL_M = 0.2;
const HEADINGS = 16;
const MARGIN_M = 6;
const MOST_CELLS = 1_200_000;
/** So much the estimate is trusted beyond what it proves: the bound. */
const WEIGHT = 1.2;
/** Grid ways along eight directions are at most this much longer than straight ones. */
const GRID_SHARE = Math.cos(Math.PI / 8);
/** What turning by one heading costs, and a longer step than usual for each metre it is longer, m. */
const TURN_COST = 0.06;
const LONG_COST = 0.8;
/** Steps back and to the side are not made: a step goes ahead within this many headings. */
const AHEAD = 2;
/** The goal's heading is met within this many headings. */
const GOAL_HEADINGS = 1;

/** The lattice over the part of the ground that is searched. */
interface Lattice {
  readonly x0: number;
  readonly z0: number;
  readonly nx: number;
  readonly nz: number;
  /** 1: a body is in the way there; 2: a foot has nothing to stand on. */
  readonly taken: Uint8Array;
}

function lattice({ ground, from, to, radius }: WayQuery): Lattice {
  const x0 = Math.min(from.x, to.x) - MARGIN_M,
    z0 = Math.min(from.z, to.z) - MARGIN_M;
  const nx = Math.ceil((Math.max(from.x, to.x) + MARGIN_M - x0) / CELL_M) + 1,
    nz = Math.ceil((Math.max(from.z, to.z) + MARGIN_M - z0) / CELL_M) + 1;
  if (nx * nz > MOST_CELLS) throw new RangeError('the goal is too far away to look for a course there at once');
  const taken = new Uint8Array(nx * nz);
  /** Visits the cells in a box of the world. */
  const cells = (ax: number, az: number, bx: number, bz: number, visit: (k: number, x: number, z: number) => void) => {
    for (let i = Math.max(0, Math.floor((ax - x0) / CELL_M)); i <= Math.min(nx - 1, Math.ceil((bx - x0) / CELL_M)); i++)
      for (let j = Math.max(0, Math.floor((az - z0) / CELL_M)); j <= Math.min(nz - 1, Math.ceil((bz - z0) / CELL_M)); j++)
        visit(i * nz + j, x0 + i * CELL_M, z0 + j * CELL_M);
  };
  for (const o of ground.obstacles ?? []) {
    const far = Math.hypot(o.length, o.breadth) / 2 + radius;
    cells(o.x - far, o.z - far, o.x + far, o.z + far, (k, x, z) => {
      if (distanceTo(o, x, z) < radius) taken[k] = taken[k]! | 1;
    });
  }
  for (const f of ground.spec?.features ?? []) {
    if (f.kind !== 'stones') continue;
    const frame = frameOf(f);
    const corners = [0, f.length].flatMap((a) => [-f.breadth / 2, f.breadth / 2].map((b) => placeIn(frame, a, b)));
    const xs = corners.map((c) => c.x),
      zs = corners.map((c) => c.z);
    cells(Math.min(...xs), Math.min(...zs), Math.max(...xs), Math.max(...zs), (k, x, z) => {
      if (!ground.footing(x, z)) taken[k] = taken[k]! | 2;
    });
  }
  return { x0, z0, nx, nz, taken };
}

/** Distance (m) of every cell from the goal for a body, over water too: no way is shorter. Infinity where none leads. */
function distanceField({ nx, nz, taken }: Lattice, goal: number): Float32Array {
  const field = new Float32Array(nx * nz).fill(Infinity);
  const queue = new BucketQueue(CELL_M / 8);
  field[goal] = 0;
  queue.push(goal, 0);
  const straight = CELL_M,
    diagonal = CELL_M * Math.SQRT2;
  for (let k = queue.pop(); k >= 0; k = queue.pop()) {
    const d = field[k]!;
    if (queue.last > d + CELL_M) continue;
    const i = Math.floor(k / nz),
      j = k - i * nz;
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++) {
        const a = i + di,
          b = j + dj;
        if ((di === 0 && dj === 0) || a < 0 || b < 0 || a >= nx || b >= nz) continue;
        const n = a * nz + b;
        if (taken[n]! & 1) continue;
        const next = d + (di !== 0 && dj !== 0 ? diagonal : straight);
        if (next < field[n]! - 1e-6) {
          field[n] = next;
          queue.push(n, next);
        }
      }
  }
  return field;
}

/** A step on the lattice: cells it goes, its length, m. */
interface Move {
  readonly di: number;
  readonly dj: number;
  readonly length: number;
}

/** Steps ahead in each heading: the usual one, shorter ones, and longer ones for gaps. */
function movesOf(step: number, reach: number): Move[][] {
  return Array.from({ length: HEADINGS }, (_, h) => {
    const heading = (2 * Math.PI * h) / HEADINGS;
    const seen = new Set<string>();
    return [step / 2, step, (step + reach) / 2, reach].flatMap((length): Move[] => {
      const di = Math.round((length * Math.sin(heading)) / CELL_M),
        dj = Math.round((length * Math.cos(heading)) / CELL_M);
      const real = Math.hypot(di, dj) * CELL_M;
      if (real > reach + 1e-9 || seen.has(`${di} ${dj}`) || (di === 0 && dj === 0)) return [];
      seen.add(`${di} ${dj}`);
      return [{ di, dj, length: real }];
    });
  });
}

/**
 * A way for a body over ground and round what stands on it: weighted A* on a lattice of steps (place and heading), its
 * estimate a field of distances for the body's own room. The answer costs at most `bound` times the best one of the lattice.
 * Where there is none, why, and where. Yields now and then; `field` may be left out for a plain Dijkstra search.
 * Source of the search: Hart, Nilsson, Raphael 1968; Pohl 1970 for the weight.
 */
export function* findingWay(query: WayQuery, weight = WEIGHT): Generator<number, WayFound | NoWay> {
  const grid = lattice(query);
  const { x0, z0, nx, nz, taken } = grid;
  const { from, to, step, reach } = query;
  const cellOf = (p: CoursePoint) => Math.round((p.x - x0) / CELL_M) * nz + Math.round((p.z - z0) / CELL_M);
  const placeOf = (k: number): CoursePoint => ({ x: x0 + Math.floor(k / nz) * CELL_M, z: z0 + (k % nz) * CELL_M });
  const start = cellOf(from),
    goal = cellOf(to);
  const none = (reason: string, at: CoursePoint, searched: readonly CoursePoint[] = []): NoWay => ({ kind: 'none', reason, at, searched });
  if (taken[start]) return none('the start itself has no room to stand', from);
  if (taken[goal]) return none('the goal itself has no room to stand', to);
  const field = distanceField(grid, goal);
  yield 0.2;
  if (!Number.isFinite(field[start]!)) return none(...narrowest(query, grid, start, goal));
  const moves = movesOf(step, reach);
  const headingOf = (a: number) => ((Math.round((a / (2 * Math.PI)) * HEADINGS) % HEADINGS) + HEADINGS) % HEADINGS;
  const states = nx * nz * HEADINGS;
  const cost = new Float32Array(states).fill(Infinity);
  const came = new Int32Array(states).fill(-1);
  const closed = new Uint8Array(states);
  const open = new MinHeap();
  const searched: CoursePoint[] = [];
  const first = start * HEADINGS + headingOf(from.heading);
  const estimate = (k: number) => weight * GRID_SHARE * field[k]!;
  cost[first] = 0;
  open.push(first, estimate(start));
  const goalHeading = to.heading === null ? null : headingOf(to.heading);
  const arrives = (cell: number, h: number) =>
    cell === goal &&
    (goalHeading === null || Math.abs(wrapAngle(((h - goalHeading) * 2 * Math.PI) / HEADINGS)) <= (GOAL_HEADINGS * 2 * Math.PI) / HEADINGS + 1e-9);
  const whole = Math.max(1e-6, field[start]!);
  let looked = 0,
    nearest = Infinity;
  for (let state = open.pop(); state >= 0; state = open.pop()) {
    if (closed[state]) continue;
    closed[state] = 1;
    const cell = Math.floor(state / HEADINGS),
      h = state - cell * HEADINGS;
    if (arrives(cell, h)) {
      const points: CoursePoint[] = [];
      for (let s = state; s >= 0; s = came[s]!) points.push(placeOf(Math.floor(s / HEADINGS)));
      points.reverse();
      points[0] = { x: from.x, z: from.z };
      points[points.length - 1] = { x: to.x, z: to.z };
      return {
        kind: 'found',
        points: points.filter((p, i) => i === 0 || p.x !== points[i - 1]!.x || p.z !== points[i - 1]!.z),
        cost: cost[state]!,
        bound: weight,
        searched,
      };
    }
    if (looked++ % 8 === 0 && searched.length < 4000) searched.push(placeOf(cell));
    nearest = Math.min(nearest, field[cell]!);
    if (looked % 2000 === 0) yield 0.2 + 0.8 * (1 - nearest / whole);
    const i = Math.floor(cell / nz),
      j = cell - i * nz;
    for (let turn = -AHEAD; turn <= AHEAD; turn++) {
      const towards = (h + turn + HEADINGS) % HEADINGS;
      for (const { di, dj, length } of moves[towards]!) {
        const a = i + di,
          b = j + dj;
        if (a < 0 || b < 0 || a >= nx || b >= nz) continue;
        const n = a * nz + b;
        if (taken[n] || blocked(grid, i, j, di, dj)) continue;
        consider(state, n * HEADINGS + towards, n, length + Math.abs(turn) * TURN_COST + Math.max(0, length - step) * LONG_COST);
      }
      // A turn on the spot.
      if (turn === 1 || turn === -1) consider(state, cell * HEADINGS + towards, cell, 2.5 * TURN_COST);
    }
  }
  return none(...widestGap(query, grid, closed, placeOf), searched);

  function consider(state: number, next: number, n: number, more: number): void {
    const c = cost[state]! + more;
    if (c >= cost[next]! - 1e-6 || closed[next]) return;
    cost[next] = c;
    came[next] = state;
    open.push(next, c + estimate(n));
  }
}

/** Whether something is in the body's way between two cells. */
function blocked({ nz, taken }: Lattice, i: number, j: number, di: number, dj: number): boolean {
  const n = Math.max(Math.abs(di), Math.abs(dj)) * 2;
  for (let k = 1; k < n; k++) if (taken[Math.round(i + (di * k) / n) * nz + Math.round(j + (dj * k) / n)]! & 1) return true;
  return false;
}

/** Narrowest passage of the widest way: what keeps a body from its goal. */
function narrowest(query: WayQuery, grid: Lattice, start: number, goal: number): [string, CoursePoint] {
  for (let share = 0.9; share > 0.05; share -= 0.1) {
    const radius = query.radius * share;
    const thinner = lattice({ ...query, radius });
    const field = distanceField(thinner, goal);
    if (!Number.isFinite(field[start]!)) continue;
    // Along the thinner way, the first place where the body itself has no room.
    let k = start;
    for (let guard = 0; guard < grid.nx * grid.nz && k !== goal; guard++) {
      if (grid.taken[k]! & 1) {
        const at = { x: grid.x0 + Math.floor(k / grid.nz) * CELL_M, z: grid.z0 + (k % grid.nz) * CELL_M };
        return [`a passage of about ${(2 * radius).toFixed(1)} m where the body needs ${(2 * query.radius).toFixed(1)} m`, at];
      }
      let best = k;
      for (const d of [-1, 0, 1])
        for (const e of [-grid.nz, 0, grid.nz]) if (field[k + d + e] !== undefined && field[k + d + e]! < field[best]!) best = k + d + e;
      if (best === k) break;
      k = best;
    }
    break;
  }
  return ['it is closed in on all sides', query.to];
}

/** The gap in the footing that no step reaches over, next to what was searched. */
function widestGap({ to, reach }: WayQuery, { nx, nz, taken }: Lattice, closed: Uint8Array, placeOf: (k: number) => CoursePoint): [string, CoursePoint] {
  const reached: number[] = [],
    beyond: number[] = [];
  for (let k = 0; k < nx * nz; k++) {
    if (taken[k]) continue;
    let been = false;
    for (let h = 0; h < HEADINGS && !been; h++) been = closed[k * HEADINGS + h] === 1;
    const wet = [-1, 1, -nz, nz].some((d) => (taken[k + d] ?? 0) & 2);
    if (wet) (been ? reached : beyond).push(k);
  }
  let least = Infinity,
    at: CoursePoint = to;
  for (const a of reached) {
    const p = placeOf(a);
    for (const b of beyond) {
      const q = placeOf(b);
      const d = Math.hypot(p.x - q.x, p.z - q.z);
      const nearer = d < least + 1e-9 && Math.hypot(p.x - to.x, p.z - to.z) < Math.hypot(at.x - to.x, at.z - to.z);
      if (d > reach && (d < least - 1e-9 || (nearer && at !== to))) [least, at] = [d, p];
    }
  }
  return Number.isFinite(least) ? [`a gap of ${least.toFixed(1)} m where ${reach.toFixed(1)} m can be reached`, at] : ['no steps lead there', to];
}

/** Farthest (m) a way may be cut short by leaving points out. */
const STRAIGHT_M = 0.1;

/** Points of a way that say as much as all of them (Douglas & Peucker 1973). */
export function fewerPoints(points: readonly CoursePoint[], within = STRAIGHT_M): CoursePoint[] {
  if (points.length < 3) return [...points];
  const a = points[0]!,
    b = points[points.length - 1]!;
  const length = Math.max(1e-9, Math.hypot(b.x - a.x, b.z - a.z));
  let far = 0,
    at = 0;
  points.forEach((p, i) => {
    const d = Math.abs((p.x - a.x) * (b.z - a.z) - (p.z - a.z) * (b.x - a.x)) / length;
    if (d > far) [far, at] = [d, i];
  });
  if (far <= within) return [a, b];
  return [...fewerPoints(points.slice(0, at + 1), within).slice(0, -1), ...fewerPoints(points.slice(at), within)];
}
