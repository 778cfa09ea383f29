import { expect, test } from 'vitest';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/kinds';
import { planCourse } from '@/core/steps/motion';
import { defaultPlan } from '@/core/steps/plan';
import { specOf } from '../document/context';
import { gaitIdOf, gaitNow, planIdOf } from '../document/selectors';
import { createDocument, undo } from '../document/store';
import { createSession } from '../stage/session';
import { bend, nearest } from './course-editing';
import { placeFor, putDown } from './ground-actions';
import { STAMPS } from './stamps';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const store = createDocument(items);
const gait = gaitNow(store.getState(), gaitIdOf(store.getState()));
const bent = () => {
  const plan = structuredClone(defaultPlan());
  plan.course.knots = [
    { x: 0, z: 0, by: 'smooth' },
    { x: 0, z: 10, by: 'smooth' },
  ];
  bend(plan);
  return plan;
};

test('a bend goes to the left of the longest stretch, half way along it', () => {
  expect(bent().course.knots).toEqual([
    { x: 0, z: 0, by: 'smooth' },
    { x: 2, z: 5, by: 'smooth' },
    { x: 0, z: 10, by: 'smooth' },
  ]);
});

test('ground is put down on the course where one looks, turned along it, and on from there where something lies', () => {
  const plan = bent();
  const course = planCourse(plan, gait);
  const place = placeFor(plan, course, { x: 3, z: 5 });
  expect(nearest(course, place)).toBeLessThan(0.03);
  expect(Math.hypot(place.x - 2, place.z - 5)).toBeLessThan(0.2);
  expect(Math.abs(place.headingDeg)).toBeLessThan(5);
  const stairs = STAMPS.find((s) => s.kind === 'stairs')!;
  plan.ground.features.push(stairs.make({ id: 'a', name: 'Stairs', ...place }) as never);
  const next = placeFor(plan, course, { x: 3, z: 5 });
  expect(nearest(course, next)).toBeLessThan(0.03);
  expect(Math.hypot(next.x - place.x, next.z - place.z)).toBeGreaterThan(3.9);
  expect(next.z).toBeGreaterThan(place.z);
  expect(next.headingDeg).toBeLessThan(-10);
});

test('far from any course, or without one, it lies where one looks; a full course goes on behind its end', () => {
  const plan = bent();
  const course = planCourse(plan, gait);
  expect(placeFor(plan, course, { x: 60, z: 40 })).toEqual({ x: 60, z: 40, headingDeg: 0 });
  expect(placeFor(plan, null, { x: 1, z: 2 })).toEqual({ x: 1, z: 2, headingDeg: 0 });
  for (let i = 0; i < 6; i++) plan.ground.features.push(STAMPS[0]!.make({ id: `${i}`, name: `${i}`, ...placeFor(plan, course, { x: 0, z: 0 }) }) as never);
  const { features } = plan.ground;
  expect(features.at(-1)!.z).toBeGreaterThan(10);
  for (const a of features) for (const b of features) if (a !== b) expect(Math.hypot(a.x - b.x, a.z - b.z)).toBeGreaterThan(3.9);
});

test('putting down is one step of undo, and chooses what was put down', () => {
  const session = createSession();
  const features = () => specOf(store.getState(), 'plan', planIdOf(store.getState())).ground.features;
  putDown(store, session, 'Obstacle', STAMPS.find((s) => s.kind === 'obstacle')!.make);
  expect(features().map((f) => f.name)).toEqual(['Obstacle']);
  expect(session.getState().chosen).toEqual({ kind: 'feature', key: features()[0]!.id });
  undo(store);
  expect(features()).toEqual([]);
});
