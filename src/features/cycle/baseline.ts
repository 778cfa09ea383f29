import { useRef, useState } from 'react';
import type { GaitSpec } from '@/core/gait/spec';
import { useDocument, useDocumentStore } from '../document/context';
import { freshMark } from '../document/history';
import { replaceGait } from './editing';

/**
 * A control that starts from the gait as it is when first moved and works on that, so that moving it back gives back what
 * was there. As soon as anything else changes the gait, the control stands at `neutral` again.
 */
export function useBaseline<V>(gaitId: string, gait: GaitSpec, neutral: V) {
  const store = useDocumentStore();
  const spec = useDocument((s) => s.specs[gaitId]);
  const held = useRef<{ base: GaitSpec; start: V; made: unknown; mark: string } | null>(null);
  const [value, setValue] = useState<V>(neutral);
  const live = held.current !== null && held.current.made === spec;
  return {
    /** What the control shows. */
    value: live ? value : neutral,
    /** Lays `make(base, start)` over the gait as part of one undoable step. */
    apply(next: V, label: string, make: (base: GaitSpec, start: V) => GaitSpec): void {
      if (!live) held.current = { base: gait, start: neutral, made: null, mark: freshMark(label) };
      const { base, start, mark } = held.current!;
      replaceGait(store, gaitId, make(base, start), label, mark);
      held.current!.made = store.getState().specs[gaitId];
      setValue(next);
    },
  };
}
