import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { own } from '@/core/math/own';
import type { Offered } from '@/core/project/chosen';
import { withoutGone } from '@/core/steps/names';
import { useDocument } from './context';
import { bodySpecOf, gaitFor, gaitIdOf, planIdOf, useBody, useSole, useSpecs, walkIds } from './selectors';

/** All that motions of this project are made from; a gait that is gone is the one in use. */
export function useOffered(): Offered {
  const body = useBody();
  const spec = useDocument(bodySpecOf);
  const bodies = useSpecs('body');
  const gaits = useSpecs('gait');
  const walks = useSpecs('plan');
  const order = useDocument(useShallow(walkIds));
  const gait = useDocument(gaitIdOf);
  const plan = useDocument(planIdOf);
  const { id: set, spec: setSpec } = useSole('set');
  const setGait = useDocument((s) => gaitFor(s, setSpec.gait));
  return useMemo(
    () => ({
      part: {
        body: spec,
        bodies,
        gaits,
        plans: Object.fromEntries(order.flatMap((id) => (walks[id] ? [[id, withoutGone(walks[id], (g) => own(gaits, g) !== undefined, gait)]] : []))),
        sets: { [set]: { ...setSpec, gait: setGait } },
      },
      body,
      gait,
      plan,
      set,
    }),
    [spec, bodies, gaits, order, walks, set, setSpec, setGait, body, gait, plan],
  );
}
