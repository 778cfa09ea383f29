import type { KeyboardEvent } from 'react';
import { useWalk } from '../document/selectors';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession } from '../stage/session';
import { removeKnot } from './course-editing';
import { useWalkChange } from './editing';
import { usePrintActions } from './print-actions';

/** What an arrow key moves a print by, m, and turns it by, degrees; what it moves other things by, m. */
const KEY_M = 0.01;
const KEY_DEG = 1;
const KEY_THING_M = 0.05;
const ARROWS: Readonly<Record<string, readonly [ahead: number, left: number]>> = {
  ArrowRight: [1, 0],
  ArrowLeft: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const TURNS: Readonly<Record<string, number>> = { q: 1, e: -1 };

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** Keys that move, turn and remove what is chosen of a walk: Shift ten times as far, Alt a tenth. */
export function useChosenKeys(motion: StageMotion): (e: KeyboardEvent) => void {
  const { spec: plan } = useWalk();
  const chosen = useSession((s) => s.chosen);
  const change = useWalkChange();
  const actions = usePrintActions(motion);
  /** Whether the key meant something. */
  const done = (e: KeyboardEvent): boolean => {
    const by = ARROWS[e.key];
    const k = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
    const removes = e.key === 'Delete';
    if (chosen?.kind === 'print') {
      const steps = chosenPrints(chosen);
      const turn = TURNS[e.key.toLowerCase()];
      if (by) actions.nudge(steps, by[0] * KEY_M * k, by[1] * KEY_M * k, 0);
      else if (turn) actions.nudge(steps, 0, 0, turn * KEY_DEG * k);
      else if (plan.free) return false;
      else if (removes) actions.leaveOut(steps);
      else if (e.key === 'Insert') actions.add(chosen.key);
      else if (e.key === 'Backspace') actions.reset(steps);
      else return false;
      return true;
    }
    if (!by && !removes) return false;
    if (chosen?.kind === 'knot')
      change(removes ? 'remove a knot' : 'move a knot', (p) => {
        if (!by) return removeKnot(p, chosen.key);
        const knot = p.course.knots[chosen.key];
        if (knot) [knot.z, knot.x] = [round(knot.z + by[0] * KEY_THING_M * k), round(knot.x + by[1] * KEY_THING_M * k)];
      });
    if (chosen?.kind === 'feature')
      change(removes ? 'remove ground' : 'move ground', (p) => {
        if (!by) return void (p.ground.features = p.ground.features.filter((f) => f.id !== chosen.key));
        const f = p.ground.features.find((g) => g.id === chosen.key);
        if (f) [f.z, f.x] = [round(f.z + by[0] * KEY_THING_M * k), round(f.x + by[1] * KEY_THING_M * k)];
      });
    return true;
  };
  return (e) => {
    if (!chosen || e.ctrlKey || e.metaKey || !done(e)) return;
    e.preventDefault();
    e.stopPropagation();
  };
}
