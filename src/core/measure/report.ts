import { finish } from '../math/finish';
import type { Clip, ClipContact } from '../clip/clip';
import { SIDE_NAMES, type SideName } from '../body/roles';
import { extent, toDegrees } from '../math/scalar';
import type { FootModel } from '../body/foot-model';
import type { Ground } from '../ground/ground';
import { addTravel } from '../travel/split';
import { borneOut, standsExactly, withCheckedParts } from '../travel/borne-out';
import { bodyWay } from '../travel/body-way';
import { travelFacts } from '../travel/kinds';
import type { DetectedMotion } from '../travel/contacts';
import { pictureHold, seeingContacts } from '../travel/held-pictures';
import { movedTrace, tracing } from '../travel/trace';
import { measuringBody, type BodyMeasures } from './body-measures';
import { measuringCrossing, type Crossing } from './crossing';
import { measureSeam, type Seam } from './seam';
import type { Skin } from './skin';
import { measuringSlide, type ContactSlide } from '../travel/slide';

/** Everything Nimbret measures of a clip. Fields that make no sense for it are null. */
export interface ClipReport extends BodyMeasures {
  readonly contacts: readonly ClipContact[];
  readonly slides: readonly ContactSlide[];
  readonly slideMm: { readonly atFrames: number | null; readonly between: number | null };
  /** Where limbs run into each other; null where there is no skin. */
  readonly crossing: Crossing | null;
  readonly seam: Seam | null;
  /** Distance along the way and displacement from start to end, of the whole clip or of one round; direction against the first heading. */
  readonly travel: {
    readonly distanceM: number;
    readonly displacementM: number;
    readonly speedMps: number;
    readonly directionDeg: number | null;
    readonly turnDeg: number;
  };
  readonly timing: {
    readonly strideTimeS: number | null;
    readonly strideLengthM: number | null;
    readonly cadencePerMin: number | null;
    readonly dutyFactor: Readonly<Record<SideName, number | null>>;
  };
  /** True where the clip stays in place and its travel was computed from its feet. */
  readonly inPlace: boolean;
}

/** What is known of a clip besides its frames. */
export interface Known {
  /** The pose after a loop's last frame, if it is known apart from the first. */
  readonly closing?: Float64Array;
  readonly skin?: Skin;
  /** The ground it was made for; without it the ground is level. */
  readonly ground?: Ground;
  /** What was found of it before: contacts, level of the floor (m), the steady travel it lacks (m/s). */
  readonly found?: { readonly contacts: readonly ClipContact[]; readonly floor: number; readonly first: number; readonly missing: readonly [number, number] };
}

/**
 * Measures a clip bit by bit, in one pass over one trace of it. Contacts: those found before, or the clip's own where the soles
 * bear them out, otherwise as detected.
 */
export function* reportingClip(
  source: Clip,
  feet: readonly FootModel[],
  legLength: number,
  { closing, skin, ground, found }: Known = {},
): Generator<undefined, ClipReport> {
  const plain = yield* tracing(source, feet, ground ?? null);
  const seen: DetectedMotion = found
    ? { contacts: found.contacts, ground: found.floor, missingX: found.missing[0], missingZ: found.missing[1] }
    : yield* seeingContacts(plain, feet, legLength, ground ?? null);
  yield undefined;
  const clip = addTravel(source, seen.missingX, seen.missingZ);
  const trace = movedTrace(plain, clip, seen.missingX, seen.missingZ);
  const told = found ? null : clip.contacts;
  const borne = told && borneOut(clip, told, seen.contacts, pictureHold(source), ground === undefined);
  const contacts = borne ? withCheckedParts(trace, feet, told) : ((told && standsExactly(trace, feet, told, seen.contacts)) ?? seen.contacts);
  const slides = yield* measuringSlide(trace, contacts);
  const most = (pick: (s: ContactSlide) => number) => (slides.length > 0 ? extent(slides.map(pick))[1] : null);
  const body = yield* measuringBody(trace, contacts, seen.ground);
  yield undefined;
  const seam = measureSeam(trace, closing);
  yield undefined;
  const crossing = skin ? yield* measuringCrossing(clip, skin) : null;
  const travel = travelOf(clip, feet, legLength, found?.first ?? 0);
  return {
    contacts,
    slides,
    slideMm: { atFrames: most((s) => s.atFramesMm), between: most((s) => s.betweenMm) },
    ...body,
    crossing,
    seam,
    travel,
    timing: timingOf(clip, contacts, travel.speedMps),
    inPlace: seen.missingX !== 0 || seen.missingZ !== 0,
  };
}

/** The same at once. */
export function reportClip(source: Clip, feet: readonly FootModel[], legLength: number, known?: Known): ClipReport {
  return finish(reportingClip(source, feet, legLength, known));
}

function travelOf(clip: Clip, feet: readonly FootModel[], legLength: number, first: number): ClipReport['travel'] {
  const { distance, displacement, speed, direction, turn } = travelFacts(bodyWay({ clip, feet, legLength }, first), clip, first);
  return {
    distanceM: distance,
    displacementM: displacement,
    speedMps: speed,
    directionDeg: displacement > 1e-6 ? toDegrees(direction) : null,
    turnDeg: toDegrees(turn),
  };
}

function timingOf(clip: Clip, contacts: readonly ClipContact[], speed: number): ClipReport['timing'] {
  const strideFrames = (foot: SideName): number | null => {
    const own = contacts.filter((c) => c.foot === foot);
    if (clip.loop) return own.length > 0 ? clip.frames / own.length : null;
    return own.length > 1 ? (own[own.length - 1]!.from - own[0]!.from) / (own.length - 1) : null;
  };
  const duty = (foot: SideName): number | null => {
    const stride = strideFrames(foot);
    let own = contacts.filter((c) => c.foot === foot);
    // Contacts cut off by the ends of a clip that does not loop say nothing about their length.
    if (!clip.loop) own = own.filter((c) => c.from > 0 && c.to < clip.frames - 1);
    if (!stride || own.length === 0) return null;
    return own.reduce((sum, c) => sum + c.to - c.from, 0) / own.length / stride;
  };
  const stride = strideFrames('left') ?? strideFrames('right');
  const strideTimeS = stride === null ? null : stride / clip.rate;
  return {
    strideTimeS,
    strideLengthM: strideTimeS === null ? null : speed * strideTimeS,
    cadencePerMin: strideTimeS === null ? null : 120 / strideTimeS,
    dutyFactor: Object.fromEntries(SIDE_NAMES.map((s) => [s, duty(s)])) as Record<SideName, number | null>,
  };
}
