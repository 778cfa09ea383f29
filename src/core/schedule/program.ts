import type { Body } from '../body/body';
import type { Side } from '../body/roles';
import { straightCourse, type Course } from '../course/course';
import type { GaitSpec } from '../gait/spec';
import { levelGround, type Ground } from '../ground/ground';
import { constantTrack, type TimeTrack } from './along';

/** A print moved by hand, in the frame of the course: metres along it and to its left, radians to the left. */
interface PrintEdit {
  /** Step it belongs to, from 1. */
  readonly step: number;
  readonly along: number;
  readonly aside: number;
  readonly turn: number;
}

/** How a walk's ends are played, 1 each as balance and habit have them: lean for speed gained and lost, settling and breath, time of standing. */
interface Ends {
  readonly lean: number;
  readonly settle: number;
  readonly standing: number;
}
export const PLAIN_ENDS: Ends = { lean: 1, settle: 1, standing: 1 };

/** What is to be walked, as data for `plan`: a gait on a body, over a course on a ground, endlessly or in so many steps. */
export interface Program {
  readonly body: Body;
  readonly gait: GaitSpec;
  readonly ground: Ground;
  readonly course: Course;
  /** Endless: one stride that repeats. Otherwise from standing to standing in `count` steps, `first` foot first. */
  readonly steps: 'endless' | { readonly count: number; readonly first: Side };
  /** Share of the gait's swings over time, 0 … 1; feet are not touched by it. */
  readonly amount: TimeTrack;
  readonly edits: readonly PrintEdit[];
  readonly ends: Ends;
}

/** A gait walked endlessly along a straight line in its own direction, facing +Z. */
export const cycleProgram = (gait: GaitSpec, body: Body, heading: number): Program => ({
  body,
  gait,
  ground: levelGround,
  course: straightCourse(heading),
  steps: 'endless',
  amount: constantTrack(1),
  edits: [],
  ends: PLAIN_ENDS,
});

/** A walk of so many steps along a course, facing along it. Without more it goes straight ahead (+Z) on level ground. */
export const walkProgram = (
  gait: GaitSpec,
  body: Body,
  count: number,
  first: Side,
  more: Partial<Pick<Program, 'course' | 'ground' | 'amount' | 'edits' | 'ends'>> = {},
): Program => ({
  body,
  gait: aheadGait(gait),
  ground: levelGround,
  course: straightCourse(),
  amount: constantTrack(1),
  edits: [],
  ends: PLAIN_ENDS,
  ...more,
  steps: { count, first },
});

/** The gait as a walk along a course takes it: ahead, whatever direction it was made for. */
function aheadGait(gait: GaitSpec): GaitSpec {
  const { timing, direction } = gait;
  if (timing.strideLength >= 0 && Object.values(direction).every((v) => v === 0)) return gait;
  const forward = { ...timing, strideLength: Math.abs(timing.strideLength), speed: Math.abs(timing.speed) };
  return { ...gait, timing: forward, direction: { travel: 0, hips: 0, feet: 0, chest: 0 } };
}
