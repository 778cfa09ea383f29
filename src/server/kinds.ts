import { ITEM_KINDS, KINDS, type ItemKind } from '@/core/project/kinds';
import { notFound } from './problem';

/** The item kind a path names; anything else is not found. */
export function kindOf(text: string): ItemKind {
  const known = ITEM_KINDS.find((k) => k === text);
  if (!known) throw notFound('kind of item');
  return known;
}

/** Kinds a person can add and remove; a project has one of each other kind. */
export function addableKind(text: string): ItemKind {
  const kind = kindOf(text);
  if (!KINDS[kind].many) throw notFound('kind of item to add or remove');
  return kind;
}
