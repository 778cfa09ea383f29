import { straightSpec } from '../course/spec';
import { levelSpec } from '../ground/spec';

/** What a walk is where nothing is said of it: level ground, its gait's own pace, no rests, nothing moved by hand. */
export const plainWalk = () => ({
  gaits: [],
  body: null,
  facing: null,
  opens: null,
  closes: null,
  ground: levelSpec(),
  lean: 1,
  settle: 1,
  standing: 1,
  pace: null,
  place: null,
  lengthShare: 0.5,
  halts: [],
  amount: null,
  channels: [],
  belt: null,
  clock: null,
  edits: [],
  free: null,
  shot: { firstFrame: 1, from: null, to: null },
});

/** Length (m) of the course that an older plan's straight way is drawn as; its steps go on straight beyond it. */
const OLD_COURSE_M = 8;

/** Brings a plan of version 1, so many steps straight ahead on level ground, to version 2. Works on parsed JSON of any shape; what is no such plan passes through untouched. */
export function upgradePlan(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || (json as { format?: unknown }).format !== 'nimbret.plan') return json;
  const old = json as Record<string, unknown>;
  if (old.version !== 1) return json;
  return { ...plainWalk(), course: straightSpec(OLD_COURSE_M), ...old, version: 2 };
}
