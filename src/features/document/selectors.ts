import { useMemo } from 'react';
import { bodyOf, type Body } from '@/core/body/body';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import { idsOf, soleItem, specOf, useDocument } from './context';
import type { DocumentState } from './store';

export const projectOf = (s: DocumentState) => specOf(s, 'project', s.projectId);

/** Id of the body in use; the first one where the project's choice is gone. */
export const bodyIdOf = (s: DocumentState): string => (s.specs[projectOf(s).body] ? projectOf(s).body : idsOf(s, 'body')[0]!);
export const bodySpecOf = (s: DocumentState) => specOf(s, 'body', bodyIdOf(s));
export const gaitIdOf = (s: DocumentState): string => (s.specs[projectOf(s).gait] ? projectOf(s).gait : idsOf(s, 'gait')[0]!);

export function useBody(): Body {
  return bodyOf(useDocument(bodySpecOf));
}

/** A gait of the project, fitted to the body in use. */
export function useGait(id: string): GaitSpec {
  const body = useBody();
  const spec = useDocument((s) => specOf(s, 'gait', id));
  return useMemo(() => fitGait(spec, body.legLength), [spec, body]);
}

export const usePlan = () => useDocument((s) => soleItem(s, 'plan').spec);
export const useSet = () => useDocument((s) => soleItem(s, 'set').spec);
/** The gait an item names, or the project's current one where it is gone. */
export const gaitFor = (s: DocumentState, id: string): string => (s.meta[id]?.kind === 'gait' ? id : gaitIdOf(s));
