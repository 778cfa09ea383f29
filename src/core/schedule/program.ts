import type { Body } from '../body/body';
import type { Side } from '../body/roles';
import { straightCourse, type Course } from '../course/course';
import type { GaitSpec } from '../gait/spec';
import { levelGround, type Ground } from '../ground/ground';
import { constantTrack, type TimeTrack } from './along';
import { createFaces, facedGaits, movingFaces, type Faces, type Facing } from './facing';
import type { GaitTrack } from './gait-track';
import type { Track } from '../math/track';

/** Where and when a print is held, whatever its course does: m, rad, s; null: as it comes. `at`: place of the body on the course, where it is known. */
export interface HeldPlace {
  readonly x: number;
  readonly z: number;
  readonly heading: number | null;
  readonly time: number | null;
  readonly at?: number;
}

/** What the user's hand changes about a step, in the frame of the course: metres along it and to its left, radians to the left. */
export interface PrintEdit {
  /** Step it belongs to, from 1. */
  readonly step: number;
  readonly along: number;
  readonly aside: number;
  readonly turn: number;
  /** Lands so much (s) later, which its neighbours share; both feet stay so much longer after it. */
  readonly later: number;
  readonly longer: number;
  /** So many times as long as its gait has it is it under way. */
  readonly tempo: number;
  /** A gait this step has for itself. */
  readonly gait: GaitSpec | null;
  /** Whether it is put in between its neighbours, and how many steps are left out before it. */
  readonly added: boolean;
  readonly leftOut: number;
  readonly held: HeldPlace | null;
}

/** An edit that changes nothing. */
export const plainEdit = (step: number): PrintEdit => ({
  step,
  along: 0,
  aside: 0,
  turn: 0,
  later: 0,
  longer: 0,
  tempo: 1,
  gait: null,
  added: false,
  leftOut: 0,
  held: null,
});

/** How a walk's ends are played, 1 each as balance and habit have them: lean for speed gained and lost, settling and breath, time of standing. */
interface Ends {
  readonly lean: number;
  readonly settle: number;
  readonly standing: number;
}
export const PLAIN_ENDS: Ends = { lean: 1, settle: 1, standing: 1 };

/** A rest of so many seconds at a distance (m) along the course. */
interface Halt {
  readonly at: number;
  readonly rest: number;
}

/** Share of one channel's swing over time. */
export interface ChannelAmount {
  readonly path: string;
  readonly amount: TimeTrack;
}

/** A print freed from the course. `at`: where (m of the program's course) the body is over it. */
export interface FreePrint {
  readonly side: Side;
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  readonly at: number;
  /** When it lands, s; whether the walk rests behind it. */
  readonly lands: number;
  readonly rests: boolean;
  readonly gait: GaitSpec | null;
}

/** Prints that are walked as they lie, and where both feet stand at first; the program's course goes by them. */
export interface FreePrints {
  readonly stands: readonly [Stand, Stand];
  readonly prints: readonly FreePrint[];
}
type Stand = Pick<FreePrint, 'x' | 'z' | 'heading'>;

/** What is to be walked, as data for `plan`: a gait on a body, over a course on a ground, endlessly or from standing to standing. */
export interface Program {
  readonly body: Body;
  /** The gait walked at first. */
  readonly gait: GaitSpec;
  readonly ground: Ground;
  readonly course: Course;
  /** Endless: one stride that repeats. Otherwise so many steps, or as many as the course takes (null), `first` foot first. */
  readonly steps: 'endless' | { readonly count: number | null; readonly first: Side };
  readonly gaits: GaitTrack;
  /** Where the body looks; null: along the course. */
  readonly faces: Faces | null;
  /** Speed (m/s) along the course; null: the gait's own. 0 is rest. */
  readonly pace: Track | null;
  /** Where to be when (m of the course over time), instead of a pace. */
  readonly place: Track | null;
  /** How much of a change of pace the length of steps takes, 0 … 1; the cadence takes the rest. */
  readonly lengthShare: number;
  readonly halts: readonly Halt[];
  /** Share of the gait's swings over time, 0 … 1; feet are not touched by it. */
  readonly amount: TimeTrack;
  /** How much single channels have of their own swing over time, by the path of each. */
  readonly channels: readonly ChannelAmount[];
  readonly edits: readonly PrintEdit[];
  /** Prints to be walked as they lie, instead of those that course, tracks and edits make. */
  readonly free: FreePrints | null;
  readonly ends: Ends;
}

/** People who walk faster lengthen and quicken their steps alike. Common practice (walk ratio). */
const EVEN_SHARE = 0.5;

const one = (gait: GaitSpec): GaitTrack => ({ over: 'distance', keys: [{ at: 0, stretch: 0, gait }] });

/** A gait walked endlessly along a straight line in its own direction, facing +Z. */
export const cycleProgram = (gait: GaitSpec, body: Body, heading: number): Program => ({
  body,
  gait,
  ground: levelGround,
  course: straightCourse(heading),
  steps: 'endless',
  gaits: one(gait),
  faces: null,
  pace: null,
  place: null,
  lengthShare: EVEN_SHARE,
  halts: [],
  amount: constantTrack(1),
  channels: [],
  edits: [],
  free: null,
  ends: PLAIN_ENDS,
});

export type WalkMore = Partial<
  Pick<Program, 'course' | 'ground' | 'amount' | 'edits' | 'free' | 'ends' | 'gaits' | 'pace' | 'place' | 'lengthShare' | 'halts' | 'channels'>
> & {
  /** Where the body looks, if not along the course; prints that are free tell that themselves. */
  readonly facing?: Facing | null;
};

/**
 * A walk of so many steps along a course (null: to its end), facing along it. Without more it goes straight ahead (+Z) on
 * level ground.
 */
export function walkProgram(gait: GaitSpec, body: Body, count: number | null, first: Side, more: WalkMore = {}): Program {
  const { facing, ...program } = more;
  const plain = one(aheadGait(gait));
  const gaits = more.gaits ? { ...more.gaits, keys: more.gaits.keys.map((k) => ({ ...k, gait: aheadGait(k.gait) })) } : plain;
  const course = more.course ?? straightCourse(0);
  const faces = facing && Number.isFinite(course.length) ? (more.free ? movingFaces(course) : createFaces(course, facing)) : null;
  const faced = faces ? facedGaits(gaits, course, faces) : gaits;
  return {
    ...cycleProgram(faces ? faced.keys[0]!.gait : plain.keys[0]!.gait, body, 0),
    ...program,
    gaits: faced,
    faces,
    steps: { count, first },
  };
}

/** The gait as a walk along a course takes it: ahead, whatever direction it was made for. */
function aheadGait(gait: GaitSpec): GaitSpec {
  const { timing, direction } = gait;
  if (timing.strideLength >= 0 && Object.values(direction).every((v) => v === 0)) return gait;
  const forward = { ...timing, strideLength: Math.abs(timing.strideLength), speed: Math.abs(timing.speed) };
  return { ...gait, timing: forward, direction: { travel: 0, hips: 0, feet: 0, chest: 0 } };
}
