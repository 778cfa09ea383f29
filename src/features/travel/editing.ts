import { useDocumentStore } from '../document/context';
import { editItem } from '../document/store';
import type { Draft } from 'immer';
import type { ClipSpec } from '@/core/travel/clip-spec';

/** Changes the clip with this id as one step; steps of one mark are one. */
export function useClipChange(id: string): (label: string, recipe: (spec: Draft<ClipSpec>) => void, mark?: string | null) => void {
  const store = useDocumentStore();
  return (label, recipe, mark = null) => editItem<'clip'>(store, id, label, recipe, mark);
}
