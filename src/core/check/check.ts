import type { ContactManner, ContactPart } from '../clip/clip';
import { deckWay } from '../clip/deck';
import type { ClipFigure } from '../clip/figure';
import { bring } from '../formats/bring';
import { withContacts } from '../formats/contacts/file';
import { assertFinite } from '../formats/limits';
import { readMotionFile } from '../formats/motion-file';
import { buildGround } from '../ground/build';
import type { GroundSpec } from '../ground/spec';
import { finishLater } from '../math/finish';
import { toDegrees } from '../math/scalar';
import { analyseClip } from '../travel/analysis';
import { draggedIn, tellDrags } from '../travel/drags';
import { reportingClip, type ClipReport } from '../measure/report';
import type { Skin } from '../measure/skin';
import { asLoop } from '../travel/as-loop';

/** What `./nimbret check --json` prints. Fields that make no sense for a file are null. */
export interface CheckResult {
  readonly format: 'nimbret.check';
  readonly version: 1;
  readonly file: string;
  readonly clip: string;
  readonly frames: number;
  readonly rate: number;
  readonly unitMetres: number;
  readonly legLengthM: number;
  /** Frames of the file, from 0, both ends inside; the end of a loop's contact may lie in the next round (≥ frames). */
  readonly contacts: readonly {
    readonly foot: 'left' | 'right';
    readonly from: number;
    readonly to: number;
    readonly manner: ContactManner;
    readonly sure: number;
    readonly parts?: readonly ContactPart[];
  }[];
  readonly slideMm: ClipReport['slideMm'];
  /** Contacts in which a foot is dragged instead of standing, and how far, mm. */
  readonly dragged: ReturnType<typeof tellDrags>;
  /** Whether the contacts the file tells are borne out by its soles; null where it tells none, or a ground was given. */
  readonly told: boolean | null;
  readonly sinkMm: number;
  readonly stretch: number;
  readonly seam: ClipReport['seam'];
  /** Over its floor, also where that moves. */
  readonly travel: ClipReport['travel'];
  /** Where the file tells a floor that moves: how far (m) it goes, x and z; all else is measured on it. */
  readonly floorGoesM?: readonly [number, number];
  readonly kneeSnapDegPerS2: number;
  /** Least and largest vertical acceleration of the hips. */
  readonly hipsAccelerationMps2: readonly [number, number];
  /** Least and largest vertical load, parts of the weight; null for a skeleton without the joints it takes. */
  readonly load: readonly [number, number] | null;
  /** Deepest overlap of legs, or of arms with trunk and thighs, as the skin shows it; null where there is no skin. */
  readonly overlapMm: number | null;
  readonly timing: ClipReport['timing'];
}

/** A contacts file that was given beside a motion file. */
export interface ContactsText {
  readonly text: string;
  readonly file: string;
}

/** Checks every clip in a BVH or GLB file against a ground; without one against what the file tells, or level ground. Throws FormatFault where the file cannot be read or has no two legs. */
export const checkFile = (bytes: Uint8Array, file: string, ground?: GroundSpec, contacts?: ContactsText): Promise<CheckResult[]> =>
  finishLater(checkingFile(bytes, file, ground, contacts));

/** The same bit by bit. */
export async function* checkingFile(bytes: Uint8Array, file: string, ground?: GroundSpec, contacts?: ContactsText): AsyncGenerator<undefined, CheckResult[]> {
  const name = file.replace(/^.*[\\/]/, '');
  const results: CheckResult[] = [];
  const { clips } = await readMotionFile(bytes, name);
  yield undefined;
  for (const found of clips) {
    const { figure, unit } = bring(found);
    // A file that tells contacts tells whether it loops by how it goes on.
    const told = contacts ? withContacts(contacts.text, contacts.file, { ...figure, clip: asLoop(figure.clip, figure.feet) }) : figure;
    results.push(yield* checkingClip(told, name, unit, found.skin, ground ?? found.ground ?? undefined));
  }
  return results;
}

function* checkingClip(figure: ClipFigure, file: string, unitMetres: number, skin: Skin | null, ground?: GroundSpec): Generator<undefined, CheckResult> {
  const source = figure.clip;
  const found = ground ? null : analyseClip(figure);
  yield undefined;
  const { feet, legLength } = found?.figure ?? figure;
  const clip = found?.figure.clip ?? asLoop(source, feet);
  const report = yield* reportingClip(clip, feet, legLength, {
    ...(skin ? { skin } : {}),
    ...(ground ? { ground: buildGround(ground) } : {}),
    ...(found ? { found } : {}),
  });
  const result: CheckResult = {
    format: 'nimbret.check',
    version: 1,
    file,
    clip: clip.name,
    frames: clip.frames,
    rate: clip.rate,
    unitMetres,
    legLengthM: legLength,
    contacts: report.contacts.map((c) => ({
      foot: c.foot,
      from: Math.ceil(c.from - 1e-6),
      to: Math.floor(c.to + 1e-6),
      manner: c.manner ?? 'stands',
      sure: c.sure ?? 1,
      ...(c.parts ? { parts: c.parts } : {}),
    })),
    slideMm: report.slideMm,
    dragged: tellDrags(draggedIn(clip, feet, report.contacts)),
    told: found?.told ?? null,
    ...(figure.deck ? { floorGoesM: deckWay(figure.deck).goes } : {}),
    sinkMm: report.sinkMm,
    stretch: report.stretch,
    seam: report.seam,
    travel: report.travel,
    kneeSnapDegPerS2: toDegrees(report.kneeSnap),
    hipsAccelerationMps2: report.hipsAcceleration,
    load: report.load,
    overlapMm: report.crossing ? Math.max(report.crossing.legsMm, report.crossing.armsMm) : null,
    timing: report.timing,
  };
  assertFinite(result, clip.name);
  return result;
}
