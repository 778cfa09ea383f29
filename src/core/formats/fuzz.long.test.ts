import { describe, expect, it } from 'vitest';
import { checkFile } from '../check/check';
import { SHIPPED_BODIES } from '../body/spec';
import { makeClip } from '../handover/make-clip';
import { defaultPlan } from '../steps/plan';
import { cycleOrder, presetFor, shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import { encodeClip } from './encode';
import { EXPORT_FORMATS } from './format';
import { decodeBody, decodeGait, decodePlan } from './json/decode';
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

async function fuzz(name: string, mutant: (rand: () => number) => Uint8Array | string, read: (bytes: never) => unknown): Promise<void> {
  const seen = { read: 0, fault: 0 };
  for (let n = 0; n < MUTANTS; n++) {
    const bytes = mutant(seeded(1000 + n));
    const started = performance.now();
    seen[await outcome(() => read(bytes as never), `${name} ${n}`)]++;
    if (performance.now() - started > 5000) throw new Error(`${name} ${n} took ${performance.now() - started} ms`);
  }
  // Mutants that are all refused, or all read, would try nothing.
  expect(seen.read).toBeGreaterThan(MUTANTS / 50);
  expect(seen.fault).toBeGreaterThan(MUTANTS / 50);
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
