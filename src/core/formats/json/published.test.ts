import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8 } from 'fflate';
import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { demoWalks } from '../../project/demo-walks';
import { makeClip } from '../../handover/make-clip';
import { defaultPlan } from '../../steps/plan';
import { cycleOrder, presetFor, shippedBody } from '../../tests/cast';
import { encodeContacts } from '../contacts/file';
import { publishedSchemas } from './published';

const published = (name: string): object => JSON.parse(readFileSync(join(process.cwd(), 'docs', 'schema', `${name}.schema.json`), 'utf8')) as object;

describe('published JSON Schemas', () => {
  it.each(publishedSchemas())('$name is what its reader takes', ({ name, schema }) => {
    expect(published(name)).toEqual(JSON.parse(JSON.stringify(schema)));
  });

  it('take the contacts of our own motions', () => {
    const contacts = new Ajv2020({ strict: false }).compile(published('nimbret.contacts'));
    const { document } = makeClip(cycleOrder(presetFor('walk', shippedBody('pip')), shippedBody('pip'), 60), 60, { inPlace: false });
    const file = JSON.parse(
      strFromU8(encodeContacts({ ...document.clip, deck: new Float64Array(document.clip.frames * 4).fill(0.5) }, null, document.info.contacts)),
    ) as object;
    expect(contacts(file), JSON.stringify(contacts.errors)).toBe(true);
    expect(contacts({ ...file, contacts: [{ foot: 'both' }] })).toBe(false);
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
