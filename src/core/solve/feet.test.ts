import { describe, expect, it } from 'vitest';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { SIDES } from '../body/roles';
import { structuredCloneGait } from '../gait/timing';
import { ALL_CLIPS, presetCycle, presetFor, shippedBody } from '../tests/cast';
import { FOOT, FOOT_SIZE } from './foot-state';
import { evaluateFoot } from '../tests/feet';
import { solePoints } from './rocker';

const body = shippedBody('marlo');
const state = new Float64Array(FOOT_SIZE);
const points = new Float64Array(6);

/** Foot state at a phase and the height of its lowest sole point, m. */
function footAt(motion: Motion, side: 0 | 1, phase: number): { state: Float64Array; lowest: number; stands: boolean } {
  const stands = evaluateFoot(motion, side, phase * motion.strideTime, state);
  solePoints(motion.body.legs[side].sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
  return { state: state.slice(), lowest: state[FOOT.y]! + Math.min(points[1]!, points[3]!, points[5]!), stands };
}

describe('the swinging foot', () => {
  it.each(ALL_CLIPS.filter((c) => c.rate === 60))(
    '$gait, $body: never dips under the ground and clears it by what is asked in mid-swing',
    ({ gait: name, body: key }) => {
      const motion = presetCycle(name, key);
      const { dutyFactor } = motion.pace;
      const { clearance } = presetFor(name, motion.body).feet;
      for (const side of SIDES)
        for (let u = 0.0005; u < 1; u += 0.0025) {
          const { lowest, stands } = footAt(motion, side, (dutyFactor + u * (1 - dutyFactor) + side * 0.5) % 1);
          expect(stands).toBe(false);
          expect(lowest).toBeGreaterThan(-1e-5);
          expect(lowest).toBeGreaterThan(clearance * 16 * u * u * (1 - u) * (1 - u) - 2e-4);
        }
    },
  );

  it('joins the stance with equal position, pitch and velocity at lift-off and landing', () => {
    for (const name of ['walk', 'run', 'sneak']) {
      const motion = presetCycle(name);
      const T = motion.strideTime;
      const d = 1e-6;
      const at = (t: number) => {
        evaluateFoot(motion, 0, t, state);
        return state.slice();
      };
      for (const t of [motion.pace.dutyFactor * T, T - 1e-9]) {
        const [a, b, c, e] = [at(t - 2 * d), at(t - d), at(t + d), at(t + 2 * d)];
        for (let k = 0; k < FOOT_SIZE; k++) {
          expect(Math.abs(c[k]! - b[k]!)).toBeLessThan(3e-5);
          expect(Math.abs((e[k]! - c[k]!) / d - (b[k]! - a[k]!) / d)).toBeLessThan(0.02);
        }
      }
    }
  });

  it('goes out around the other foot by the swing-out, left to the left', () => {
    const gait = structuredCloneGait(presetFor('walk', body));
    gait.feet.swingOut = 0.1;
    const wide = cycle(gait, body);
    const plain = presetCycle('walk');
    const middle = gait.timing.dutyFactor + 0.5 * (1 - gait.timing.dutyFactor);
    expect(footAt(wide, 0, middle).state[FOOT.x]! - footAt(plain, 0, middle).state[FOOT.x]!).toBeCloseTo(0.1 - presetFor('walk', body).feet.swingOut, 2);
  });
});

describe('the standing foot', () => {
  it('raises its heel earlier where the trailing leg would pull the hips down, and lies flat where nothing asks', () => {
    const calm = presetCycle('walk');
    const gait = structuredCloneGait(presetFor('walk', body));
    Object.assign(gait.timing, { strideLength: 1.75, speed: 1.75 / gait.timing.strideTime });
    const long = cycle(gait, body);
    expect(footAt(long, 0, 0.5).state[FOOT.pitch]!).toBeLessThan(footAt(calm, 0, 0.5).state[FOOT.pitch]! - 0.05);
    expect(footAt(calm, 0, 0.18).state[FOOT.pitch]!).toBeCloseTo(0, 3);
  });
});

describe('other footfalls', () => {
  it('legs in the same phase hop: both feet land together and the body flies between', () => {
    const gait = structuredCloneGait(presetFor('run', body));
    Object.assign(gait.timing, { rightLeg: 0, strideLength: 0.5, strideTime: 0.5, speed: 1, dutyFactor: 0.6 });
    const hop = cycle(gait, body);
    const pose = new Float64Array(98);
    const heights: number[] = [];
    for (let p = 0; p < 1; p += 0.02) {
      const [left, right] = SIDES.map((side) => footAt(hop, side, p));
      expect(left!.stands).toBe(right!.stands);
      hop.pose(p * 0.5, pose, 0);
      heights.push(pose[4]!);
    }
    expect(heights.indexOf(Math.max(...heights)) * 0.02).toBeCloseTo(0.8, 1);
    // No sideways sway: the weight is between the feet.
    expect(Math.abs(pose[3]!)).toBeLessThan(1e-9);
  });
});
