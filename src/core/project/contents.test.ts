import { describe, expect, it } from 'vitest';
import { cycleClip, reportOf } from '../tests/cast';
import { createBody } from '../body/body';
import { fitGait } from '../gait/fit';
import { demoProjectItems, newProjectItems } from './contents';
import { KINDS, type Item } from './kinds';

let n = 0;
const newId = () => `id-${++n}`;
const demo = demoProjectItems('demo', newId);
const of = <K extends Item['kind']>(kind: K) => demo.filter((i) => i.kind === kind) as unknown as Item<K>[];

describe('what a project starts with', () => {
  it.each([
    ['a new project', newProjectItems('p', 'New', newId)],
    ['the demo', demo],
  ])('%s: every spec fits its schema, every id is its own, what is named is there', (_, items) => {
    for (const item of items) expect(KINDS[item.kind].schema.safeParse(item.spec).success, item.spec.name).toBe(true);
    const ids = new Set(items.map((i) => i.id));
    expect(ids.size).toBe(items.length);
    const project = items[0]! as Item<'project'>;
    expect(ids.has(project.spec.body) && ids.has(project.spec.gait)).toBe(true);
    for (const item of items) if (item.kind === 'plan' || item.kind === 'set') expect(ids.has(item.spec.gait)).toBe(true);
  });

  it.each(of('gait').flatMap((gait) => of('body').map((body) => ({ name: gait.spec.name, who: body.spec.name, gait: gait.spec, body: body.spec }))))(
    '$name holds its feet on $who',
    ({ gait, body: spec }) => {
      const body = createBody(spec);
      const { clip, motion } = cycleClip(fitGait(gait, body.legLength), body, 30);
      const report = reportOf(clip, body);
      expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
      expect(report.sinkMm).toBeLessThanOrEqual(0.1);
      expect(motion.survey().tooFar).toBe(0);
      expect(report.contacts).toBe(clip.contacts);
    },
  );
});
