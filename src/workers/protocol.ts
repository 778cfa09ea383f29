import type { CheckResult } from '@/core/check/check';
import type { NoWay, WayFound, WayQuery } from '@/core/course/find-way';
import type { GroundSpec } from '@/core/ground/spec';
import type { Note } from '@/core/handover/notes';
import type { HandoverSpec } from '@/core/handover/spec';
import type { ClipReport } from '@/core/measure/report';
import type { MotionSpec, ProjectPart } from '@/core/project/motion-spec';
import type { LeadCastSpec, LedPiece, PieceAsk } from '@/core/steps/lead-piece';

/** How hard knees (°/s²) and hips (m/s², up) are moved, at 240 looks a second, and what looks smooth. */
export interface Jolts {
  readonly knee: number;
  readonly kneeBar: number;
  readonly hips: readonly [down: number, up: number];
  readonly hipsBar: readonly [down: number, up: number];
}

/** What the engine's worker can be asked; every request has an answer of the same name. */
export interface WorkerCalls {
  measure: {
    request: { spec: MotionSpec; part: ProjectPart; rate: number };
    answer: { report: ClipReport; notes: Note[]; jolts: Jolts };
  };
  set: {
    request: { set: string; part: ProjectPart; rate: number };
    answer: { members: { directionDeg: number; twin: boolean; speed: number; travel: number; slideMm: number; betweenMm: number; notes: Note[] }[] };
  };
  pack: {
    /** The cycle, the plan and the set a hand-over chooses from, by id. */
    request: { gait: string; plan: string; set: string; part: ProjectPart; handover: HandoverSpec & { readonly rate: number } };
    answer: { name: string; mime: string; bytes: Uint8Array; files: { name: string; size: number; check: CheckResult; notes: readonly Note[] }[] };
  };
  way: {
    /** A way over a ground; how much room the bodies on it take, by what the ground calls them. */
    request: { ground: GroundSpec; bodies: Readonly<Record<string, { radius: number; height: number }>> } & Omit<WayQuery, 'ground'>;
    answer: WayFound | NoWay;
  };
  lead: {
    /** A piece of a walk that is led; who is led by an id of the whole go. */
    request: { id: string; cast: LeadCastSpec; ask: PieceAsk };
    answer: LedPiece;
  };
}
export type WorkerCall = keyof WorkerCalls;

export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly name: string;
}

/** A request; of those in one lane only the newest is answered. Or the end of whatever runs in a lane. */
export type ToWorker =
  | { [K in WorkerCall]: { readonly id: number; readonly lane: string; readonly call: K; readonly request: WorkerCalls[K]['request'] } }[WorkerCall]
  | { readonly lane: string; readonly cancel: true };
export type WorkerRequest = Extract<ToWorker, { call: WorkerCall }>;
export type WorkerAnswer = WorkerCalls[WorkerCall]['answer'];
export type FromWorker =
  { readonly id: number; readonly progress: Progress } | { readonly id: number; readonly answer: unknown } | { readonly id: number; readonly error: string };
