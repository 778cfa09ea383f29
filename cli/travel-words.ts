import { basename } from 'node:path';
import { dragWords } from '../src/core/handover/clip-file';
import { toDegrees } from '../src/core/math/scalar';
import { compareTravel, nearestRelation } from '../src/core/travel/compare';
import { tellDrags } from '../src/core/travel/drags';
import { finished } from '../src/core/travel/edited';
import { travelFacts } from '../src/core/travel/kinds';
import { matchedDistance } from '../src/core/travel/matched';
import type { PreparedClip } from '../src/core/travel/prepare';
import { ANKLE_FAULT_M, type Moved } from '../src/core/travel/moved';
import { worstSlide } from '../src/core/travel/slide';
import type { Done } from './travel-done';

const most = (slides: PreparedClip['before']) => worstSlide(slides) ?? 0;

/** What is told of a clip as JSON. */
export function factsOf({ file, source, known: { brought, mended }, edits, seam, result, onBody }: Done) {
  const { clip: prepared, put, travel, analysis } = result;
  const clip = finished(prepared, edits);
  const round = (v: number) => Math.round(v * 1e6) / 1e6;
  const facts = travelFacts(travel, prepared, analysis.first);
  return {
    format: 'nimbret.travel',
    version: 1,
    file: basename(file),
    clip: clip.name,
    frames: clip.frames,
    rate: clip.rate,
    unitMetres: brought.unit,
    up: brought.up,
    legLengthM: round(brought.figure.legLength),
    restPoseFirst: analysis.first === 1,
    inPlace: analysis.inPlace,
    floorM: round(analysis.floor),
    travel: {
      distanceM: round(facts.distance),
      displacementM: round(facts.displacement),
      speedMps: round(facts.speed),
      directionDeg: round(toDegrees(facts.direction)),
      turnDeg: round(toDegrees(facts.turn)),
    },
    keptDistanceM: round(travelFacts(put, prepared, analysis.first).distance),
    contacts: (onBody?.document.clip.contacts ?? result.held).map((c) => ({ foot: c.foot, from: Math.ceil(c.from - 1e-6), to: Math.floor(c.to + 1e-6) })),
    slideMm: { before: round(most(result.before)), after: round(onBody ? onBody.slide * 1000 : most(result.after)) },
    dragged: tellDrags(onBody?.drags ?? result.drags),
    hipsMm: { mean: round((result.moved?.hips.mean ?? 0) * 1000), most: round((result.moved?.hips.most ?? 0) * 1000) },
    ...(result.moved ? { moved: movedFacts(result.moved, round) } : {}),
    loop: clip.loop || prepared.loop,
    ...(edits.loop === null ? {} : { cut: { from: edits.loop.from, to: edits.loop.to, seamMm: round((seam ?? 0) * 1000) } }),
    mended: mended.map(({ what, count, most, mean }) => ({ what, count, mostMm: round(most * 1000), meanMm: round(mean * 1000) })),
    said: [...source.oddities, ...brought.doubts],
  };
}

/** What a lock moved, with the frames. */
function movedFacts({ hips, ankles, knees, calmHz }: Moved, round: (v: number) => number) {
  return {
    hips: { mm: round(hips.most * 1000), frame: hips.frame },
    ankles: { mm: round(ankles.most * 1000), frame: ankles.frame, foot: ankles.foot, fault: ankles.most > ANKLE_FAULT_M },
    knees: { deg: round(toDegrees(knees.most)), frame: knees.frame, foot: knees.foot },
    calmHz,
  };
}

function movedWords(moved: Moved | null, rate: number): string[] {
  if (!moved) return [];
  const { hips, ankles, knees, calmHz } = moved;
  const at = (frame: number) => `at ${(frame / rate).toFixed(2)} s`;
  const far = ankles.most > ANKLE_FAULT_M ? `, a fault: more than ${ANKLE_FAULT_M * 1000} mm` : '';
  return [
    `  the lock moves the hips by ${(hips.mean * 1000).toFixed(1)} mm on the whole, ${(hips.most * 1000).toFixed(0)} at most (${at(hips.frame)}), the ${ankles.foot} ankle by ${(ankles.most * 1000).toFixed(0)} mm (${at(ankles.frame)}${far}), the ${knees.foot} knee by ${toDegrees(knees.most).toFixed(0)}° (${at(knees.frame)})`,
    ...(calmHz === null ? [] : [`  where feet are held, what shakes faster than ${calmHz} Hz is left out`]),
  ];
}

/** The same in words. */
export function words(done: Done): string {
  const f = factsOf(done);
  const drags = dragWords(done.result);
  const lines = [
    `${f.file}, ${f.clip}: ${f.frames} frames at ${f.rate} fps, ${f.travel.distanceM.toFixed(3)} m at ${f.travel.speedMps.toFixed(3)} m/s, displaced ${f.travel.displacementM.toFixed(3)} m, turns ${f.travel.turnDeg.toFixed(1)}°, ${f.contacts.length} contacts`,
    `  a foot slides up to ${f.slideMm.before.toFixed(1)} mm${done.result.after === done.result.before ? '' : `, locked ${f.slideMm.after.toFixed(2)} mm`}`,
    ...movedWords(done.result.moved, f.rate),
    ...(f.cut ? [`  a loop of frames ${f.cut.from} to ${f.cut.to}: joints were ${f.cut.seamMm.toFixed(1)} mm apart at its seam`] : []),
    ...(drags ? [`  ${drags}`] : []),
    ...f.mended.map((m) => `  mended ${m.what}: ${m.count} places, ${m.mostMm.toFixed(1)} mm at most, ${m.meanMm.toFixed(2)} on the whole`),
    ...(f.restPoseFirst ? ['  the first frame is a rest pose'] : []),
    ...f.said.map((s) => `  ${s}`),
  ];
  return lines.join('\n') + '\n';
}

/** How the travels of two clips agree. */
export function comparison(a: Done, b: Done): string {
  const of = ({ result: { put, clip, analysis } }: Done) => ({
    facts: travelFacts(put, clip, analysis.first),
    seconds: (clip.loop ? clip.frames : Math.max(1, clip.frames - 1)) / clip.rate,
  });
  const { relation, way, turn, time } = nearestRelation(compareTravel(of(a), of(b)));
  const said = { equal: 'equal', opposite: 'equal and opposite', mirrored: 'mirror images' }[relation];
  return `${basename(a.file)} and ${basename(b.file)}: travels nearest to ${said}, off by ${(way * 1000).toFixed(1)} mm, ${toDegrees(turn).toFixed(2)}°, ${time.toFixed(3)} s\n`;
}

/** The way that belongs to so many cycles. */
export function cyclesOf({ file, result: { travel, clip, analysis, held } }: Done, cycles: number): string {
  const matched = matchedDistance(clip, held, travelFacts(travel, clip, analysis.first), cycles);
  return matched
    ? `${basename(file)}: ${cycles} cycles take ${matched.way.toFixed(4)} m, ${matched.seconds.toFixed(3)} s, ${toDegrees(matched.turn).toFixed(2)}°\n`
    : `${basename(file)}: it has no strides\n`;
}
