import type { BodySpec } from '@/core/body/spec';
import type { CheckResult } from '@/core/check/check';
import type { SetSpec } from '@/core/directions/spec';
import type { GaitSpec } from '@/core/gait/spec';
import type { HandoverSpec } from '@/core/handover/spec';
import type { ClipReport } from '@/core/measure/report';
import type { PlanSpec } from '@/core/steps/plan';

/** What the engine's worker can be asked; every request has an answer of the same name. */
export interface WorkerCalls {
  measure: {
    request: { body: BodySpec; gait: GaitSpec; motion: { kind: 'cycle' } | { kind: 'plan'; steps: number; firstFoot: 'left' | 'right' }; rate: number };
    answer: { report: ClipReport; notes: string[] };
  };
  set: {
    request: { body: BodySpec; gait: GaitSpec; set: SetSpec; rate: number };
    answer: { members: { directionDeg: number; twin: boolean; speed: number; travel: number; slideMm: number; betweenMm: number; notes: string[] }[] };
  };
  pack: {
    request: { body: BodySpec; gait: GaitSpec; plan: PlanSpec; planGait: GaitSpec; set: SetSpec; setGait: GaitSpec; handover: HandoverSpec };
    answer: { name: string; mime: string; bytes: Uint8Array; files: { name: string; size: number; check: CheckResult; notes: readonly string[] }[] };
  };
}
export type WorkerCall = keyof WorkerCalls;

export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly name: string;
}

export type ToWorker = { [K in WorkerCall]: { readonly id: number; readonly call: K; readonly request: WorkerCalls[K]['request'] } }[WorkerCall];
export type FromWorker =
  { readonly id: number; readonly progress: Progress } | { readonly id: number; readonly answer: unknown } | { readonly id: number; readonly error: string };
