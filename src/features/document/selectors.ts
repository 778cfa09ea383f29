import { useMemo, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { bodyOf, type Body } from '@/core/body/body';
import { fitGait } from '@/core/gait/fit';
import { own } from '@/core/math/own';
import type { GaitSpec } from '@/core/gait/spec';
import type { SpecByKind } from '@/core/project/kinds';
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

/** Gaits fitted to the legs they were last asked for. */
const fits = new WeakMap<GaitSpec, { legLength: number; gait: GaitSpec }>();

/** A gait of the project, fitted to the body in use; the same object until either changes. */
export function gaitNow(s: DocumentState, id: string): GaitSpec {
  const spec = specOf(s, 'gait', id);
  const { legLength } = bodyOf(bodySpecOf(s));
  const known = fits.get(spec);
  if (known?.legLength === legLength) return known.gait;
  const gait = fitGait(spec, legLength);
  fits.set(spec, { legLength, gait });
  return gait;
}

/** A gait of the project, fitted to the body in use. */
export const useGait = (id: string): GaitSpec => useDocument((s) => gaitNow(s, id));

/**
 * A gait as useGait gives it, which is given anew only when what is watched of it has changed (compared as JSON): a component
 * that shows one value is not rendered with every other. Nothing else of the gait may be read.
 */
export function useGaitWatching(id: string, watched: (gait: GaitSpec) => unknown): GaitSpec {
  const last = useRef<{ text: string; gait: GaitSpec } | null>(null);
  return useDocument((s) => {
    const gait = gaitNow(s, id);
    const text = JSON.stringify([id, watched(gait)]);
    if (last.current?.text !== text) last.current = { text, gait };
    return last.current.gait;
  });
}

/** Ids of the walks in their order: as the project lists them, others behind. */
export function walkIds(s: DocumentState): string[] {
  const ids = idsOf(s, 'plan');
  const listed = (projectOf(s).walks ?? []).filter((id) => ids.includes(id));
  return [...listed, ...ids.filter((id) => !listed.includes(id))];
}

/** Ids and names of all items of a kind, in order; the same array until one of them is renamed, comes or goes. */
export function useNames(kind: 'gait' | 'body' | 'plan'): readonly (readonly [id: string, name: string])[] {
  const flat = useDocument(useShallow((s) => (kind === 'plan' ? walkIds(s) : idsOf(s, kind)).flatMap((id) => [id, specOf(s, kind, id).name])));
  return useMemo(() => flat.flatMap((id, i) => (i % 2 === 0 ? [[id, flat[i + 1]!] as const] : [])), [flat]);
}

/** The one item of a kind of which a project has one. */
export function useSole<K extends 'set' | 'asset'>(kind: K): { id: string; spec: SpecByKind[K] } {
  const id = useDocument((s) => soleItem(s, kind).id);
  return { id, spec: useDocument((s) => specOf(s, kind, id)) };
}
/** Id of the walk that is being laid out; the first one where the project's choice is gone. */
export const planIdOf = (s: DocumentState): string => {
  const chosen = projectOf(s).plan;
  return chosen && s.meta[chosen]?.kind === 'plan' && s.specs[chosen] ? chosen : idsOf(s, 'plan')[0]!;
};
export function useWalk(): { id: string; spec: SpecByKind['plan'] } {
  const id = useDocument(planIdOf);
  return { id, spec: useDocument((s) => specOf(s, 'plan', id)) };
}
/** A part of the walk that is laid out; who shows no more is not rendered when the rest changes. */
export const useWalkPart = <T>(pick: (walk: SpecByKind['plan']) => T): T => useDocument((s) => pick(specOf(s, 'plan', planIdOf(s))));
export const usePlan = () => useWalk().spec;
export const useSet = () => useSole('set').spec;
/** All of a kind's specs by id; the same object until one of them changes. */
export function useSpecs<K extends 'gait' | 'body' | 'plan' | 'clip'>(kind: K): Readonly<Record<string, SpecByKind[K]>> {
  const ids = useDocument(useShallow((s) => idsOf(s, kind)));
  const specs = useDocument(useShallow((s) => ids.map((id) => specOf(s, kind, id))));
  return useMemo(() => Object.fromEntries(ids.flatMap((id, i) => (specs[i] ? [[id, specs[i]] as const] : []))), [ids, specs]);
}
/** Id of the gait an item names, or of the project's current one where it is gone. */
export const useGaitFor = (id: string): string => useDocument((s) => gaitFor(s, id));
/** The gait an item names, or the project's current one where it is gone. */
export const gaitFor = (s: DocumentState, id: string): string => (own(s.meta, id)?.kind === 'gait' && s.specs[id] ? id : gaitIdOf(s));
