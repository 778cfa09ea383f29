import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '@/core/body/spec';
import { defaultSet } from '@/core/directions/spec';
import { defaultGait } from '@/core/gait/spec';
import { defaultHandover } from '@/core/handover/spec';
import { defaultPlan } from '@/core/steps/plan';
import { handle } from './handlers';
import type { Progress, WorkerCalls } from './protocol';

const body = SHIPPED_BODIES.marlo;
const gait = defaultGait();
const silent = () => {};

describe('the engine behind the worker', () => {
  it('measures a cycle and a plan', async () => {
    const cycle = (await handle(
      { id: 1, call: 'measure', request: { body, gait, motion: { kind: 'cycle' }, rate: 60 } },
      silent,
    )) as WorkerCalls['measure']['answer'];
    expect(cycle.report.slideMm.atFrames).toBeLessThan(0.05);
    expect(cycle.notes).toEqual([]);
    const plan = (await handle(
      { id: 2, call: 'measure', request: { body, gait, motion: { kind: 'plan', steps: 6, firstFoot: 'right' }, rate: 60 } },
      silent,
    )) as WorkerCalls['measure']['answer'];
    expect(plan.report.slides.length).toBe(8);
  });

  it('packs what was chosen, with progress, each file measured as written', async () => {
    const told: Progress[] = [];
    const handover = { ...defaultHandover(), formats: ['glb', 'bvh'] as ('glb' | 'bvh')[], directions: [0, 90], plan: true, cycle: true };
    const request = { body, gait, plan: defaultPlan(), planGait: gait, set: defaultSet(), setGait: gait, handover };
    const pack = (await handle({ id: 3, call: 'pack', request }, (p) => told.push(p))) as WorkerCalls['pack']['answer'];
    expect(pack.files.length).toBe(8);
    expect(Object.keys(unzipSync(pack.bytes)).sort()).toEqual([...pack.files.map((f) => f.name), 'manifest.json'].sort());
    for (const f of pack.files) expect(f.check.slideMm.atFrames).toBeLessThan(0.05);
    expect(told.map((p) => p.done)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    const one = (await handle(
      { id: 4, call: 'pack', request: { ...request, handover: { ...handover, formats: ['bvh'], directions: [], plan: false } } },
      silent,
    )) as WorkerCalls['pack']['answer'];
    expect(one.name).toMatch(/^marlo-venn_walk_0deg_1\.3\dmps\.bvh$/);
    expect(Buffer.from(one.bytes).toString().startsWith('HIERARCHY')).toBe(true);
  });
});
