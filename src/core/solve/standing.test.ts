import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Motion } from '../motion/motion';
import { walk } from '../motion/solved';
import { PLAIN_ENDS } from '../schedule/program';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';

/** Looks a second. */
const RATE = 100;
const STYLES = ['walk', 'run', 'sneak', 'old', 'march', 'hop'];

interface Places {
  readonly at: (i: number) => Float64Array;
  readonly count: number;
}

/** World places of all joints of a motion, look by look; the root is no joint of the figure. */
function places(motion: Motion): Places {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const all: Float64Array[] = [];
  for (let i = 0; i <= motion.duration * RATE; i++) {
    motion.pose(i / RATE, pose, 0);
    forwardKinematics(skeleton, pose, 0, world);
    all.push(world.positions.slice(3));
  }
  return { at: (i) => all[i]!, count: all.length };
}

/** Longest time (s) for which no joint moves faster than 1 mm/s. */
function stillest(motion: Motion): number {
  const { at, count } = places(motion);
  let [run, most] = [0, 0];
  for (let i = 1; i < count; i++) {
    const [a, b] = [at(i - 1), at(i)];
    let fastest = 0;
    for (let k = 0; k < a.length; k += 3) fastest = Math.max(fastest, Math.hypot(b[k]! - a[k]!, b[k + 1]! - a[k + 1]!, b[k + 2]! - a[k + 2]!) * RATE);
    run = fastest < 1e-3 ? run + 1 / RATE : 0;
    most = Math.max(most, run);
  }
  return most;
}

/** Forward lean (rad) of the line from hips to neck, from upright. */
function lean(motion: Motion, t: number): number {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  motion.pose(t, pose, 0);
  forwardKinematics(skeleton, pose, 0, world);
  const [h, n] = [JOINT.hips * 3, JOINT.neck * 3];
  const p = world.positions;
  return Math.atan2(p[n + 2]! - p[h + 2]!, p[n + 1]! - p[h + 1]!);
}

describe('a figure that stands', () => {
  it.each(BODY_KEYS)('%s is never dead: no span over 0.3 s with every joint slower than 1 mm/s', (key) => {
    const body = shippedBody(key);
    for (const style of STYLES) expect(stillest(walk('w', presetFor(style, body), body, 4, 0)), style).toBeLessThanOrEqual(0.3);
  });

  it('breathes 12 to 16 times a minute, 3 to 8 mm at the chest (common practice), and not at all with settling at 0', () => {
    const body = shippedBody('marlo');
    const [alive, still] = [1, 0].map((settle) => places(walk('w', presetFor('walk', body), body, 2, 0, { ends: { ...PLAIN_ENDS, settle, standing: 3 } }))) as [
      Places,
      Places,
    ];
    const chest = (of: Places, i: number, k: number) => of.at(i)[(JOINT.chest - 1) * 3 + k]!;
    // What breath adds, while it swings once to one side: half a breath.
    const adds = (i: number) => chest(alive, i, 2) - chest(still, i, 2);
    let end = 10;
    while (adds(end) * adds(end + 1) > 0) end++;
    const breaths = 60 / ((2 * end) / RATE);
    expect(breaths).toBeGreaterThanOrEqual(12);
    expect(breaths).toBeLessThanOrEqual(16);
    const reach = Math.max(...Array.from({ length: end }, (_, i) => Math.hypot(...[0, 1, 2].map((k) => chest(alive, i, k) - chest(still, i, k)))));
    // From one side to the other.
    expect(2 * reach).toBeGreaterThanOrEqual(0.003);
    expect(2 * reach).toBeLessThanOrEqual(0.008);
  });

  it('leans at least 3° into a run before it leaves', () => {
    const body = shippedBody('marlo');
    for (const style of ['run', 'sprint', 'jog']) {
      const motion = walk('w', presetFor(style, body), body, 8, 0);
      const leaves = Math.min(...motion.contacts.map((c) => c.to));
      expect(((lean(motion, leaves) - lean(motion, 0)) * 180) / Math.PI, style).toBeGreaterThanOrEqual(3);
    }
  });
});
