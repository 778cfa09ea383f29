import { movedContact, type ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { unrolled } from '../clip/unroll';
import { finish } from '../math/finish';
import { asLoop } from './as-loop';
import { bodyWay } from './body-way';
import { borneOut, bornByParts, stillAsTold, withCheckedParts } from './borne-out';
import { detectContacts } from './contacts';
import { exactContacts, exactWhere } from './exact-contacts';
import { exactPivots } from './exact-pivots';
import { CALM_HZ } from './foot-series';
import { contactTravel, lackingTravel } from './from-contacts';
import { pictureHold, seeingContacts } from './held-pictures';
import { measuredSoles } from './measured-soles';
import { recordedContacts, shakingOf } from './recorded-contacts';
import { partedAgain, recordedParts } from './recorded-parts';
import { firstFrame } from './rest-pose';
import { addTravel } from './split';
import { exchangeTravel } from './track';
import { movedTrace, traceSoles, TRACE_MARGIN, type ClipTrace } from './trace';
import { wholeContacts } from './whole-contacts';

/** What is found in a clip before anything is done to it. */
export interface Analysis {
  /** The figure, with the soles the recording shows where it shows any. */
  readonly figure: ClipFigure;
  /** Those the clip tells where its soles bear them out, else those that are seen. */
  readonly contacts: readonly ClipContact[];
  /** Whether the contacts a clip tells are borne out by its soles; null where it tells none. */
  readonly told: boolean | null;
  /** Level of the floor, m. */
  readonly floor: number;
  /** The first frame that belongs to the motion: 1 behind a rest pose. */
  readonly first: 0 | 1;
  /** Hz above which feet shake; Infinity where they stand exactly, as made ones do. */
  readonly calm: number;
  /** Whether the body stays in place while its feet go, and the steady travel (m/s, x and z) with which they stand. */
  readonly inPlace: boolean;
  readonly missing: readonly [number, number];
}

/** Part of the low pictures in which a sole stays at its height to EXACT_M: in made clips most of them, in recordings next to none. */
const EXACT_SHARE = 0.3;
/** The foot that is low less often is so at least in this part of the other's pictures. */
const OTHER_SHARE = 0.25;
/** Soles this near (part of ℓ) to the lowest are low. */
const LOW_PART = 0.006;
const EXACT_M = 2e-5;

/** Finds contacts, floor and soles of a clip; contacts that it tells are checked. */
export function analyseClip(brought: ClipFigure): Analysis {
  // What leads on into itself is a loop, whether its file says so or not.
  const given = { ...brought, clip: asLoop(brought.clip, brought.feet) };
  const seen = seenIn(given);
  const told = brought.clip.contacts;
  if (!told) return seen;
  const hold = pictureHold(given.clip);
  const borne = (by: Analysis) =>
    borneOut(given.clip, told, by.contacts, hold, true) || stillAsTold(traceSoles(by.figure.clip, by.figure.feet), told, by.contacts);
  // Feet that were locked may be taken for made ones.
  const made = seen.calm !== Infinity || (borne(seen) && told.every((c) => (c.sure ?? 1) === 1));
  const found = made ? seen : recordedRound(given, traceSoles(given.clip, given.feet));
  if (!borne(found)) return { ...seen, told: false };
  const { figure, calm } = found;
  const trace = traceSoles(figure.clip, figure.feet);
  const contacts = calm === Infinity ? withCheckedParts(trace, figure.feet, told) : partedAgain(figure, told, (c) => !bornByParts(trace, c), found);
  return { ...found, contacts, told: true };
}

/** What is seen in a clip, whatever it tells. */
function seenIn(given: ClipFigure): Analysis {
  const { clip, feet, legLength } = given;
  const trace = traceSoles(clip, feet);
  if (stands(trace, legLength)) {
    const made = madeAnalysis(given, trace);
    if (made.inPlace || heldShare(trace, made.contacts) > NEARLY_ALL) return made;
    // What was locked stands exactly too, on soles of its own.
    if (given.soled) return made;
    const other = recordedRound(given, trace);
    const own = traceSoles(other.figure.clip, other.figure.feet);
    return heldShare(own, other.contacts) > heldShare(trace, made.contacts) + MORE ? other : made;
  }
  return recordedRound(given, trace);
}

/** Part of contacts' pictures in which a sole stands exactly that is nearly all; and how much more of it tells one set of soles from another. */
const NEARLY_ALL = 0.9;
const MORE = 0.05;

/** Part of the pictures of contacts in which a point of the sole stands exactly. */
function heldShare(trace: ClipTrace, contacts: readonly ClipContact[]): number {
  const exact = exactContacts(trace);
  let [all, held] = [0, 0];
  for (const c of contacts) {
    const [from, to] = [Math.ceil(c.from - 1e-6), Math.floor(c.to + 1e-6)];
    all += Math.max(0, to - from);
    for (const e of exact) if (e.foot === c.foot) held += Math.max(0, Math.min(to, e.to) - Math.max(from, e.from));
  }
  return all > 0 ? held / all : 1;
}

function madeAnalysis(figure: ClipFigure, trace: ClipTrace): Analysis {
  const { contacts, ground, missingX, missingZ } = finish(seeingContacts(trace, figure.feet, figure.legLength, null));
  const inPlace = missingX !== 0 || missingZ !== 0;
  return { figure, contacts, told: null, floor: ground, first: 0, calm: Infinity, inPlace, missing: [missingX, missingZ] };
}

/** What is found in a clip whose feet shake; in a loop between its neighbours, where nothing ends. */
function recordedRound(given: ClipFigure, trace: ClipTrace): Analysis {
  const { clip, feet } = given;
  if (!clip.loop) return recorded(given, trace);
  const long = { ...given, clip: unrolled(clip, 3) };
  const found = recorded(long, traceSoles(long.clip, feet));
  const n = clip.frames;
  const contacts = found.contacts.filter((c) => c.from >= n && c.from < 2 * n).map((c) => movedContact(c, -n));
  return { ...found, figure: { ...found.figure, clip }, contacts };
}

function recorded(given: ClipFigure, trace: ClipTrace): Analysis {
  const { clip, legLength } = given;
  const first = firstFrame(clip);
  const { missingX, missingZ } = detectContacts(trace, legLength);
  const inPlace = missingX !== 0 || missingZ !== 0;
  // What goes nowhere is given the way its lowest soles ask for, then what all its contacts ask for.
  const moving = inPlace ? movedTrace(trace, addTravel(clip, missingX, missingZ), missingX, missingZ) : trace;
  const shaking = shakingOf(moving, legLength, first);
  const calm = CALM_HZ;
  const found = recordedContacts(moving, legLength, first, shaking);
  const known = { told: null, first, calm, inPlace, missing: [missingX, missingZ] } as const;
  if (inPlace) {
    const own = bodyWay(given, first);
    const put = contactTravel(given, own, lackingTravel(given, found.contacts, { first, calm }), first);
    const goes = { ...given, clip: exchangeTravel(clip, own, put) };
    return { figure: given, ...contactsOn(goes, first, calm, shaking), ...known };
  }
  const measured = () => measuredSoles(given, trace, found.contacts, found.floor, first).map((foot) => exactPivots(clip, foot, first));
  const figure = { ...given, feet: given.soled ? given.feet : measured() };
  return { figure, ...contactsOn(figure, first, calm, shaking), ...known };
}

/** Contacts of a figure of a recording as they are seen in its clip on the soles it has. */
export function seenOn(figure: ClipFigure, first: number, calm: number): ClipContact[] {
  const { clip, legLength } = figure;
  const long = clip.loop ? { ...figure, clip: unrolled(clip, 3) } : figure;
  const n = clip.frames;
  const { contacts } = contactsOn(long, first, calm, shakingOf(traceSoles(long.clip, figure.feet), legLength, first));
  return clip.loop ? contacts.filter((c) => c.from >= n && c.from < 2 * n).map((c) => movedContact(c, -n)) : [...contacts];
}

/** Contacts and floor of a clip that travels, on the soles it has. */
function contactsOn(figure: ClipFigure, first: number, calm: number, shaking: ReturnType<typeof shakingOf>): Pick<Analysis, 'contacts' | 'floor'> {
  const trace = traceSoles(figure.clip, figure.feet);
  const { contacts, floor } = recordedContacts(trace, figure.legLength, first, shaking);
  const whole = recordedParts(figure, wholeContacts(trace, contacts, first), { floor, first, calm });
  return { contacts: exactWhere(trace, whole, exactContacts(trace, first), first), floor };
}

/** Whether soles stand as exactly as made ones do: those of both feet, for a foot that hardly comes down has other soles than it is said to. */
function stands({ clip, soles }: ClipTrace, legLength: number): boolean {
  const levels = soles.flatMap(({ lowest }) => [...lowest.subarray(TRACE_MARGIN, clip.frames + TRACE_MARGIN)]).sort((a, b) => a - b);
  const low = levels[Math.floor(0.02 * levels.length)]! + LOW_PART * legLength;
  let exact = 0;
  const looked = soles.map(() => 0);
  soles.forEach(({ points, pivot, lowest }, s) => {
    for (let f = 0; f + 1 < clip.frames; f++) {
      const i = f + TRACE_MARGIN;
      if (lowest[i]! > low || lowest[i + 1]! > low) continue;
      looked[s] = looked[s]! + 1;
      const k = pivot[i]!;
      if (k === pivot[i + 1] && Math.abs(points[i * 9 + k * 3 + 1]! - points[(i + 1) * 9 + k * 3 + 1]!) < EXACT_M) exact++;
    }
  });
  return exact > EXACT_SHARE * looked.reduce((a, b) => a + b, 0) && Math.min(...looked) >= OTHER_SHARE * Math.max(...looked);
}
