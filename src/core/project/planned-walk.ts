import { bodyOf } from '../body/body';
import { fitGait } from '../gait/fit';
import type { GaitSpec } from '../gait/spec';
import { buildGround } from '../ground/build';
import type { Ground } from '../ground/ground';
import type { GroundSpec } from '../ground/spec';
import { factsOf, sampledMotion, stretchOf, type MotionFacts, type MotionStretch, type SampledMotion } from '../motion/sampled';
import { printFaults, type PrintFault } from '../steps/faults';
import { defaultPlan, type PlanSpec } from '../steps/plan';
import { bodySpecFor, build, sizesOf, type Built, type MotionSpec, type ProjectPart } from './motion-spec';

/** A walk planned where that keeps nobody waiting: plain data, of which `walkMotion` makes what is shown. */
export interface PlannedWalk {
  readonly facts: MotionFacts;
  readonly faults: readonly PrintFault[];
  readonly stretch: MotionStretch;
  /** Why what was asked for cannot be walked, in words; then it is something plain. */
  readonly trouble: string | null;
}

type WalkSpec = Extract<MotionSpec, { kind: 'plan' }>;

/** A few steps straight on in a walk's own gait: what is shown where there is nothing else. */
export const plainPart = (spec: WalkSpec, part: ProjectPart): ProjectPart => {
  const { name, body, gait } = part.plans[spec.plan]!;
  return { ...part, plans: { ...part.plans, [spec.plan]: { ...defaultPlan(), gait, name, body, steps: 2 } satisfies PlanSpec } };
};

/** What of the walk is told at once about a time: so many seconds before it and after. */
const ABOUT_S = [0.75, 2.5] as const;

/** Plans a walk and looks at it around a time, s. One that cannot be walked is something plain, with the reason in words. */
export function plannedWalk(spec: WalkSpec, part: ProjectPart, at: number, built: (part: ProjectPart) => Built): PlannedWalk {
  try {
    return told(built(part), at, null);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return told(built(plainPart(spec, part)), at, error.message.replace(/^\w+: /, ''));
  }
}

function told({ motion }: Built, at: number, trouble: string | null): PlannedWalk {
  const time = Math.min(at, motion.duration);
  return { facts: factsOf(motion), faults: printFaults(motion), stretch: stretchOf(motion, time - ABOUT_S[0], time + ABOUT_S[1]), trouble };
}

/** A planned walk as it is shown: its figure, its ground, the gait it sets out in. */
export function walkMotion(spec: WalkSpec, part: ProjectPart, planned: PlannedWalk): Omit<Built, 'asked' | 'motion'> & { readonly motion: SampledMotion } {
  const body = bodyOf(bodySpecFor(spec, part));
  const plan = part.plans[spec.plan]!;
  const gait = fitted(part.gaits[plan.gait]!, body.legLength);
  return { motion: sampledMotion(planned.facts, body, groundOf(plan.ground, part.bodies), planned.stretch), body, gait };
}

const fits = new WeakMap<GaitSpec, { readonly legs: number; readonly gait: GaitSpec }>();

/** A gait fitted to legs; the same one until either changes. */
function fitted(spec: GaitSpec, legs: number): GaitSpec {
  const known = fits.get(spec);
  if (known?.legs === legs) return known.gait;
  const gait = fitGait(spec, legs);
  fits.set(spec, { legs, gait });
  return gait;
}

const grounds = new WeakMap<GroundSpec, { readonly bodies: ProjectPart['bodies']; readonly ground: Ground }>();

/** The ground of a plan; made once as long as nothing on it changes. */
function groundOf(spec: GroundSpec, bodies: ProjectPart['bodies']): Ground {
  const known = grounds.get(spec);
  if (known?.bodies === bodies) return known!.ground;
  const ground = buildGround(spec, sizesOf(bodies ? { bodies } : {}));
  grounds.set(spec, { bodies, ground });
  return ground;
}

/** Builds for who plans while it is being changed. */
export const builtQuickly =
  (spec: WalkSpec) =>
  (part: ProjectPart): Built =>
    build(spec, part, undefined, true);
