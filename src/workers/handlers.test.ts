import { createHash } from 'node:crypto';
import { strToU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '@/core/body/spec';
import { defaultSet } from '@/core/directions/spec';
import { defaultGait } from '@/core/gait/spec';
import { encodeBvh } from '@/core/formats/bvh/encode';
import { encodeGlb } from '@/core/formats/gltf/bytes';
import { ownPose } from '@/core/clip/own-pose';
import { skinVertex } from '@/core/measure/skin';
import { toBvh } from '@/core/formats/bvh/from-clip';
import { makeClip } from '@/core/handover/make-clip';
import { cycleOrder, presetFor, shippedBody } from '@/core/tests/cast';
import { newClipSpec } from '@/core/travel/clip-spec';
import { defaultHandover } from '@/core/handover/spec';
import type { MotionSpec, ProjectPart } from '@/core/project/motion-spec';
import { defaultPlan } from '@/core/steps/plan';
import { work } from './handlers';
import { Jobs } from './jobs';
import { Clips } from './clips';
import { Motions } from './motions';
import type { FromWorker, Progress, WorkerCall, WorkerCalls, WorkerRequest } from './protocol';

const part: ProjectPart = {
  body: SHIPPED_BODIES.marlo,
  gaits: { gait: defaultGait() },
  plans: { plan: { ...defaultPlan(), steps: 6, firstFoot: 'right', gait: 'gait' } },
  sets: { set: { ...defaultSet(), gait: 'gait' } },
};
const motions = new Motions();
const marlo = shippedBody('marlo');

/** What the server keeps. */
const kept = new Map<string, Uint8Array>();
const fetchFile = async (hash: string): Promise<Uint8Array> => kept.get(hash) ?? Promise.reject(new Error('no such file'));

/** Works a call to its end; progress goes to `told`. */
async function answer<K extends WorkerCall>(call: K, request: WorkerCalls[K]['request'], told: Progress[] = []): Promise<WorkerCalls[K]['answer']> {
  const steps = work({ id: 1, lane: 'test', call, request } as WorkerRequest, motions, new Clips(fetchFile));
  for (;;) {
    const { done, value } = await steps.next();
    if (done) return value as WorkerCalls[K]['answer'];
    if (value) told.push(value);
  }
}

describe('the engine behind the worker', () => {
  it('measures a cycle and a plan', async () => {
    const cycle = await answer('measure', { spec: { kind: 'cycle', gait: 'gait' }, part, rate: 60 });
    expect(cycle.report.slideMm.atFrames).toBeLessThan(0.05);
    expect(cycle.report.crossing!.legsMm).toBeGreaterThanOrEqual(0);
    expect(cycle.notes).toEqual([]);
    // The natural walk, as the bars have it.
    expect(cycle.jolts.knee).toBeGreaterThan(1000);
    expect(cycle.jolts.knee).toBeLessThan(12_000);
    expect(cycle.jolts.kneeBar).toBeCloseTo(20_000, -3);
    expect(cycle.jolts.hipsBar[1]).toBe(15);
    expect(cycle.jolts.hips[0]).toBeGreaterThan(cycle.jolts.hipsBar[0]);
    // Notes tell frames of the rate that is played, not of the one it is measured at.
    const played = await answer('measure', { spec: { kind: 'cycle', gait: 'gait' }, part, rate: 60, played: 24 });
    expect(played.notes.map((n) => n.words)).toEqual([expect.stringMatching(/is 25\.20 frames at 24 fps; 25 frames make it 1\.0417 s/)]);
    expect(played.report.slideMm).toEqual(cycle.report.slideMm);
    const plan = await answer('measure', { spec: { kind: 'plan', plan: 'plan' }, part, rate: 60 });
    expect(plan.report.slides.length).toBe(8);
  });

  it('packs what was chosen, with progress, each file measured as written', async () => {
    const told: Progress[] = [];
    const handover = { ...defaultHandover(), rate: 30, formats: ['glb', 'bvh'] as ('glb' | 'bvh')[] };
    const motions: MotionSpec[] = [
      { kind: 'cycle', gait: 'gait' },
      { kind: 'plan', plan: 'plan' },
      { kind: 'member', set: 'set', directionDeg: 90, twin: false },
    ];
    const request = { motions, part, handover, clips: [] };
    const pack = await answer('pack', request, told);
    expect(pack.files.length).toBe(6);
    expect(Object.keys(unzipSync(pack.bytes)).sort()).toEqual([...pack.files.map((f) => f.name), 'manifest.json'].sort());
    for (const f of pack.files) expect(f.check.slideMm.atFrames).toBeLessThan(0.05);
    expect(told.map((p) => p.done)).toEqual([0, 1, 2, 3, 4, 5, 6]);
    const one = await answer('pack', { ...request, motions: motions.slice(0, 1), handover: { ...handover, formats: ['bvh'] } });
    expect(one.name).toMatch(/^marlo-venn_walk_0deg_1\.3\dmps\.bvh$/);
    expect(Buffer.from(one.bytes).toString().startsWith('HIERARCHY')).toBe(true);
  });

  it('lets a clip be looked at before anything is found of it, in miniature, and in its own skin', async () => {
    const made = makeClip(cycleOrder(presetFor('walk', marlo), marlo, 30), 30, { inPlace: false }).document;
    const hash = createHash('sha256').update('glb').digest('hex');
    kept.set(hash, await encodeGlb([made]));
    const spec = newClipSpec('walk', { hash, name: 'walk.glb', bytes: 1, index: 0, skeleton: '' });
    const look = await answer('clipLook', { spec });
    const found = await answer('clip', { spec });
    expect(look.clip.frames).toBe(found.clip.frames);
    expect([...look.clip.poses.subarray(0, 50)]).toEqual([...found.clip.poses.subarray(0, 50)]);
    expect([look.contacts, found.contacts.length]).toEqual([[], 2]);
    const film = await answer('clipFilm', { spec });
    expect(film.pictures.length).toBeGreaterThan(8);
    // A whole figure over the ground, whichever picture.
    for (const parts of film.pictures) {
      const heights = parts.flatMap((p) => p.ends?.map((e) => e[1]) ?? []);
      expect(Math.max(...heights)).toBeGreaterThan(1.4);
      expect(Math.max(...heights)).toBeLessThan(1.9);
    }
    // Skinned by the clip's own joints, vertices stay over the ground and each face has its three.
    const { skins } = await answer('clipSkin', { spec });
    expect(skins).toHaveLength(1);
    const { skin, faces } = skins[0]!;
    expect(faces.length % 3).toBe(0);
    expect(faces.every((i) => i < skin.count)).toBe(true);
    const at = ownPose(found.clip, found.floor);
    const v = new Float64Array(3);
    for (const t of [0, 0.4, 0.9]) {
      let [low, high] = [Infinity, -Infinity];
      for (let i = 0; i < skin.count; i += 7) {
        skinVertex(skin, i, at(t), v, 0);
        [low, high] = [Math.min(low, v[1]!), Math.max(high, v[1]!)];
      }
      expect(low).toBeGreaterThan(-0.004);
      expect(high).toBeGreaterThan(1.6);
      expect(high).toBeLessThan(1.8);
    }
  });

  it('tells with a miniature what is odd about its file, as that it breaks off', async () => {
    const text = encodeBvh(toBvh(makeClip(cycleOrder(presetFor('walk', marlo), marlo, 30), 30, { inPlace: false }).document));
    const film = (name: string, content: string) => {
      const hash = createHash('sha256').update(name).digest('hex');
      kept.set(hash, strToU8(content));
      return answer('clipFilm', { spec: newClipSpec(name, { hash, name: `${name}.bvh`, bytes: 1, index: 0, skeleton: '' }) });
    };
    expect((await film('whole', text)).oddities).toEqual([]);
    expect((await film('broken off', text.split('\n').slice(0, -9).join('\n'))).oddities.join(' ')).toMatch(/row|frame|picture/i);
  });

  it('takes a gait with progress, and says why where there is none', async () => {
    const hash = createHash('sha256').update('walk').digest('hex');
    kept.set(hash, strToU8(encodeBvh(toBvh(makeClip(cycleOrder(presetFor('stroll', marlo), marlo, 30), 30, { inPlace: false }).document))));
    const spec = newClipSpec('stroll', { hash, name: 'stroll.bvh', bytes: 1, index: 0, skeleton: '' });
    const told: Progress[] = [];
    const taken = await answer('takeGait', { spec }, told);
    expect(taken.bent.knee).toBeLessThan(1.5);
    expect(taken.strides.length).toBeGreaterThan(0);
    expect(told.length).toBeGreaterThan(10);
    await expect(answer('takeGait', { spec: { ...spec, edits: { ...spec.edits, trim: { from: 0, to: 9 } } } })).rejects.toThrow(/nowhere does a foot land/);
  });

  it('packs clips of the station, on their own skeletons and on a body, got from where they are kept', async () => {
    const clips = ['walk', 'run', 'sneak'].map((key) => {
      const made = makeClip(cycleOrder(presetFor(key, marlo), marlo, 30), 30, { inPlace: false }).document;
      const hash = createHash('sha256').update(key).digest('hex');
      kept.set(hash, strToU8(encodeBvh(toBvh(made))));
      return newClipSpec(key, { hash, name: `${key}.bvh`, bytes: 1, index: 0, skeleton: '' });
    });
    const handover = { ...defaultHandover(), rate: 30, formats: ['glb' as const] };
    const request = { motions: [], part, handover, clips };
    const own = await answer('pack', request);
    expect(own.files.map((f) => f.name)).toEqual(['walk.bvh', 'run.bvh', 'sneak.bvh']);
    const onBody = await answer('pack', { ...request, handover: { ...handover, clipsOnBody: true, carrier: 'hips', inPlace: false } });
    expect(onBody.files.map((f) => f.name)).toEqual(['marlo-venn-walk.glb', 'marlo-venn-run.glb', 'marlo-venn-sneak.glb']);
    for (const { check } of [...own.files, ...onBody.files]) {
      expect(check.slideMm.atFrames).toBeLessThan(0.05);
      expect(check.travel.distanceM).toBeGreaterThan(0.5);
      expect(check.seam!.positionM).toBeLessThan(1e-5);
    }
    const inPlace = await answer('pack', { ...request, handover: { ...handover, inPlace: true } });
    // Its travel is found again by its feet.
    for (const { check } of inPlace.files) expect(check.slideMm.atFrames).toBeLessThan(0.5);
  });

  it('keeps motions by what they are made of, not by who asks', () => {
    const copy = JSON.parse(JSON.stringify(part)) as ProjectPart;
    const spec = { kind: 'cycle', gait: 'gait' } as const;
    expect(motions.of(spec, copy, { rate: 24 })).toBe(motions.of(spec, part, { rate: 24 }));
    copy.gaits.gait!.hips.crouch += 0.001;
    expect(motions.of(spec, copy, { rate: 24 })).not.toBe(motions.of(spec, part, { rate: 24 }));
    // What a spec does not use does not matter.
    expect(motions.of(spec, { ...part, plans: {}, sets: {} }, { rate: 24 })).toBe(motions.of(spec, part, { rate: 24 }));
  });
});

describe('the worker’s desk', () => {
  const request = (lane: string, steps: number) => ({
    lane,
    call: 'measure' as const,
    request: { spec: { kind: 'plan', plan: 'plan' } as const, part: { ...part, plans: { plan: { ...part.plans.plan!, steps } } }, rate: 60 },
  });
  const idle = () => new Promise<void>((resolve) => setImmediate(resolve));
  /** A desk whose every look at the clock is a slice's end: it listens between any two bits of work. */
  const desk = () => {
    const told: FromWorker[] = [];
    let now = 0;
    return {
      told,
      jobs: new Jobs(
        (m) => told.push(m),
        idle,
        () => (now += 100),
        fetchFile,
      ),
    };
  };
  const until = async (done: () => boolean) => {
    while (!done()) await idle();
  };

  it('answers only the newest request of a lane, and those of other lanes beside it', async () => {
    const { told, jobs } = desk();
    jobs.take({ id: 1, ...request('gauge', 80) });
    await idle();
    await idle();
    jobs.take({ id: 2, ...request('gauge', 4) });
    jobs.take({ id: 3, ...request('other', 4) });
    await until(() => told.length >= 2);
    for (let i = 0; i < 50; i++) await idle();
    expect(told.map((m) => m.id).sort()).toEqual([2, 3]);
    for (const m of told) expect(m).toHaveProperty('answer');
  });

  it('stops in the middle when cancelled, within a slice, and goes on taking requests', async () => {
    const { told, jobs } = desk();
    jobs.take({ id: 1, ...request('gauge', 200) });
    for (let i = 0; i < 5; i++) await idle();
    jobs.take({ lane: 'gauge', cancel: true });
    jobs.take({ id: 2, ...request('gauge', 3) });
    await until(() => told.length > 0);
    for (let i = 0; i < 50; i++) await idle();
    expect(told.map((m) => m.id)).toEqual([2]);
  });

  it('says what went wrong in words', async () => {
    const { told, jobs } = desk();
    jobs.take({ id: 7, lane: 'a', call: 'measure', request: { spec: { kind: 'cycle', gait: 'gone' }, part, rate: 60 } });
    await until(() => told.length > 0);
    expect(told).toEqual([{ id: 7, error: 'build: the project has no gait gone' }]);
  });
});
