import { createBody, type Body } from '@/core/body/body';
import { sampleClip } from '@/core/clip/sample';
import { setMembers } from '@/core/directions/set';
import { EXPORT_FORMATS } from '@/core/formats/format';
import { fitToFrames } from '@/core/gait/timing';
import { cycleMotion, notesOf, planMotion, type Motion } from '@/core/handover/motions';
import { packMotions, zipPack } from '@/core/handover/pack';
import { ownFeet } from '@/core/measure/foot-model';
import { reportClip, type ClipReport } from '@/core/measure/report';
import { createSolver } from '@/core/solve/solver';
import { defaultPlan } from '@/core/steps/plan';
import type { Progress, ToWorker, WorkerCalls } from './protocol';

type Tell = (progress: Progress) => void;

/** Answers one call; the worker's whole work, runnable without a worker. */
export async function handle(message: ToWorker, tell: Tell): Promise<WorkerCalls[ToWorker['call']]['answer']> {
  switch (message.call) {
    case 'measure':
      return measure(message.request);
    case 'set':
      return measureSet(message.request);
    case 'pack':
      return pack(message.request, tell);
  }
}

/** Measures a motion as it would be handed over at `rate`. */
function reportOf(motion: Motion, body: Body, rate: number): { report: ClipReport; notes: string[] } {
  const gait = fitToFrames(motion.gait, rate);
  const solver = createSolver(body, gait, motion.schedule(gait, body));
  const clip = sampleClip(solver, rate, motion.name);
  return { report: reportClip(clip, ownFeet(body.sole), body.legLength), notes: notesOf(motion.gait, solver, rate) };
}

function measure({ body: spec, gait, motion, rate }: WorkerCalls['measure']['request']): WorkerCalls['measure']['answer'] {
  const body = createBody(spec);
  return reportOf(motion.kind === 'cycle' ? cycleMotion(gait) : planMotion({ ...defaultPlan(), ...motion }, gait), body, rate);
}

function measureSet({ body: spec, gait, set, rate }: WorkerCalls['set']['request']): WorkerCalls['set']['answer'] {
  const body = createBody(spec);
  return {
    members: setMembers(set, gait).map((m) => {
      const { report, notes } = reportOf(cycleMotion(m.gait), body, rate);
      return {
        directionDeg: m.directionDeg,
        twin: m.twin,
        speed: report.travel.speedMps,
        travel: report.travel.distanceM,
        slideMm: report.slideMm.atFrames ?? 0,
        betweenMm: report.slideMm.between ?? 0,
        notes,
      };
    }),
  };
}

async function pack(request: WorkerCalls['pack']['request'], tell: Tell): Promise<WorkerCalls['pack']['answer']> {
  const { gait, plan, planGait, set, setGait, handover } = request;
  const body = createBody(request.body);
  const motions: Motion[] = [];
  if (handover.cycle) motions.push(cycleMotion(gait));
  if (handover.plan) motions.push(planMotion(plan, planGait));
  for (const member of setMembers(set, setGait)) if (handover.directions.includes(member.directionDeg) && !member.twin) motions.push(cycleMotion(member.gait));
  const formats = EXPORT_FORMATS.filter((f) => handover.formats.includes(f.id));
  const files = (await packMotions(motions, body, {
    rate: handover.rate,
    inPlace: handover.inPlace,
    cycles: handover.cycles,
    hold: handover.hold,
    closing: handover.closing,
    formats,
    onProgress: (done, total, name) => tell({ done, total, name }),
  }))!;
  const told = files.map((f) => ({ name: f.name, size: f.bytes.byteLength, check: f.check, notes: f.notes }));
  if (files.length === 1) {
    const file = files[0]!;
    return { name: file.name, mime: formats[0]!.mime, bytes: file.bytes, files: told };
  }
  return { name: `${body.spec.name.toLowerCase().replace(/\W+/g, '-')}-hand-over.zip`, mime: 'application/zip', bytes: zipPack(files, body), files: told };
}
