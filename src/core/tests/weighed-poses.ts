import { createBody } from '../body/body';
import { SHIPPED_BODIES, type ShippedBody } from '../body/spec';
import { defaultSet } from '../directions/spec';
import { setMembers } from '../directions/set';
import { fitGait } from '../gait/fit';
import { PRESETS } from '../gait/presets';
import type { Motion } from '../motion/motion';
import { cycle, walk } from '../motion/solved';
import { seeded } from '../math/random';

/** Numbers of a pose of the canonical skeleton. */
const POSE = 98;
/** Times looked at in a cycle (a plan: twice as many), and sums each pose is weighed into. */
const SAMPLES = 6;
const WEIGHINGS = 5;

export interface WeighedMotion {
  readonly body: ShippedBody;
  readonly gait: string;
  /** 0: the cycle itself; then the other directions and twins of the set in order; or a plan of so many steps. */
  readonly kind: number | 'plan 9' | 'plan 4';
  readonly make: () => Motion;
  readonly times: readonly number[];
}

/** Every style on every body: cycle, eight directions with twins, two straight plans. In the order of the record. */
export function* weighedMotions(): Generator<WeighedMotion> {
  for (const key of Object.keys(SHIPPED_BODIES) as ShippedBody[]) {
    const body = createBody(SHIPPED_BODIES[key]);
    for (const preset of PRESETS) {
      const gait = fitGait(preset.make(), body.legLength);
      const gaits = [
        gait,
        ...setMembers({ ...defaultSet(), twins: true }, gait)
          .slice(1)
          .map((m) => m.gait),
      ];
      // Places inside the stride, spread over three strides in a row.
      const inCycle = Array.from({ length: SAMPLES }, (_, i) => (i + 0.37) / SAMPLES + (i % 3));
      const inPlan = Array.from({ length: 2 * SAMPLES }, (_, i) => (i + 0.37) / (2 * SAMPLES));
      for (const [kind, g] of gaits.entries()) yield { body: key, gait: preset.key, kind, make: () => cycle(g, body), times: inCycle };
      yield { body: key, gait: preset.key, kind: 'plan 9', make: () => walk('plan', gait, body, 9, 0), times: inPlan };
      yield { body: key, gait: preset.key, kind: 'plan 4', make: () => walk('plan', gait, body, 4, 1), times: inPlan };
    }
  }
}

/** Signs by which a pose's numbers are summed: what changes in any of them shows in every sum. */
const rand = seeded(7051);
const WEIGHTS = Array.from({ length: WEIGHINGS }, () => Float64Array.from({ length: POSE }, () => (rand() < 0.5 ? -1 : 1)));

/** The weighed sums of a motion's poses at its times. */
export function weigh({ make, times }: WeighedMotion): number[] {
  const motion = make();
  const pose = new Float64Array(POSE);
  return times.flatMap((part) => {
    motion.pose(part * motion.duration, pose, 0);
    return WEIGHTS.map((w) => w.reduce((sum, sign, k) => sum + sign * pose[k]!, 0));
  });
}
