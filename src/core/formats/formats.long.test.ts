import validator from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { ROLES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { checkFile } from '../check/check';
import { makeClip } from '../handover/make-clip';
import { defaultPlan } from '../steps/plan';
import { ALL_CLIPS, cycleOrder, planOrder, presetFor, shippedBody } from '../tests/cast';
import { readWithAssimp, readWithBvhLoader, readWithGltfLoader, type Reader } from '../tests/readers';
import type { ClipDocument } from './clip-info';
import { encodeClip } from './encode';
import { EXPORT_FORMATS } from './format';

const [glb, bvh] = EXPORT_FORMATS as [(typeof EXPORT_FORMATS)[number], (typeof EXPORT_FORMATS)[number]];
const documentOf = (gait: string, body: 'marlo' | 'pip' | 'bosun', rate: number, inPlace = false): ClipDocument => {
  const b = shippedBody(body);
  return makeClip(cycleOrder(presetFor(gait, b), b, rate), rate, { inPlace }).document;
};
const JOINTS = ROLES.filter((r) => r !== 'root');

/** Largest distance (m) between our joints and a reader's over some frames. */
function disagreement({ clip }: ClipDocument, reader: Reader): number {
  const world = createWorldPose(clip.skeleton);
  const size = poseSize(clip.skeleton);
  let most = 0;
  for (const frame of [0, 1, 7, Math.floor(clip.frames / 2), clip.frames - 1]) {
    forwardKinematics(clip.skeleton, clip.poses, frame * size, world);
    const theirs = reader(frame, clip.rate);
    expect(theirs.size).toBe(JOINTS.length);
    for (const role of JOINTS) {
      const j = ROLES.indexOf(role);
      const [x, y, z] = theirs.get(role)!;
      most = Math.max(most, Math.hypot(x - world.positions[j * 3]!, y - world.positions[j * 3 + 1]!, z - world.positions[j * 3 + 2]!));
    }
  }
  return most;
}

describe('GLB (glTF 2.0)', () => {
  it.each(ALL_CLIPS)('$gait, $body, $rate fps: the Khronos validator finds nothing', async ({ gait, body, rate }) => {
    const bytes = await encodeClip(glb, documentOf(gait, body, rate));
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  });

  it('validates a plan and a clip in place as well', async () => {
    const body = shippedBody('pip');
    for (const document of [
      makeClip(planOrder(defaultPlan(), presetFor('walk', body), body, 30), 30, { inPlace: false }).document,
      documentOf('run', 'bosun', 30, true),
    ]) {
      const { issues } = await validator.validateBytes(await encodeClip(glb, document));
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    }
  });

  it.each(['walk', 'run', 'sneak'])('%s: three.js GLTFLoader sees our joints to 1e-5 m', async (gait) => {
    const document = documentOf(gait, 'bosun', 30);
    expect(disagreement(document, await readWithGltfLoader(await encodeClip(glb, document), JOINTS))).toBeLessThan(1e-5);
  });

  it.each(['walk', 'run', 'sneak'])('%s: assimp sees our joints to 1e-5 m', async (gait) => {
    const document = documentOf(gait, 'pip', 24);
    expect(disagreement(document, readWithAssimp(await encodeClip(glb, document), '.glb', JOINTS))).toBeLessThan(1e-5);
  });

  it('is the same bytes for the same document', async () => {
    expect(
      Buffer.from(await encodeClip(glb, documentOf('walk', 'marlo', 24))).equals(Buffer.from(await encodeClip(glb, documentOf('walk', 'marlo', 24)))),
    ).toBe(true);
  });
});

describe('BVH', () => {
  it.each(['walk', 'run', 'sneak'])('%s: three.js BVHLoader sees our joints to 1e-5 m', async (gait) => {
    const document = documentOf(gait, 'marlo', 30);
    expect(disagreement(document, readWithBvhLoader(Buffer.from(await encodeClip(bvh, document)).toString(), JOINTS))).toBeLessThan(1e-5);
  });

  it.each(['walk', 'run', 'sneak'])('%s: assimp sees our joints to 1e-5 m', async (gait) => {
    const document = documentOf(gait, 'bosun', 30);
    expect(disagreement(document, readWithAssimp(await encodeClip(bvh, document), '.bvh', JOINTS))).toBeLessThan(1e-5);
  });
});

describe('files read back', () => {
  it.each(ALL_CLIPS)('$gait, $body, $rate fps: held feet, closed loop, and stride, speed, duty within 2 %', async ({ gait, body, rate }) => {
    const b = shippedBody(body);
    for (const inPlace of [false, true]) {
      const order = cycleOrder(presetFor(gait, b), b, rate);
      const made = makeClip(order, rate, { inPlace });
      const { timing } = order.gait;
      const [check] = await checkFile(await encodeClip(glb, made.document), 'clip.glb');
      expect(check!.slideMm.atFrames).toBeLessThanOrEqual(0.05);
      expect(check!.sinkMm).toBeLessThanOrEqual(0.1);
      expect(check!.seam!.positionM).toBeLessThanOrEqual(1e-6);
      const near = (got: number | null, asked: number) => expect(Math.abs(got! / asked - 1)).toBeLessThan(0.02);
      near(check!.travel.speedMps, timing.speed);
      near(check!.timing.strideLengthM, timing.strideLength);
      near(check!.timing.dutyFactor.left, timing.dutyFactor);
      near(check!.timing.dutyFactor.right, timing.dutyFactor);
      expect(check!.contacts.length).toBe(2);
      // BVH tells nothing but motion: contacts are found from the feet.
      const [seen] = await checkFile(await encodeClip(bvh, made.document), 'clip.bvh');
      expect(seen!.slideMm.atFrames).toBeLessThanOrEqual(0.05);
      near(seen!.travel.speedMps, timing.speed);
      near(seen!.timing.strideLengthM, timing.strideLength);
      for (const foot of ['left', 'right'] as const) near(seen!.timing.dutyFactor[foot], timing.dutyFactor);
    }
  });
});
