import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { checkFile } from '../check/check';
import { SHIPPED_BODIES } from '../body/spec';
import { makeClip } from '../handover/make-clip';
import { buildGround } from '../ground/build';
import { fieldOfGrid, fieldOfPixels, type FieldShape } from '../ground/field';
import { groundSpecSchema, levelSpec } from '../ground/spec';
import { build } from '../project/motion-spec';
import { plannedWalk } from '../project/planned-walk';
import { otherGaits } from '../steps/names';
import { defaultPlan } from '../steps/plan';
import { printEditSchema } from '../steps/print-spec';
import { richWalk } from '../tests/rich-walk';
import { cycleOrder, presetFor, shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import { encodeClip } from './encode';
import { EXPORT_FORMATS } from './format';
import { decodeGlb } from './gltf/bytes';
import { fieldOfGltf } from './gltf/field';
import { decodeBody, decodeGait, decodePlan, describeIssue } from './json/decode';
import { FormatFault } from './limits';
import { mutantGlb, mutantJson, mutantText } from './tests/mutants';

/** Mutants a reader; `npm run fuzz` takes 10,000. */
const MUTANTS = Number(process.env.NIMBRET_FUZZ ?? 2000);

const body = shippedBody('marlo');
const gait = presetFor('walk', body);
const { document } = makeClip(cycleOrder(gait, body, 12), 12, { inPlace: false });

/** Words that only an engine or a library says. */
const NOT_OURS =
  /undefined|is not a function|not iterable|Cannot |TypeError|RangeError|Maximum call|Invalid |Unexpected|at position|gltf-transform|offset is out|null \(/;

/** What becomes of a mutant: a fault in our words, or a result without a number that is none. */
async function outcome(run: () => unknown, seed: string): Promise<'read' | 'fault'> {
  try {
    const result = await run();
    const walk = (v: unknown, path: string): void => {
      if (typeof v === 'number' && !Number.isFinite(v)) throw new Error(`${seed}: ${path} is ${v}`);
      if (v && typeof v === 'object') for (const [k, x] of Object.entries(v)) walk(x, `${path}.${k}`);
    };
    walk(result, '');
    return 'read';
  } catch (error) {
    if (!(error instanceof FormatFault)) throw new Error(`${seed}: ${error instanceof Error ? error.stack : String(error)}`, { cause: error });
    if (NOT_OURS.test(error.message)) throw new Error(`${seed}: not our words: ${error.message}`, { cause: error });
    return 'fault';
  }
}

async function fuzz(name: string, mutant: (rand: () => number) => Uint8Array | string, read: (bytes: never) => unknown, count = MUTANTS): Promise<void> {
  const seen = { read: 0, fault: 0 };
  for (let n = 0; n < count; n++) {
    const bytes = mutant(seeded(1000 + n));
    const started = performance.now();
    seen[await outcome(() => read(bytes as never), `${name} ${n}`)]++;
    if (performance.now() - started > 5000) throw new Error(`${name} ${n} took ${performance.now() - started} ms`);
  }
  // Mutants that are all refused, or all read, would try nothing.
  expect(seen.read).toBeGreaterThan(count / 50);
  expect(seen.fault).toBeGreaterThan(count / 50);
}

const PLAN = { kind: 'plan', plan: 'plan' } as const;

/** A field that came in, as a project would keep it. Throws where it would be refused. */
function kept(field: FieldShape): FieldShape {
  groundSpecSchema.parse({ ...levelSpec(), features: [{ kind: 'field', id: 'f', name: 'f', headingDeg: 0, ...field }] });
  return field;
}

/** A small hill of triangles as a GLB. */
function groundGlb(): Promise<Uint8Array> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const side = 5;
  const points = Float32Array.from({ length: side * side * 3 }, (_, i) => {
    const [x, z] = [Math.floor(i / 3) % side, Math.floor(i / 3 / side)];
    return [x, Math.sin(x) * Math.cos(z) * 0.2, z][i % 3]!;
  });
  const corners = Uint16Array.from(
    Array.from({ length: (side - 1) ** 2 }, (_, k) => {
      const a = Math.floor(k / (side - 1)) * side + (k % (side - 1));
      return [a, a + 1, a + side, a + 1, a + side + 1, a + side];
    }).flat(),
  );
  const primitive = doc
    .createPrimitive()
    .setAttribute('POSITION', doc.createAccessor().setType('VEC3').setArray(points).setBuffer(buffer))
    .setIndices(doc.createAccessor().setType('SCALAR').setArray(corners).setBuffer(buffer));
  doc.createScene().addChild(doc.createNode().setMesh(doc.createMesh().addPrimitive(primitive)));
  return new WebIO().writeBinary(doc);
}

describe(`${MUTANTS} mutants end in a fault in our words or in sound numbers`, () => {
  it('of a GLB', { timeout: 600_000 }, async () => {
    const glb = await encodeClip(
      EXPORT_FORMATS.find((f) => f.id === 'glb')!,
      document,
    );
    await fuzz(
      'glb',
      (rand) => mutantGlb(glb, rand),
      (bytes) => checkFile(bytes, 'm.glb'),
    );
  });

  it('of a BVH', { timeout: 600_000 }, async () => {
    const bvh = encodeBvh(toBvh(document));
    await fuzz(
      'bvh',
      (rand) => mutantText(bvh, rand),
      (bytes) => checkFile(bytes, 'm.bvh'),
    );
  });

  it('of a plan with everything in it, which is walked or said to be none', { timeout: 900_000 }, async () => {
    const plan = {
      ...richWalk({ walk: 'walk', run: 'run', sneak: 'sneak', bystander: 'pip' }),
      gaits: [],
      edits: [printEditSchema.parse({ step: 3, along: 0.1, aside: 0, turnDeg: 0 })],
    };
    const short = { ...plan, course: { knots: plan.course.knots.slice(0, 3) }, pace: null };
    await fuzz(
      'plan',
      (rand) => JSON.stringify(mutantJson(short, rand)),
      (text) => {
        const read = decodePlan(text as unknown as string, 'm.plan.json');
        const part = {
          body: body.spec,
          bodies: {},
          gaits: Object.fromEntries(['walk', ...otherGaits(read), read.gait].map((id) => [id, gait])),
          plans: { plan: read },
          sets: {},
        };
        const { facts, trouble } = plannedWalk(PLAN, part, 0, (p) => build(PLAN, p, undefined, true));
        if (trouble !== null && NOT_OURS.test(trouble)) throw new Error(trouble);
        return facts.holds.map(({ x, y, z, landing }) => [x, y, z, landing]);
      },
      MUTANTS / 4,
    );
  });

  it('of a ground, read from JSON: its heights are numbers', { timeout: 600_000 }, async () => {
    const { ground } = richWalk({ walk: 'walk', run: 'run', sneak: 'sneak', bystander: 'pip' });
    const field = {
      kind: 'field' as const,
      id: 'f',
      name: 'f',
      headingDeg: 5,
      ...fieldOfGrid([0, 0.1, 0.2, 0.3], 2, 2, { x: 0, z: 3, length: 4, breadth: 4 }),
    };
    const rough = { kind: 'rough' as const, id: 'r', name: 'r', headingDeg: 0, x: 0, z: 0, length: 9, breadth: 9, amount: 0.1, wave: 1, seed: 3 };
    await fuzz(
      'ground',
      (rand) => JSON.stringify(mutantJson({ ...ground, features: [...ground.features, field, rough] }, rand)),
      (text) => {
        const parsed = groundSpecSchema.safeParse(JSON.parse(text as unknown as string));
        if (!parsed.success) throw new FormatFault(parsed.error.issues.map(describeIssue).join('; '));
        const built = buildGround(parsed.data);
        return Array.from({ length: 40 }, (_, i) => built.height(Math.sin(i * 9) * 12, i * 0.7));
      },
    );
  });

  it('of a ground, read from a GLB: what comes in can be kept', { timeout: 600_000 }, async () => {
    const glb = await groundGlb();
    await fuzz(
      'ground glb',
      (rand) => mutantGlb(glb, rand),
      async (bytes) => kept(fieldOfGltf(await decodeGlb(bytes))),
    );
  });

  it('of a greyscale picture: whatever its size and greys, what comes in can be kept', () => {
    for (let n = 0; n < MUTANTS / 4; n++) {
      const rand = seeded(n);
      const [columns, rows] = [2 + Math.floor(rand() * 30), 2 + Math.floor(rand() * 30)];
      const pixels = Uint8ClampedArray.from({ length: columns * rows * 4 }, () => (n % 5 === 0 ? 128 : rand() * 256));
      kept(fieldOfPixels(pixels, columns, rows));
    }
  });

  it.each([
    ['gait', gait, decodeGait],
    ['body', SHIPPED_BODIES.marlo, decodeBody],
    ['plan', { ...defaultPlan(), gait: 'walk' }, decodePlan],
  ] as const)('of a %s file', { timeout: 600_000 }, async (name, spec, decode) => {
    await fuzz(
      name,
      (rand) => {
        const json = JSON.stringify(mutantJson(spec, rand));
        return rand() < 0.2 ? json.slice(0, Math.floor(rand() * json.length)) : json;
      },
      (text) => decode(text as unknown as string, `m.${name}.json`),
    );
  });
});
