import { bodyOf, type Body } from '../body/body';
import { SHIPPED_BODIES, type BodySpec } from '../body/spec';
import type { BodySize } from '../ground/build';
import type { GroundSpec } from '../ground/spec';
import type { SetSpec } from '../directions/spec';
import { setMembers } from '../directions/set';
import { fitGait } from '../gait/fit';
import type { GaitSpec } from '../gait/spec';
import { fitToFrames } from '../gait/timing';
import { own } from '../math/own';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { FROM_ONE } from '../steps/frame-numbers';
import type { PlanSpec } from '../steps/plan';
import { planMotion } from '../steps/motion';
import { otherGaits } from '../steps/names';

/** What motion is meant, by the ids of the project's items. */
export type MotionSpec =
  | { readonly kind: 'cycle'; readonly gait: string }
  | { readonly kind: 'plan'; readonly plan: string }
  | { readonly kind: 'member'; readonly set: string; readonly directionDeg: number; readonly twin: boolean };

/** The part of a project that a motion is made from: one body, and items by id. Gaits are stored for their own legs. */
export interface ProjectPart {
  readonly body: BodySpec;
  /** Bodies that walks and their grounds name. */
  readonly bodies?: Readonly<Record<string, BodySpec>>;
  readonly gaits: Readonly<Record<string, GaitSpec>>;
  readonly plans: Readonly<Record<string, PlanSpec>>;
  readonly sets: Readonly<Record<string, SetSpec>>;
}

/** How a motion's pictures are numbered: a walk's as its shot says, others from 1. */
export const shotIn = (spec: MotionSpec, { plans }: Pick<ProjectPart, 'plans'>) => (spec.kind === 'plan' ? plans[spec.plan]!.shot : FROM_ONE);

/** Pictures a motion is to be sampled in: a loop then lasts a whole number of them. */
export interface FrameFit {
  readonly rate: number;
  readonly hold?: number;
}

/** A motion with the gait as it was asked for and as it is walked: fitted to the body, then to whole frames. */
export interface Built {
  readonly motion: Motion;
  readonly body: Body;
  readonly asked: GaitSpec;
  readonly gait: GaitSpec;
}

function item<T>(items: Readonly<Record<string, T>>, id: string, kind: string): T {
  const found = own(items, id);
  if (!found) throw new RangeError(`build: the project has no ${kind} ${id}`);
  return found;
}

/** Body a spec is for: a walk's own where it has one. */
export function bodySpecFor(spec: MotionSpec, part: ProjectPart): BodySpec {
  const named = spec.kind === 'plan' ? item(part.plans, spec.plan, 'plan').body : null;
  return (named !== null && own(part.bodies, named)) || part.body;
}

/** Room a standing body takes beside its middle, parts of its stature. */
const STANDING_RADIUS = 0.16;

/** How much room bodies of a part take, by id or, for the shipped ones, by key. */
export const sizesOf =
  (part: Pick<ProjectPart, 'bodies'>): BodySize =>
  (id) => {
    const spec = own(part.bodies, id) ?? own<BodySpec>(SHIPPED_BODIES, id);
    return spec ? { radius: STANDING_RADIUS * spec.stature, height: spec.stature } : null;
  };

/** How much room the bodies take that a ground names. */
export const bodyRooms = (part: ProjectPart, { features }: GroundSpec): Record<string, { radius: number; height: number }> =>
  Object.fromEntries(
    features.flatMap((f) => {
      const size = f.kind === 'bystander' ? sizesOf(part)(f.body) : null;
      return f.kind === 'bystander' && size ? [[f.body, size] as const] : [];
    }),
  );

/** The gait a spec walks, fitted to the part's body. Throws RangeError where an item it names is missing. */
function gaitOf(spec: MotionSpec, part: ProjectPart, body: Body): GaitSpec {
  const fitted = (id: string) => fitGait(item(part.gaits, id, 'gait'), body.legLength);
  if (spec.kind === 'cycle') return fitted(spec.gait);
  if (spec.kind === 'plan') return fitted(item(part.plans, spec.plan, 'plan').gait);
  const set = item(part.sets, spec.set, 'set');
  const member = setMembers(set, fitted(set.gait)).find((m) => m.directionDeg === spec.directionDeg && m.twin === spec.twin);
  if (!member) throw new RangeError(`build: set ${spec.set} has no member at ${spec.directionDeg}°`);
  return member.gait;
}

/**
 * Makes the motion a spec means: the one way for page, worker and command line. Nothing is solved yet; one body spec, one body.
 * `quickly`: a walk as it is looked at while it is being changed.
 */
export function build(spec: MotionSpec, part: ProjectPart, fit?: FrameFit, quickly = false): Built {
  const body = bodyOf(bodySpecFor(spec, part));
  const asked = gaitOf(spec, part, body);
  const fitted = (g: GaitSpec) => (fit ? fitToFrames(g, fit.rate, fit.hold) : g);
  const gait = fitted(asked);
  if (spec.kind !== 'plan') return { motion: cycle(gait, body), body, asked, gait };
  const plan = item(part.plans, spec.plan, 'plan');
  const motion = planMotion(plan, body, {
    gait: (id) => (id === plan.gait ? gait : fitted(fitGait(item(part.gaits, id, 'gait'), body.legLength))),
    bodySize: sizesOf(part),
    quickly,
  });
  return { motion, body, asked, gait };
}

/** What of a part a spec uses, as text: equal texts mean equal motions. */
export function motionKey(spec: MotionSpec, part: ProjectPart, fit?: FrameFit): string {
  const plan = spec.kind === 'plan' ? part.plans[spec.plan] : null,
    set = spec.kind === 'member' ? part.sets[spec.set] : null;
  const gait = spec.kind === 'cycle' ? spec.gait : (plan ?? set)?.gait;
  const gaits = plan ? otherGaits(plan).map((id) => part.gaits[id] ?? null) : null;
  return JSON.stringify([
    spec.kind,
    spec.kind === 'member' ? [spec.directionDeg, spec.twin] : null,
    plan,
    set,
    gait ? part.gaits[gait] : null,
    gaits,
    part.body,
    plan ? (part.bodies ?? null) : null,
    fit ?? null,
  ]);
}

/** A part of one gait under the id `gait`, for who has no project. */
export const partOf = (
  body: BodySpec,
  gait: GaitSpec,
  more: Partial<Pick<ProjectPart, 'plans' | 'sets' | 'bodies'>> & { readonly gaits?: ProjectPart['gaits'] } = {},
): ProjectPart => ({
  body,
  plans: {},
  sets: {},
  ...more,
  gaits: { ...more.gaits, gait },
});
