import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { demoWalks } from '../../project/demo-walks';
import { defaultPlan } from '../../steps/plan';
import { publishedSchemas } from './published';

const published = (name: string): object => JSON.parse(readFileSync(join(process.cwd(), 'docs', 'schema', `${name}.schema.json`), 'utf8')) as object;

describe('published JSON Schemas', () => {
  it.each(publishedSchemas())('$name is what its reader takes', ({ name, schema }) => {
    expect(published(name)).toEqual(JSON.parse(JSON.stringify(schema)));
  });

  it('take our own files and refuse broken ones, as a validator of its own sees them', () => {
    const ajv = new Ajv2020({ strict: false });
    const plan = ajv.compile(published('nimbret.plan'));
    const ground = ajv.compile(published('nimbret.ground'));
    const names = { round: 'a', run: 'b', sneak: 'c', plod: 'd', cart: 'e', lamps: 'f', pip: 'g', bosun: 'h' };
    for (const walk of [defaultPlan(), ...demoWalks(names)]) {
      expect(plan(walk), JSON.stringify(plan.errors)).toBe(true);
      expect(ground(walk.ground), JSON.stringify(ground.errors)).toBe(true);
    }
    for (const bad of [{ steps: 1 }, { version: 1 }, { course: { knots: [] } }, { halts: [{ at: 0 }] }, { wind: 1 }])
      expect(plan({ ...defaultPlan(), ...bad })).toBe(false);
    expect(ground({ ...defaultPlan().ground, features: [{ kind: 'hill' }] })).toBe(false);
  });
});
