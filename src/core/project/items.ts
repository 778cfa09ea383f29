import { z } from 'zod';
import { bodySpecSchema, type BodySpec } from '../body/spec';
import { setSpecSchema, type SetSpec } from '../directions/spec';
import { gaitSpecSchema } from '../gait/schema';
import type { GaitSpec } from '../gait/spec';
import { handoverSpecSchema, type HandoverSpec } from '../handover/spec';
import { planSpecSchema, type PlanSpec } from '../steps/plan';

/** The project's own record: its name and what is being worked on. */
const projectSpecSchema = z.strictObject({
  format: z.literal('nimbret.project'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  body: z.string().max(64),
  gait: z.string().max(64),
});
export type ProjectSpec = z.infer<typeof projectSpecSchema>;

/** What a project is made of: the kind of each item and the schema of its spec. */
export interface SpecByKind {
  project: ProjectSpec;
  body: BodySpec;
  gait: GaitSpec;
  plan: PlanSpec;
  set: SetSpec;
  asset: HandoverSpec;
}
export type ItemKind = keyof SpecByKind;

export const SPEC_SCHEMAS: { readonly [K in ItemKind]: z.ZodType<SpecByKind[K]> } = {
  project: projectSpecSchema,
  body: bodySpecSchema,
  gait: gaitSpecSchema,
  plan: planSpecSchema,
  set: setSpecSchema,
  asset: handoverSpecSchema,
};
export const ITEM_KINDS = Object.keys(SPEC_SCHEMAS) as ItemKind[];

/** One item of a project. `version` grows by one with every save. */
export interface Item<K extends ItemKind = ItemKind> {
  readonly id: string;
  readonly kind: K;
  readonly version: number;
  readonly spec: SpecByKind[K];
}
