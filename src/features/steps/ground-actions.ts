import type { Course } from '@/core/course/course';
import { toDegrees } from '@/core/math/scalar';
import type { GroundFeature } from '@/core/ground/spec';
import { planCourse } from '@/core/steps/motion';
import type { PlanSpec } from '@/core/steps/plan';
import { specOf } from '../document/context';
import { gaitFor, gaitNow, planIdOf } from '../document/selectors';
import { editItem, type DocumentStore } from '../document/store';
import { freeName } from '../library/actions';
import type { SessionStore } from '../stage/session';

/** Where a feature is put down, and how it is called. */
export type Common = Pick<GroundFeature, 'id' | 'name' | 'x' | 'z' | 'headingDeg'>;

/** Distance (m) features are put down apart, and looks along a course. */
const APART_M = 4;
const LOOKS = 240;
/** A course is followed where it passes this near (m) to where one looks. */
const NEAR_M = 8;

/**
 * Where the next feature goes: on the course where one looks (where nobody looked yet, its first third), turned along it; on from
 * there where something lies already.
 */
export function placeFor(plan: PlanSpec, course: Course | null, looked: { readonly x: number; readonly z: number } | null): Omit<Common, 'id' | 'name'> {
  const free = ({ x, z }: { x: number; z: number }) => plan.ground.features.every((f) => Math.hypot(f.x - x, f.z - z) >= APART_M - 1e-6);
  const p = [0, 0, 0, 0];
  const at = (s: number) => {
    course!.at(s, p, 0);
    return { x: p[0]!, z: p[1]!, headingDeg: toDegrees(p[2]!) };
  };
  if (course && course.length > 0) {
    const looks = Array.from({ length: LOOKS + 1 }, (_, i) => at((course.length * i) / LOOKS));
    const away = looks.map(({ x, z }) => (looked ? Math.hypot(x - looked.x, z - looked.z) : 0));
    const nearest = looked ? away.indexOf(Math.min(...away)) : Math.round(LOOKS / 3);
    if (away[nearest]! <= NEAR_M) return rounded(looks.slice(nearest).find(free) ?? looks.find(free) ?? beyond(looks[LOOKS]!, free));
  }
  return rounded(beyond({ headingDeg: 0, ...(looked ?? { x: 0, z: 0 }) }, free));
}

/** Straight on from a place, to where nothing lies. */
function beyond<P extends { x: number; z: number; headingDeg: number }>(from: P, free: (at: P) => boolean): P {
  const [dx, dz] = [Math.sin((from.headingDeg * Math.PI) / 180), Math.cos((from.headingDeg * Math.PI) / 180)];
  let at = from;
  for (let n = 1; n < 200 && !free(at); n++) at = { ...from, x: from.x + n * APART_M * dx, z: from.z + n * APART_M * dz };
  return at;
}

const rounded = ({ x, z, headingDeg }: Omit<Common, 'id' | 'name'>) => ({
  x: Math.round(x * 100) / 100,
  z: Math.round(z * 100) / 100,
  headingDeg: Math.round(headingDeg) + 0,
});

/** Puts a feature down on the ground of the walk that is laid out, where one looks, and chooses it. */
export function putDown(store: DocumentStore, session: SessionStore, label: string, make: (at: Common) => GroundFeature): void {
  const state = store.getState();
  const planId = planIdOf(state);
  const plan = specOf(state, 'plan', planId);
  let course: Course | null = null;
  try {
    course = plan.free ? null : planCourse(plan, gaitNow(state, gaitFor(state, plan.gait)));
  } catch {
    // A course that cannot be walked is none to follow.
  }
  const id: string = crypto.randomUUID();
  const name = freeName(
    label,
    plan.ground.features.map((f) => f.name),
  );
  const made = make({ id, name, ...placeFor(plan, course, session.getState().looksAt) });
  editItem<'plan'>(store, planId, `add ${label.toLowerCase()}`, (p) => void p.ground.features.push(made as never));
  session.getState().set({ chosen: { kind: 'feature', key: id } });
}
