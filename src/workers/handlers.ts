import { strFromU8 } from 'fflate';
import { ownFeet } from '@/core/body/foot-model';
import { setMembers } from '@/core/directions/set';
import { EXPORT_FORMATS } from '@/core/formats/format';
import { fitGait } from '@/core/gait/fit';
import { findingWay } from '@/core/course/find-way';
import { buildGround } from '@/core/ground/build';
import { levelGround } from '@/core/ground/ground';
import { checkingFile } from '@/core/check/check';
import { packing, uniqueStem, zipPack, type PackedFile } from '@/core/handover/pack';
import { graceOfMotion } from '@/core/handover/grace';
import { notesOf } from '@/core/handover/notes';
import { leadCast, planPiece } from '@/core/steps/lead-piece';
import type { LeadCast } from '@/core/steps/lead-step';
import { contactsName } from '@/core/formats/contacts/file';
import { FROM_ONE } from '@/core/steps/frame-numbers';
import { shotOf } from '@/core/steps/motion';
import { own } from '@/core/math/own';
import { toDegrees } from '@/core/math/scalar';
import { reportingClip } from '@/core/measure/report';
import { mannequinSkin } from '@/core/measure/skin';
import { clipSampling } from '@/core/motion/sample';
import { stretchOf } from '@/core/motion/sampled';
import { builtQuickly, plannedWalk } from '@/core/project/planned-walk';
import { shotIn, type Built, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';
import { bodyOf } from '@/core/body/body';
import type { Clips } from './clips';
import type { Motions } from './motions';
import type { Work, WorkerAnswer, WorkerCalls, WorkerRequest } from './protocol';

/** Answers one call; the worker's whole work, runnable without a worker. */
export function work(message: WorkerRequest, motions: Motions, clips: Clips): Work<WorkerAnswer> {
  switch (message.call) {
    case 'measure':
      return measure(message.request, motions);
    case 'set':
      return measureSet(message.request, motions);
    case 'pack':
      return pack(message.request, motions, clips);
    case 'way':
      return way(message.request);
    case 'walk':
      return walk(message.request, motions);
    case 'stretch':
      return stretch(message.request, motions);
    case 'lead':
      return lead(message.request);
    case 'bring':
      return clips.bring(message.request);
    case 'clip':
      return clips.clip(message.request);
    case 'clipLook':
      return clips.clipLook(message.request);
    case 'loops':
      return clips.loops(message.request);
    case 'clipFilm':
      return clips.clipFilm(message.request);
    case 'clipSkin':
      return clips.clipSkin(message.request);
    case 'takeGait':
      return clips.takeGait(message.request);
    case 'clipFile':
      return clips.clipFile(message.request);
  }
}

/** Measures a motion as it would be handed over at `rate`. */
async function* reportOf({ motion, asked, body }: Built, rate: number, played = rate, shot = FROM_ONE): Work<WorkerCalls['measure']['answer']> {
  // Feet are looked at from the ground they stand on, also where that moves.
  const standing = motion.onGround ?? motion;
  const sampling = clipSampling(standing, rate);
  while (!sampling.step()) yield;
  const report = yield* reportingClip(sampling.clip, ownFeet(body), body.legLength, {
    skin: mannequinSkin(body),
    ...(standing.ground === levelGround ? {} : { ground: standing.ground }),
  });
  yield* motion.surveying();
  const { kneeSnap, hipsAcceleration } = motion.survey();
  const grace = graceOfMotion(asked, motion);
  const jolts = { knee: toDegrees(kneeSnap), kneeBar: toDegrees(grace.kneeSnap), hips: hipsAcceleration, hipsBar: [-grace.hipsDown, grace.hipsUp] as const };
  return { report, notes: notesOf(asked, motion, rate, report.crossing, { rate: played, shot }), jolts };
}

function measure({ spec, part, rate, played }: WorkerCalls['measure']['request'], motions: Motions): Work<WorkerCalls['measure']['answer']> {
  return reportOf(motions.of(spec, part, { rate }), rate, played, shotIn(spec, part));
}

async function* way({ ground, bodies, ...query }: WorkerCalls['way']['request']): Work<WorkerCalls['way']['answer']> {
  const search = findingWay({ ...query, ground: buildGround(ground, (body) => own(bodies, body) ?? null) });
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
    yield { done: Math.round(value * 100), total: 100, name: 'way' };
  }
}

// eslint-disable-next-line require-yield -- A walk is planned in one go.
async function* walk({ spec, part, at, quickly }: WorkerCalls['walk']['request'], motions: Motions): Work<WorkerCalls['walk']['answer']> {
  const planned = plannedWalk(spec, part, at, quickly ? builtQuickly(spec) : (p) => motions.of(spec, p));
  return { ...planned, transfer: [planned.stretch.poses.buffer as ArrayBuffer, planned.facts.rows.buffer as ArrayBuffer] };
}

/** Looked at bit by bit, so many seconds at once. */
const AT_ONCE_S = 1;

async function* stretch({ spec, part, from, to }: WorkerCalls['stretch']['request'], motions: Motions): Work<WorkerCalls['stretch']['answer']> {
  const { motion } = motions.of(spec, part);
  // Each look prepares the steps about it, and those are kept.
  for (let t = from; t < to; t += AT_ONCE_S) {
    stretchOf(motion, t, Math.min(to, t + AT_ONCE_S));
    yield;
  }
  const found = stretchOf(motion, from, to);
  return { ...found, transfer: [found.poses.buffer as ArrayBuffer] };
}

/** Who is led at present: kept from one piece to the next, as what was found for its gaits is. */
let ledNow: { readonly id: string; readonly cast: LeadCast } | null = null;

async function* lead({ id, cast, ask }: WorkerCalls['lead']['request']): Work<WorkerCalls['lead']['answer']> {
  // A newer one may be there already.
  yield;
  if (ledNow?.id !== id) ledNow = { id, cast: leadCast(cast) };
  return planPiece(ledNow.cast, ask);
}

/** Specs of a set's members. */
function memberSpecs(set: string, part: ProjectPart): Extract<MotionSpec, { kind: 'member' }>[] {
  const spec = part.sets[set]!;
  const gait = fitGait(part.gaits[spec.gait]!, bodyOf(part.body).legLength);
  return setMembers(spec, gait).map(({ directionDeg, twin }) => ({ kind: 'member', set, directionDeg, twin }));
}

async function* measureSet({ set, part, rate, played }: WorkerCalls['set']['request'], motions: Motions): Work<WorkerCalls['set']['answer']> {
  const members: WorkerCalls['set']['answer']['members'] = [];
  for (const spec of memberSpecs(set, part)) {
    const { report, notes } = yield* reportOf(motions.of(spec, part, { rate }), rate, played);
    members.push({
      directionDeg: spec.directionDeg,
      twin: spec.twin,
      speed: report.travel.speedMps,
      travel: report.travel.distanceM,
      slideMm: report.slideMm.atFrames ?? 0,
      betweenMm: report.slideMm.between ?? 0,
      notes,
    });
  }
  return { members };
}

/** Clips of the Travel station as files, each measured as written. */
async function* packClips({ clips: specs, part, handover }: WorkerCalls['pack']['request'], clips: Clips): Work<PackedFile[]> {
  const files: PackedFile[] = [];
  const names = new Set<string>();
  for (const spec of specs) {
    const own = handover.inPlace ? { ...spec, travel: { ...spec.travel, kind: 'none' as const } } : spec;
    for (const format of handover.clipsOnBody ? handover.formats : (['own'] as const)) {
      const ending = format === 'own' ? /\.[^.]+$/.exec(spec.file.name)![0].toLowerCase() : EXPORT_FORMATS.find((f) => f.id === format)!.extension;
      const name = `${uniqueStem(`${handover.clipsOnBody ? `${part.body.name} ` : ''}${spec.name}`, ending, names)}${ending}`;
      yield { done: files.length, total: specs.length, name };
      const { bytes, drags, contacts } = yield* clips.clipFile({ spec: own, format, body: part.body, carrier: handover.carrier });
      const beside = contacts && handover.contacts ? contacts : undefined;
      const check = (yield* checkingFile(bytes, name, undefined, beside && { text: strFromU8(beside), file: contactsName(name) }))[0]!;
      files.push({
        name,
        bytes,
        check,
        ...(beside ? { contacts: beside } : {}),
        notes: drags ? [{ kind: 'fault', words: `${spec.name}: ${drags}` }] : [],
        directionDeg: check.travel.directionDeg ?? 0,
      });
    }
  }
  return files;
}

async function* pack(request: WorkerCalls['pack']['request'], motions: Motions, clips: Clips): Work<WorkerCalls['pack']['answer']> {
  const { motions: specs, part, handover } = request;
  const fit = { rate: handover.rate, hold: handover.hold };
  const formats = EXPORT_FORMATS.filter((f) => handover.formats.includes(f.id));
  const made = yield* packing(
    specs.map((spec) => () => {
      const built = motions.of(spec, part, fit);
      // Of a walk its shot is handed over.
      return spec.kind === 'plan' ? { ...built, motion: shotOf(built.motion, part.plans[spec.plan]!.shot) } : built;
    }),
    {
      rate: handover.rate,
      inPlace: handover.inPlace,
      carrier: handover.carrier,
      cycles: handover.cycles,
      hold: handover.hold,
      closing: handover.closing,
      formats,
      contacts: handover.contacts,
    },
  );
  const files = [...made, ...(yield* packClips(request, clips))];
  const told = files.map((f) => ({ name: f.name, size: f.bytes.byteLength, check: f.check, notes: f.notes }));
  if (files.length === 1 && !files[0]!.contacts) {
    const file = files[0]!;
    const mime = EXPORT_FORMATS.find((f) => file.name.endsWith(f.extension))!.mime;
    return { name: file.name, mime, bytes: file.bytes, files: told };
  }
  const body = bodyOf(part.body);
  return { name: `${body.spec.name.toLowerCase().replace(/\W+/g, '-')}-hand-over.zip`, mime: 'application/zip', bytes: zipPack(files, body), files: told };
}
