import type { Draft } from 'immer';
import type { Course } from '@/core/course/course';
import type { PlanSpec } from '@/core/steps/plan';

type Walk = Draft<PlanSpec>;

/** To whole millimetres. */
const round = (v: number): number => Math.round(v * 1000) / 1000;

/** How far (m) a knot added behind the last one lies from it. */
const BEYOND_M = 3;

/** Adds a knot half way to the next one, or beyond the last, at a place if one is given. */
export function addKnot(plan: Walk, after: number, at?: { readonly x: number; readonly z: number }): void {
  const { knots } = plan.course;
  const a = knots[after]!,
    b = knots[after + 1],
    before = knots[after - 1];
  const ahead = before ? Math.atan2(a.x - before.x, a.z - before.z) : 0;
  const place = at ?? (b ? { x: (a.x + b.x) / 2, z: (a.z + b.z) / 2 } : { x: a.x + Math.sin(ahead) * BEYOND_M, z: a.z + Math.cos(ahead) * BEYOND_M });
  knots.splice(after + 1, 0, { x: round(place.x), z: round(place.z), by: at ? 'smooth' : (b ?? a).by });
}

/** How far aside a bend goes, as a part of the stretch it is made in. */
const BEND = 0.2;

/** Bends the course: a knot half way along its longest stretch, to the left of it, and everything smooth. */
export function bend(plan: Walk): void {
  const { knots } = plan.course;
  const lengths = knots.slice(1).map((k, i) => Math.hypot(k.x - knots[i]!.x, k.z - knots[i]!.z));
  const i = lengths.indexOf(Math.max(...lengths));
  const [a, b] = [knots[i]!, knots[i + 1]!];
  // Left of the travel along (dx, dz) is (dz, -dx), as left is +X where ahead is +Z.
  addKnot(plan, i, { x: (a.x + b.x) / 2 + BEND * (b.z - a.z), z: (a.z + b.z) / 2 - BEND * (b.x - a.x) });
  plan.course.knots.forEach((k) => void (k.by = 'smooth'));
}

export function removeKnot(plan: Walk, i: number): void {
  if (plan.course.knots.length > 2) plan.course.knots.splice(i, 1);
}

/** The knot behind which a place on the rope lies: the nearest stretch between two knots. */
export function knotBefore(knots: PlanSpec['course']['knots'], x: number, z: number): number {
  let best = 0,
    least = Infinity;
  for (let i = 0; i + 1 < knots.length; i++) {
    const a = knots[i]!,
      b = knots[i + 1]!;
    const [dx, dz] = [b.x - a.x, b.z - a.z];
    const u = Math.min(1, Math.max(0, ((x - a.x) * dx + (z - a.z) * dz) / Math.max(1e-9, dx * dx + dz * dz)));
    const away = Math.hypot(x - a.x - u * dx, z - a.z - u * dz);
    if (away < least) [best, least] = [i, away];
  }
  return best;
}

/** Looks along a course. */
const LOOKS = 240;

/** Least distance (m) of a place from a course. */
export function nearest(course: Course, at: { readonly x: number; readonly z: number }): number {
  const p = [0, 0, 0, 0];
  let least = Infinity;
  for (let i = 0; i <= LOOKS; i++) {
    course.at((course.length * i) / LOOKS, p, 0);
    least = Math.min(least, Math.hypot(p[0]! - at.x, p[1]! - at.z));
  }
  return least;
}
