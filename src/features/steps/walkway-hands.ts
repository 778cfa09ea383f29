import { useEffect, type RefObject } from 'react';
import { freshMark } from '../document/history';
import { useWalk } from '../document/selectors';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession } from '../stage/session';
import type { WalkwayHands } from '../walkway/hands';
import { Leading } from './leading';
import { chosenBy, usePrintActions } from './print-actions';

/** Prints are chosen and moved on the walkway as they are on the ribbon; who is led goes where the pointer is. */
export function WalkHands({ motion, hands }: { motion: StageMotion; hands: RefObject<WalkwayHands | null> }): null {
  const { spec: plan } = useWalk();
  const chosen = useSession((s) => s.chosen);
  const led = useSession((s) => s.led);
  const set = useSession((s) => s.set);
  const actions = usePrintActions(motion);
  useEffect(() => {
    hands.current = {
      beat: (time, pointed, looks) => led instanceof Leading && led.beat(time, pointed, looks),
      takePrint(hold, more) {
        if (led) return null;
        const next = chosenBy(hold.step, chosen, more);
        set({ chosen: next });
        if (more) return null;
        const steps = chosenPrints(next);
        const along = actions.headings(steps);
        const mark = freshMark('walkway');
        return ({ x, z }) => actions.move(steps, { x, z, turnDeg: 0 }, mark, plan, along);
      },
    };
    return () => {
      hands.current = null;
    };
  });
  return null;
}
