import { describe, expect, it } from 'vitest';
import { drawnByProcessor, Pace, QUALITIES, startLevel } from './quality';

/** Plays pictures on a machine that needs `cost(quality)` seconds for one. */
const play = (pace: Pace, pictures: number, cost: (q: Pace['quality']) => number) => {
  for (let i = 0; i < pictures; i++) pace.note(cost(pace.quality));
};

describe('the quality of the walkway', () => {
  it('stays full where the pictures come fast enough', () => {
    const pace = new Pace(startLevel('ANGLE (NVIDIA, GeForce)'));
    play(pace, 500, () => 1 / 60);
    expect(pace.level).toBe(0);
  });

  it('goes down until they do, and stays there', () => {
    const pace = new Pace();
    const cost = (q: Pace['quality']) => 0.02 + 0.09 * q.pixels ** 2 + (q.shadows ? 0.02 : 0);
    play(pace, 300, cost);
    const { level } = pace;
    expect(cost(pace.quality)).toBeLessThanOrEqual(1 / 20);
    expect(level).toBeGreaterThan(1);
    play(pace, 300, cost);
    expect(pace.level).toBe(level);
  });

  it('tries more where there is ample time, and a grade found too dear never again', () => {
    const pace = new Pace(4);
    const cost = (q: Pace['quality']) => (q.pixels > 0.75 ? 0.06 : 0.02);
    play(pace, 2000, cost);
    expect(pace.level).toBe(3);
    let changes = 0;
    for (let i = 0; i < 2000; i++) if (pace.note(cost(pace.quality))) changes++;
    expect(changes).toBe(0);
  });

  it('takes no notice of a hidden window, and never leaves its grades', () => {
    const pace = new Pace();
    for (let i = 0; i < 100; i++) pace.note(i % 2 ? 5 : 0);
    expect(pace.level).toBe(0);
    play(pace, 1000, () => 0.3);
    expect(pace.level).toBe(QUALITIES.length - 1);
  });

  it('begins lower where a processor draws', () => {
    expect(drawnByProcessor('ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (LLVM 10.0.0)))')).toBe(true);
    expect([startLevel('llvmpipe (LLVM 15)'), startLevel('Apple M2'), startLevel('')]).toEqual([4, 0, 0]);
  });
});
