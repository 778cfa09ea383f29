import type { PlanSpec } from './plan';

/** Ids of the gaits a plan names besides its own, each once. */
export function otherGaits({ gaits, edits, free, opens, closes }: PlanSpec): string[] {
  const all = [...gaits.map((k) => k.gait), ...edits.map((e) => e.gait), ...(free?.prints ?? []).map((p) => p.gait), opens?.gait ?? null, closes?.gait ?? null];
  return [...new Set(all.filter((id) => id !== null))];
}

/** The same plan with the ids of those gaits, and of bystanders' bodies, taken through `moved`. */
export function renamed(plan: PlanSpec, moved: (id: string) => string): PlanSpec {
  const own = <P extends { gait: string | null }>(p: P): P => (p.gait === null ? p : { ...p, gait: moved(p.gait) });
  return {
    ...plan,
    gaits: plan.gaits.map(own),
    edits: plan.edits.map(own),
    opens: plan.opens && own(plan.opens),
    closes: plan.closes && own(plan.closes),
    free: plan.free && { ...plan.free, prints: plan.free.prints.map(own) },
    ground: { ...plan.ground, features: plan.ground.features.map((f) => (f.kind === 'bystander' ? { ...f, body: moved(f.body) } : f)) },
  };
}

/** The same plan where a gait that is gone is the plan's own, and its own, where that is gone, the one in use. */
export function withoutGone(plan: PlanSpec, known: (gait: string) => boolean, inUse: string): PlanSpec {
  const own = known(plan.gait) ? plan.gait : inUse;
  const gone = new Set(otherGaits(plan).filter((id) => !known(id)));
  if (gone.size === 0) return own === plan.gait ? plan : { ...plan, gait: own };
  return renamed({ ...plan, gait: own }, (id) => (gone.has(id) ? own : id));
}
