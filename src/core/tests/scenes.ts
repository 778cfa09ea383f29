import type { Body } from '../body/body';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { buildCourse } from '../course/build';
import type { CourseSpec } from '../course/spec';
import type { GaitSpec } from '../gait/spec';
import { buildGround } from '../ground/build';
import type { GroundFeature } from '../ground/spec';
import { GRAVITY } from '../math/scalar';
import { measureFooting, type Footing } from '../measure/footing';
import type { Motion } from '../motion/motion';
import { walk } from '../motion/solved';
import type { WalkMore } from '../schedule/program';

const DEG = Math.PI / 180;
const at = (x: number, z: number, headingDeg = 0) => ({ id: 'f', name: 'f', x, z, headingDeg });

const features = (...list: GroundFeature[]) => buildGround({ format: 'nimbret.ground', version: 1, features: list });
const course = (spec: CourseSpec['knots'], gait: GaitSpec) => buildCourse({ knots: spec }, Math.abs(gait.timing.strideLength) / 2);
const straight = (length: number, gait: GaitSpec) =>
  course(
    [
      { x: 0, z: 0, by: 'smooth' },
      { x: 0, z: length, by: 'straight' },
    ],
    gait,
  );
/** Radius (m) from which half a circle is long enough. */
const WIDE_M = 5;
const circle = (radius: number, gait: GaitSpec) =>
  // Straight in, round, straight out: a wide one half round, others whole.
  course(
    [
      { x: 0, z: 0, by: 'smooth' },
      { x: 0, z: 3, by: 'straight' },
      { x: 2 * radius, z: 3, by: 'circle' },
      ...(radius > WIDE_M
        ? [{ x: 2 * radius, z: 0, by: 'straight' as const }]
        : [
            { x: 0, z: 3, by: 'circle' as const },
            { x: 0, z: 6, by: 'straight' as const },
          ]),
    ],
    gait,
  );
/** Long enough for a gait to come to its speed and back. */
const roomFor = (gait: GaitSpec) => Math.max(8, 5 * Math.abs(gait.timing.strideLength));
const slope = (angleDeg: number, headingDeg: number): GroundFeature =>
  headingDeg === 0
    ? { kind: 'slope', ...at(0, 2.5), length: 1000, breadth: 1000, angleDeg }
    : { kind: 'slope', ...at(-300, 0, headingDeg), length: 1000, breadth: 1000, angleDeg };
const stairs = (riser: number): GroundFeature => ({ kind: 'stairs', ...at(0, 3), riser, tread: 0.29, count: 12, breadth: 4 });
const stonesApart = (apart: number): GroundFeature => {
  const n = Math.floor(5 / apart);
  return {
    kind: 'stones',
    ...at(0, 2.6),
    length: n * apart + 0.5 * apart,
    breadth: 3,
    depth: 0.3,
    stones: Array.from({ length: n }, (_, i) => ({ x: 0, z: (i + 0.6) * apart, radius: 0.22, height: (i % 3) * 0.03 - 0.03 })),
  };
};

/** A place to walk at: what a gait is given to do there. */
export interface Scene {
  readonly key: string;
  /** The bar for joints' accelerations against the level cycle's. */
  readonly times: 3 | 5;
  readonly field?: boolean;
  make(gait: GaitSpec, others: (key: string) => GaitSpec): { readonly more: WalkMore; readonly count: number | null };
}

const scene = (key: string, times: 3 | 5, make: Scene['make'], field = false): Scene => ({ key, times, make, field });

export const SCENES: readonly Scene[] = [
  scene('S-curve', 3, (g) => ({
    count: null,
    more: {
      course: course(
        [
          { x: 0, z: 0, by: 'smooth' },
          { x: 0, z: 4, by: 'smooth' },
          { x: 2.5, z: 8, by: 'smooth' },
          { x: -1, z: 13, by: 'smooth' },
          { x: 0, z: 18, by: 'smooth' },
        ],
        g,
      ),
    },
  })),
  ...[2, 4, 10].map((radius) => scene(`circle of ${radius} m`, 3, (g) => ({ count: null, more: { course: circle(radius, g) } }))),
  ...[5, 10, 15].flatMap((angle) => [
    scene(`up ${angle}°`, 3, (g) => ({ count: null, more: { course: straight(roomFor(g) + 3, g), ground: features(slope(angle, 0)) } })),
    scene(`down ${angle}°`, 3, (g) => ({ count: null, more: { course: straight(roomFor(g) + 3, g), ground: features(slope(-angle, 0)) } })),
    scene(`across ${angle}°`, 3, (g) => ({ count: null, more: { course: straight(roomFor(g), g), ground: features(slope(angle, 90)) } })),
  ]),
  scene('stairs up', 5, (g) => ({ count: null, more: { course: straight(10, g), ground: features(stairs(0.17)) } })),
  scene('stairs down', 5, (g) => ({ count: null, more: { course: straight(10, g), ground: features(stairs(-0.17)) } })),
  ...[0.7, 0.9, 1.1].map((part) =>
    scene(`stones at ${part} steps`, 5, (g) => ({
      count: null,
      more: { course: straight(11, g), ground: features(stonesApart((part * Math.abs(g.timing.strideLength)) / 2)) },
    })),
  ),
  scene(
    'rough field',
    3,
    (g) => ({
      count: null,
      more: {
        course: straight(12, g),
        ground: features({ kind: 'rough', ...at(0, -4), length: 24, breadth: 12, amount: 0.04, wave: 2, seed: 7 }),
      },
    }),
    true,
  ),
  scene('walk, run, walk', 3, (g, other) => ({
    count: null,
    more: {
      course: straight(24, g),
      gaits: {
        over: 'distance',
        keys: [
          { at: 0, stretch: 0, gait: g },
          { at: 7, stretch: 3, gait: other('run') },
          { at: 15, stretch: 3, gait: g },
        ],
      },
    },
  })),
  scene('stop and go', 5, (g) => ({ count: null, more: { course: straight(roomFor(g) * 2, g), halts: [{ at: roomFor(g), rest: 2 }] } })),
  ...[90, 180].map((angle) =>
    scene(`turn of ${angle}°`, 5, (g) => ({
      count: null,
      more: {
        course: course(
          [
            { x: 0, z: 0, by: 'smooth' },
            { x: 0, z: roomFor(g), by: 'straight', turnDeg: angle },
            { x: roomFor(g) * Math.sin(angle * DEG), z: roomFor(g) + roomFor(g) * Math.cos(angle * DEG), by: 'straight' },
          ],
          g,
        ),
      },
    })),
  ),
];

export const sceneWalk = (s: Scene, gait: GaitSpec, body: Body, others: (key: string) => GaitSpec): Motion => {
  const { count, more } = s.make(gait, others);
  return walk(s.key, gait, body, count, 0, more);
};

const RATE = 240;

/** Largest linear acceleration (m/s²) of each joint, as central second differences at 240 a second, and when. */
function jointPeaks(motion: Motion, from = 0, to = motion.duration): { readonly peak: Float64Array; readonly when: Float64Array } {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const n = world.positions.length;
  const peak = new Float64Array(n / 3),
    when = new Float64Array(n / 3);
  let [a, b, c] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  const count = Math.ceil((to - from) * RATE);
  for (let i = 0; i <= count; i++) {
    motion.pose(from + i / RATE, pose, 0);
    forwardKinematics(skeleton, pose, 0, world);
    [a, b, c] = [b, c, a];
    c.set(world.positions);
    if (i < 2) continue;
    for (let j = 0; j < n; j += 3) {
      const acceleration = Math.hypot(a[j]! - 2 * b[j]! + c[j]!, a[j + 1]! - 2 * b[j + 1]! + c[j + 1]!, a[j + 2]! - 2 * b[j + 2]! + c[j + 2]!) * RATE * RATE;
      if (acceleration > peak[j / 3]!) {
        peak[j / 3] = acceleration;
        when[j / 3] = from + (i - 1) / RATE;
      }
    }
  }
  return { peak, when };
}

/** How a walk does against its level cycles. */
export interface SceneReport extends Footing {
  /** Largest quotient of a joint's largest acceleration and that of the level cycles, the joint and when. */
  readonly times: number;
  readonly joint: string;
  readonly at: number;
  readonly tooFarMm: number;
}

export function meterScene(motion: Motion, levels: readonly Motion[], rate = RATE): SceneReport {
  const cycles = levels.map((m) => jointPeaks(m).peak);
  const { peak, when } = jointPeaks(motion);
  let [times, joint, moment] = [0, '', 0];
  // The root is where the travel is, no joint: in a level cycle it has no acceleration at all.
  peak.forEach((p, j) => {
    if (j === 0) return;
    const own = Math.max(...cycles.map((c) => c[j]!), GRAVITY / 10);
    if (p / own > times) [times, joint, moment] = [p / own, motion.body.skeleton.names[j]!, when[j]!];
  });
  return { ...measureFooting(motion, rate), times, joint, at: moment, tooFarMm: motion.survey().tooFar * 1000 };
}
