import { describe, expect, it } from 'vitest';
import { Clock } from './clock';
import { createSession } from './session';

describe('the playhead', () => {
  it('counts a cycle on for ever and starts a plan again after a rest', () => {
    const cycle = new Clock(createSession());
    for (let i = 0; i < 30; i++) cycle.advance(0.1, 1, true);
    expect(cycle.time).toBeCloseTo(3, 9);
    const plan = new Clock(createSession());
    for (let i = 0; i < 11; i++) plan.advance(0.1, 1, false);
    expect(plan.time).toBeCloseTo(1.1, 9);
    for (let i = 0; i < 6; i++) plan.advance(0.1, 1, false);
    expect(plan.time).toBeLessThan(0.2);
  });

  it('stops at the end without loop, keeps its rate, stands still when paused, tells its listeners', () => {
    const clock = new Clock(createSession());
    const heard: number[] = [];
    const stop = clock.subscribe((t) => heard.push(t));
    clock.session.setState({ loop: false, rate: 0.5 });
    clock.advance(1, 0.8, false);
    expect(clock.time).toBe(0.5);
    clock.advance(1, 0.8, false);
    expect([clock.time, clock.playing]).toEqual([0.8, false]);
    clock.advance(1, 0.8, false);
    stop();
    clock.set(0);
    expect(heard).toEqual([0, 0.5, 0.8]);
  });
});
