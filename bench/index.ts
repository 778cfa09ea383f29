import { join } from 'node:path';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { createBody } from '../src/core/body/body';
import { createWorldPose, forwardKinematics, poseSize } from '../src/core/body/skeleton';
import { SHIPPED_BODIES } from '../src/core/body/spec';
import { ownFeet } from '../src/core/body/foot-model';
import { createInterpolator } from '../src/core/clip/interpolate';
import { defaultSet } from '../src/core/directions/spec';
import { setMembers } from '../src/core/directions/set';
import { decodeBvh } from '../src/core/formats/bvh/decode';
import { encodeBvh } from '../src/core/formats/bvh/encode';
import { toBvh } from '../src/core/formats/bvh/from-clip';
import { fromBvh } from '../src/core/formats/bvh/to-clip';
import { encodeGlb } from '../src/core/formats/gltf/bytes';
import { findPreset, PRESETS } from '../src/core/gait/presets';
import { fitToFrames } from '../src/core/gait/timing';
import { makeClip } from '../src/core/handover/make-clip';
import { reportingClip } from '../src/core/measure/report';
import { mannequinSkin } from '../src/core/measure/skin';
import { clipSampling, sampleClip } from '../src/core/motion/sample';
import { cycle, walk } from '../src/core/motion/solved';
import { build, partOf } from '../src/core/project/motion-spec';
import { LEG_BUFFER, longestReach, shortestReach, solveLeg } from '../src/core/solve/leg';
import { seeded } from '../src/core/math/random';
import { recording, RECORDINGS } from '../src/core/tests/recordings';
import { analyseClip } from '../src/core/travel/analysis';
import { travelsOf } from '../src/core/travel/kinds';
import { levelGround } from '../src/core/ground/ground';
import { createLead } from '../src/core/steps/lead';
import { planPiece, type PieceAsk } from '../src/core/steps/lead-piece';
import { bytesPerTurn } from './allocation';
import { ccdLegs, mixerPoses } from './library';
import { firstLoadBytes } from './script-size';
import { medianSeconds } from './time';

/** Prints what performance.md asks for, library column measured in the same run. It reports; it never fails. */
const body = createBody(SHIPPED_BODIES.marlo);
const gait = PRESETS[0]!.make();
const rows: [string, string, string][] = [];
const perSecond = (n: number) => `${Math.round(n).toLocaleString('en-GB')} /s`;
const ms = (s: number) => `${(s * 1000).toFixed(2)} ms`;
const size = poseSize(body.skeleton);

const motion = cycle(gait, body);
const pose = new Float64Array(size);
const POSES = 20_000;
const solved = medianSeconds(() => {
  for (let i = 0; i < POSES; i++) motion.pose((i / 617) % gait.timing.strideTime, pose, 0);
});
const world = createWorldPose(body.skeleton);
const solvedAndPlaced = medianSeconds(() => {
  for (let i = 0; i < POSES; i++) {
    motion.pose((i / 617) % gait.timing.strideTime, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
  }
});
const boxed = await bytesPerTurn((turns) => {
  for (let i = 0; i < turns; i++) motion.pose((i / 617) % gait.timing.strideTime, pose, 0);
}, 60_000);
const order = build({ kind: 'cycle', gait: 'gait' }, partOf(body.spec, gait), { rate: 60 });
const { document } = makeClip(order, 60, { inPlace: false });
const glb = await encodeGlb([document]);
const mixer = medianSeconds(await mixerPoses(glb, 2000));
rows.push([
  'one solved pose, all joints',
  `${perSecond(POSES / solved)} (with kinematics ${perSecond(POSES / solvedAndPlaced)})`,
  `mixer only plays: ${perSecond(2000 / mixer)}`,
]);

rows.push(['heap per solved pose', `${boxed.toFixed(0)} bytes: what V8 boxes, no array, no object`, '']);

const read = createInterpolator(document.clip);
const sampled = medianSeconds(() => {
  for (let i = 0; i < POSES; i++) {
    read((i * 0.37) % 60, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
  }
});
rows.push(['sample a clip, forward kinematics', perSecond(POSES / sampled), `three.js mixer + matrices: ${perSecond(2000 / mixer)}`]);

const rand = seeded(3);
const ownLeg = body.legs[0];
const reach = { longest: longestReach(ownLeg, 0.06), shortest: shortestReach(ownLeg) };
const targets = Array.from({ length: 200 }, () => {
  const a = (rand() - 0.5) * 1.2;
  const r = reach.longest * (0.75 + 0.2 * rand());
  return [0, -r * Math.cos(a), r * Math.sin(a)] as const;
});
const points = Float64Array.of(0, 0, 0, 0, 0, 0, 0, reach.longest, reach.shortest);
const legOut = new Float64Array(LEG_BUFFER);
const legs = medianSeconds(() => {
  for (let n = 0; n < 500; n++)
    for (const t of targets)
      for (let side = 0; side < 2; side++) {
        points[3] = t[0];
        points[4] = t[1];
        points[5] = t[2];
        solveLeg(ownLeg, points, legOut);
      }
});
const worst = { error: 0 };
const ccd = medianSeconds(ccdLegs(ownLeg.thigh, ownLeg.shank, targets, worst), 5, 1);
rows.push([
  'two legs of one pose',
  `${perSecond((500 * targets.length) / legs)}, exact`,
  `three.js CCD, 40 iterations: ${perSecond(targets.length / ccd)}, ${(worst.error * 1000).toFixed(1)} mm left over at worst`,
]);

const cycleAt60 = (g: typeof gait) => sampleClip(cycle(fitToFrames(g, 60), body), 60);
rows.push(['a 60 fps cycle, prepared and sampled', ms(medianSeconds(() => void cycleAt60(gait), 25, 10)), '']);
rows.push(['a cycle, from edit to first pose', ms(medianSeconds(() => cycle({ ...gait }, body).pose(0, pose, 0), 40, 15)), '']);
rows.push(['the set of eight at 60 fps', ms(medianSeconds(() => setMembers(defaultSet(), gait).forEach((m) => void cycleAt60(m.gait)), 15, 5)), '']);

const STEPS = 200;
for (const key of ['walk', 'run']) {
  const plain = findPreset(key)!.make();
  const planned = () => walk('bench', { ...plain }, body, STEPS, 0);
  rows.push([`${STEPS} steps of a ${key}, from edit to first pose`, ms(medianSeconds(() => planned().pose(0, pose, 0), 40, 20)), '']);
  const whole = medianSeconds(
    () => {
      const w = planned();
      // Four looks a step ask for every stance and swing.
      for (let i = 0; i <= 4 * STEPS; i++) w.pose((w.duration * i) / (4 * STEPS), pose, 0);
    },
    9,
    5,
  );
  rows.push([`${STEPS} steps of a ${key}, wholly prepared (with ${4 * STEPS} poses)`, ms(whole), '']);
  let slice = 0;
  const measured = medianSeconds(
    () => {
      const w = planned();
      slice = 0;
      let last = performance.now();
      const tick = () => {
        const now = performance.now();
        slice = Math.max(slice, now - last);
        last = now;
      };
      const sampling = clipSampling(w, 60);
      while (!sampling.step()) tick();
      const work = reportingClip(sampling.clip, ownFeet(body), body.legLength, { skin: mannequinSkin(body) });
      while (!work.next().done) tick();
      const look = w.surveying();
      while (!look.next().done) tick();
      tick();
    },
    5,
    3,
  );
  rows.push([
    `${STEPS} steps of a ${key}, sampled at 60 fps and measured`,
    ms(measured),
    `longest stretch between two looks at a cancel: ${slice.toFixed(1)} ms`,
  ]);
}

const long = makeClip(order, 60, { inPlace: false, cycles: 64 }).document;
const text = encodeBvh(toBvh(long));
const megabytes = text.length / 1e6;
const ours = medianSeconds(() => void fromBvh(decodeBvh(text), 1, 'bench'), 7, 2);
const loader = medianSeconds(() => void new BVHLoader().parse(text), 5, 1);
rows.push([`read a BVH of ${megabytes.toFixed(1)} MB`, `${(megabytes / ours).toFixed(1)} MB/s`, `three.js BVHLoader: ${(megabytes / loader).toFixed(1)} MB/s`]);

{
  // A recording of a person, of Debian's assimp-testmodels.
  const { bytes, brought } = await recording(RECORDINGS.ladder);
  const recorded = new TextDecoder().decode(bytes);
  const [mine, theirs] = [
    medianSeconds(() => void fromBvh(decodeBvh(bytes), 1, 'bench'), 7, 2),
    medianSeconds(() => void new BVHLoader().parse(recorded), 5, 1),
  ];
  rows.push([
    `read a recording, 31 joints × ${RECORDINGS.ladder} frames`,
    ms(mine),
    `three.js BVHLoader: ${ms(theirs)}, ${(theirs / mine).toFixed(1)} times as long`,
  ]);
  const found = medianSeconds(
    () => {
      const { figure, contacts, first, calm } = analyseClip(brought.figure);
      travelsOf(figure, { contacts, first, calm, smooth: 0.5 }).of('contacts');
    },
    7,
    3,
  );
  rows.push(['its contacts and travel', ms(found), '']);
}

const start = performance.now();
for (let i = 0; i < 5; i++) await encodeGlb([long]);
rows.push([
  `write GLB, ${long.body.skeleton.names.length} joints × ${long.clip.frames} frames`,
  ms((performance.now() - start) / 5000),
  'the library writes it',
]);

{
  const cast = { body, ground: levelGround, slow: gait, fast: findPreset('run')!.make() };
  const asked: PieceAsk[] = [];
  const lead = createLead(cast, { x: 0, z: 0, heading: 0 }, (ask) => asked.push(ask));
  const decisions: number[] = [],
    pieces: number[] = [];
  for (let i = 0; i < 60 * 60; i++) {
    const t = i / 60;
    const before = performance.now();
    const some = lead.lead(t, { x: 6 * Math.sin(0.5 * t), z: 6 * Math.sin(0.9 * t) });
    if (some) decisions.push(performance.now() - before);
    for (const ask of asked.splice(0)) {
      const begun = performance.now();
      lead.take(planPiece(cast, ask), t);
      pieces.push(performance.now() - begun);
    }
  }
  const part = (of: number[], share: number) => of.sort((a, b) => a - b)[Math.floor(share * (of.length - 1))]!.toFixed(2);
  rows.push(['led by hand: the next foothold decided', `${part(decisions, 0.5)} ms`, `95 %: ${part(decisions, 0.95)} ms, most: ${part(decisions, 1)} ms`]);
  rows.push(['led by hand: its piece planned, in the worker', `${part(pieces, 0.5)} ms`, `95 %: ${part(pieces, 0.95)} ms`]);
}

const bytes = firstLoadBytes(join(import.meta.dirname, '..'));
rows.push([
  'first-load script of the Cycle station, gzip',
  bytes ? `${(bytes.station / 1000).toFixed(0)} kB` : 'not built',
  bytes ? `framework alone: ${(bytes.framework / 1000).toFixed(0)} kB` : '',
]);

console.log(`Nimbret benchmark, Node ${process.version}; medians, one run\n`);
const width = [0, 1].map((c) => Math.max(...rows.map((r) => r[c]!.length)));
for (const [work, own, other] of rows) console.log(`${work.padEnd(width[0]!)}  ${own.padEnd(width[1]!)}  ${other}`);
