import type { Role } from '@/core/body/roles';
import type { BodySpec } from '@/core/body/spec';
import type { CheckResult } from '@/core/check/check';
import type { Carrier } from '@/core/clip/carried';
import type { ClipContact } from '@/core/clip/clip';
import type { Up } from '@/core/clip/in-world';
import type { NoWay, WayFound, WayQuery } from '@/core/course/find-way';
import type { ShownSkin } from '@/core/formats/gltf/read';
import type { ExportFormat } from '@/core/formats/format';
import type { GroundSpec } from '@/core/ground/spec';
import type { Note } from '@/core/handover/notes';
import type { HandoverSpec } from '@/core/handover/spec';
import type { ClipReport } from '@/core/measure/report';
import type { MotionStretch } from '@/core/motion/sampled';
import type { PlannedWalk } from '@/core/project/planned-walk';
import type { MotionSpec, ProjectPart } from '@/core/project/motion-spec';
import type { Part } from '@/core/sheet/silhouette';
import type { ClipSpec } from '@/core/travel/clip-spec';
import type { ShownClip } from '@/core/travel/clip-view';
import type { LoopCandidate } from '@/core/travel/find-loops';
import type { TravelFacts } from '@/core/travel/kinds';
import type { MeanStride } from '@/core/travel/mean-stride';
import type { Mended } from '@/core/travel/repair';
import type { TakenGait } from '@/core/travel/take-gait';
import type { Drag } from '@/core/travel/drags';
import type { Moved } from '@/core/travel/moved';
import type { ContactSlide } from '@/core/travel/slide';
import type { LeadCastSpec, LedPiece, PieceAsk } from '@/core/steps/lead-piece';

/** How hard knees (°/s²) and hips (m/s², up) are moved, at 240 looks a second, and what looks smooth. */
export interface Jolts {
  readonly knee: number;
  readonly kneeBar: number;
  readonly hips: readonly [down: number, up: number];
  readonly hipsBar: readonly [down: number, up: number];
}

/** A clip as it was asked for, and what was found of it; lengths in m. */
export interface ClipAnswer extends ShownClip {
  /** Contacts as they are locked; those that count are `contacts`. */
  readonly held: readonly ClipContact[];
  /** The first frame that belongs to the motion: 1 behind a rest pose. */
  readonly first: 0 | 1;
  readonly inPlace: boolean;
  /** Frames of the file, whatever is cut out of it. */
  readonly wholeFrames: number;
  /** Whether its feet stand as exactly as made ones do. */
  readonly made: boolean;
  readonly unit: number;
  readonly up: Up;
  /** Joints as the file names them, and which were given roles by guess alone. */
  readonly unsure: readonly Role[];
  readonly doubts: readonly string[];
  /** The travel under it, and what of that is kept. */
  readonly facts: TravelFacts;
  readonly kept: TravelFacts;
  /** Slide of each contact before and after its feet were locked. */
  readonly before: readonly ContactSlide[];
  readonly after: readonly ContactSlide[];
  /** Contacts in which a lock leaves the foot dragged. */
  readonly drags: readonly Drag[];
  /** How far the lock moved hips, ankles and knees; null without one. */
  readonly moved: Moved | null;
  /** What mending it changed. */
  readonly mended: readonly Mended[];
  /** What is given away with the answer instead of copied. */
  readonly transfer: readonly ArrayBuffer[];
}

/** What the engine's worker can be asked; every request has an answer of the same name. */
export interface WorkerCalls {
  measure: {
    /** Measured at `rate`; notes tell frames of `played` a second. */
    request: { spec: MotionSpec; part: ProjectPart; rate: number; played?: number };
    answer: { report: ClipReport; notes: Note[]; jolts: Jolts };
  };
  set: {
    request: { set: string; part: ProjectPart; rate: number; played?: number };
    answer: { members: { directionDeg: number; twin: boolean; speed: number; travel: number; slideMm: number; betweenMm: number; notes: Note[] }[] };
  };
  pack: {
    /** The motions and clips that a hand-over chose, and how they are written. */
    request: { motions: readonly MotionSpec[]; part: ProjectPart; handover: HandoverSpec & { readonly rate: number }; clips: readonly ClipSpec[] };
    answer: { name: string; mime: string; bytes: Uint8Array; files: { name: string; size: number; check: CheckResult; notes: readonly Note[] }[] };
  };
  way: {
    /** A way over a ground; how much room the bodies on it take, by what the ground calls them. */
    request: { ground: GroundSpec; bodies: Readonly<Record<string, { radius: number; height: number }>> } & Omit<WayQuery, 'ground'>;
    answer: WayFound | NoWay;
  };
  bring: {
    /** A file by the hash of its bytes; read once, then known. */
    request: { hash: string; name: string; bytes: Uint8Array };
    answer: { clips: { name: string; frames: number; rate: number; skeleton: string }[]; oddities: readonly string[] };
  };
  clip: {
    /** A clip of a file that was brought in before. */
    request: { spec: ClipSpec };
    answer: ClipAnswer;
  };
  clipLook: {
    /** A clip as it came, before anything is found of it: to be looked at meanwhile. */
    request: { spec: ClipSpec };
    answer: ShownClip & { transfer: readonly ArrayBuffer[] };
  };
  loops: {
    request: { spec: ClipSpec };
    answer: LoopCandidate[];
  };
  clipFile: {
    /** On its own skeleton, or on a body of ours in a format; or as a table. */
    request: { spec: ClipSpec; format: 'own' | 'csv' | ExportFormat['id']; body?: BodySpec; carrier: Carrier | null };
    /** `slide`: what a foot slides on that body, m; null on its own. `drags`: what a lock leaves, in words. `contacts`: the contacts file that belongs to a BVH. */
    answer: { bytes: Uint8Array; mime: string; slide: number | null; drags: string | null; contacts?: Uint8Array };
  };
  clipFilm: {
    /** A few pictures of a clip as silhouettes, over so many seconds. */
    request: { spec: ClipSpec };
    /** `oddities`: what is odd about its file, as that it breaks off, in words. */
    answer: { pictures: readonly (readonly Part[])[]; stature: number; seconds: number; oddities: readonly string[] };
  };
  clipSkin: {
    /** The skins of a clip's file, in metres, on its own skeleton. */
    request: { spec: ClipSpec };
    answer: { skins: readonly ShownSkin[]; transfer: readonly ArrayBuffer[] };
  };
  takeGait: {
    /** A gait fitted to the strides of a clip as it is corrected. */
    request: { spec: ClipSpec };
    answer: TakenGait & Omit<MeanStride, 'looks'>;
  };
  walk: {
    /** A walk planned and looked at around a time, s; `quickly`: as it is shown while it is being changed. */
    request: { spec: Extract<MotionSpec, { kind: 'plan' }>; part: ProjectPart; at: number; quickly: boolean };
    answer: PlannedWalk & { transfer: readonly ArrayBuffer[] };
  };
  stretch: {
    /** More of the poses of a walk that can be walked, from one time (s) to another. */
    request: { spec: Extract<MotionSpec, { kind: 'plan' }>; part: ProjectPart; from: number; to: number };
    answer: MotionStretch & { transfer: readonly ArrayBuffer[] };
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

/** Work that goes on bit by bit, with progress now and then. Who has waited enough asks no further. */
export type Work<T> = AsyncGenerator<Progress | undefined, T>;

/** A request; of those in one lane only the newest is answered. Or the end of whatever runs in a lane. */
export type ToWorker =
  | { [K in WorkerCall]: { readonly id: number; readonly lane: string; readonly call: K; readonly request: WorkerCalls[K]['request'] } }[WorkerCall]
  | { readonly lane: string; readonly cancel: true };
export type WorkerRequest = Extract<ToWorker, { call: WorkerCall }>;
export type WorkerAnswer = WorkerCalls[WorkerCall]['answer'];
export type FromWorker =
  { readonly id: number; readonly progress: Progress } | { readonly id: number; readonly answer: unknown } | { readonly id: number; readonly error: string };
