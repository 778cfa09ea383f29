import { z } from 'zod';
import { bodySpecSchema, type BodySpec } from '../body/spec';
import { setSpecSchema, type SetSpec } from '../directions/spec';
import { gaitSpecSchema } from '../gait/schema';
import type { GaitSpec } from '../gait/spec';
import { handoverSpecSchema, withChosen, type HandoverSpec } from '../handover/spec';
import { renamed } from '../steps/names';
import { planSpecSchema, type PlanSpec } from '../steps/plan';
import { clipSpecSchema, type ClipSpec } from '../travel/clip-spec';

/** The project's own record: its name and what is being worked on. */
const projectSpecSchema = z.strictObject({
  format: z.literal('nimbret.project'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  body: z.string().max(64),
  gait: z.string().max(64),
  /** The walk that is being laid out. */
  plan: z.string().max(64).optional(),
  /** Ids of walks in the order they are listed; others come behind, as they came. */
  walks: z.array(z.string().max(64)).max(10_000).optional(),
});
export type ProjectSpec = z.infer<typeof projectSpecSchema>;

/** What a project is made of. */
export interface SpecByKind {
  project: ProjectSpec;
  body: BodySpec;
  gait: GaitSpec;
  plan: PlanSpec;
  clip: ClipSpec;
  set: SetSpec;
  asset: HandoverSpec;
}
export type ItemKind = keyof SpecByKind;

/** All the house knows of a kind of item; a new kind is one entry here. */
interface KindEntry<S> {
  /** What a person calls one of them. */
  readonly label: string;
  readonly schema: z.ZodType<S>;
  /** True where a person adds and removes them; of each other kind a project has exactly one. At least one is always left, */
  readonly many: boolean;
  /** unless there may be none. */
  readonly none?: boolean;
  /** Fields that hold the id of another item, or null. */
  readonly references: readonly (keyof S & string)[];
  /** The same for ids that lie deeper. */
  readonly deeper?: (spec: S, moved: (id: string) => string) => S;
  /** True where changes of two windows to different fields are both kept without asking. */
  readonly merges: boolean;
}

export const KINDS: { readonly [K in ItemKind]: KindEntry<SpecByKind[K]> } = {
  project: {
    label: 'project',
    schema: projectSpecSchema,
    many: false,
    references: ['body', 'gait', 'plan'],
    deeper: (spec, moved) => (spec.walks ? { ...spec, walks: spec.walks.map(moved) } : spec),
    merges: true,
  },
  body: { label: 'body', schema: bodySpecSchema, many: true, references: [], merges: false },
  gait: { label: 'gait', schema: gaitSpecSchema, many: true, references: [], merges: false },
  plan: {
    label: 'walk',
    schema: planSpecSchema,
    many: true,
    references: ['gait', 'body'],
    deeper: renamed,
    merges: false,
  },
  clip: { label: 'clip', schema: clipSpecSchema, many: true, none: true, references: [], merges: false },
  set: { label: 'set of directions', schema: setSpecSchema, many: false, references: ['gait'], merges: false },
  asset: { label: 'hand-over', schema: handoverSpecSchema, many: false, references: [], deeper: withChosen, merges: false },
};
export const ITEM_KINDS = Object.keys(KINDS) as ItemKind[];

/** One item of a project. `version` grows by one with every save; 0 stands for one that is not stored yet. */
export interface Item<K extends ItemKind = ItemKind> {
  readonly id: string;
  readonly kind: K;
  readonly version: number;
  readonly spec: SpecByKind[K];
}

/** The same spec with every id it refers to taken through `moved`. */
export function withReferences<S extends Item['spec']>(kind: ItemKind, spec: S, moved: (id: string) => string): S {
  const next = { ...spec } as Record<string, unknown>;
  for (const field of KINDS[kind].references as readonly string[]) if (typeof next[field] === 'string') next[field] = moved(next[field]);
  const { deeper } = KINDS[kind] as { readonly deeper?: (spec: S, moved: (id: string) => string) => S };
  return deeper ? deeper(next as unknown as S, moved) : (next as unknown as S);
}

/** `theirs` with every field that `mine` changed since `base`: both changes where they touch different fields, else mine. */
export function mergedSpec<S extends Item['spec']>(base: S, mine: S, theirs: S): S {
  const changed = Object.entries(mine).filter(([key, value]) => JSON.stringify(value) !== JSON.stringify((base as Record<string, unknown>)[key]));
  return { ...theirs, ...Object.fromEntries(changed) } as S;
}
