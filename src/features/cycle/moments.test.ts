import { describe, expect, it } from 'vitest';
import { cycle } from '@/core/motion/solved';
import { createBody } from '@/core/body/body';
import { SHIPPED_BODIES } from '@/core/body/spec';
import { findPreset } from '@/core/gait/presets';
import { gaitSpecSchema } from '@/core/gait/schema';
import type { GaitSpec } from '@/core/gait/spec';
import { keyMoments, type MomentName } from '@/core/measure/key-moments';
import { moveMoment } from './moments';

const body = createBody(SHIPPED_BODIES.marlo);
const momentsOf = (gait: GaitSpec) => keyMoments(cycle(gait, body));
const find = (gait: GaitSpec, side: 'left' | 'right', name: MomentName) => momentsOf(gait).find((m) => m.side === side && m.name === name)!;

describe('moving a key moment', () => {
  const gait = findPreset('bounce')!.make();

  it.each([
    ['down', -0.04],
    ['down', 0.03],
    ['up', -0.04],
    ['passing', 0.03],
    ['passing', -0.02],
    ['contact', 0.06],
  ] as const)('%s by %f of the stride takes the figure’s own moment along', (name, by) => {
    const from = find(gait, 'left', name);
    const side = name === 'contact' ? 'right' : 'left';
    const moved = name === 'contact' ? find(gait, 'right', 'contact') : from;
    const next = moveMoment(gait, body, momentsOf(gait), moved, (moved.phase + by + 1) % 1);
    expect(gaitSpecSchema.safeParse(next).error?.issues ?? []).toEqual([]);
    const now = find(next, side, name).phase;
    const went = ((now - moved.phase + 1.5) % 1) - 0.5;
    expect(Math.sign(went)).toBe(Math.sign(by));
    expect(Math.abs(went - by)).toBeLessThan(0.015);
  });

  it('leaves the other step’s moments where they were', () => {
    const next = moveMoment(gait, body, momentsOf(gait), find(gait, 'left', 'down'), find(gait, 'left', 'down').phase + 0.03);
    expect(find(next, 'right', 'down').phase).toBeCloseTo(find(gait, 'right', 'down').phase, 2);
  });

  it('never lets a moment pass its neighbours', () => {
    const next = moveMoment(gait, body, momentsOf(gait), find(gait, 'left', 'down'), 0.9);
    expect(gaitSpecSchema.safeParse(next).success).toBe(true);
    const keys = next.hips.rise.curve!;
    for (let i = 1; i < keys.length; i++) expect(keys[i]!.at).toBeGreaterThan(keys[i - 1]!.at);
  });
});
