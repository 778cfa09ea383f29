import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { unrolled } from '../clip/unroll';
import { asLoop } from './as-loop';
import { detectContacts } from './contacts';
import { CALM_HZ } from './foot-series';
import { contactTravel, lackingTravel } from './from-contacts';
import { bodyWay } from './body-way';
import { measuredSoles } from './measured-soles';
import { shakingOf, recordedContacts } from './recorded-contacts';
import { firstFrame } from './rest-pose';
import { addTravel } from './split';
import { exchangeTravel } from './track';
import { wholeContacts } from './whole-contacts';
import { movedTrace, traceSoles, TRACE_MARGIN, type ClipTrace } from './trace';

/** What is found in a clip before anything is done to it. */
export interface Analysis {
  /** The figure, with the soles the recording shows where it shows any. */
  readonly figure: ClipFigure;
  readonly contacts: readonly ClipContact[];
  /** Level of the floor, m. */
  readonly floor: number;
  /** The first frame that belongs to the motion: 1 behind a rest pose. */
  readonly first: 0 | 1;
  /** Hz above which feet shake; Infinity where they stand exactly, as made ones do. */
  readonly calm: number;
  /** Whether the body stays in place while its feet go. */
  readonly inPlace: boolean;
}

/** Part of the low pictures in which a sole stays at its height to EXACT_M: in made clips most of them, in recordings next to none. */
const EXACT_SHARE = 0.3;
/** The foot that is low less often is so at least in this part of the other's pictures. */
const OTHER_SHARE = 0.25;
/** Soles this near (part of ℓ) to the lowest are low. */
const LOW_PART = 0.006;
const EXACT_M = 2e-5;

/** Finds contacts, floor and soles of a clip. Contacts a clip tells are believed by whoever asks for them, not here. */
export function analyseClip(brought: ClipFigure): Analysis {
  // What leads on into itself is a loop, whether its file says so or not.
  const given = { ...brought, clip: asLoop(brought.clip, brought.feet) };
  const { clip, feet, legLength } = given;
  const trace = traceSoles(clip, feet);
  if (stands(trace, legLength)) {
    const { contacts, ground, missingX, missingZ } = detectContacts(trace, legLength);
    const inPlace = missingX !== 0 || missingZ !== 0;
    return { figure: given, contacts, floor: ground, first: 0, calm: Infinity, inPlace };
  }
  if (!clip.loop) return recorded(given, trace);
  // A loop is looked at between its neighbours, where nothing ends.
  const long = { ...given, clip: unrolled(clip, 3) };
  const found = recorded(long, traceSoles(long.clip, feet));
  const n = clip.frames;
  const contacts = found.contacts.filter((c) => c.from >= n && c.from < 2 * n).map((c) => ({ ...c, from: c.from - n, to: c.to - n }));
  return { ...found, figure: { ...found.figure, clip }, contacts };
}

/** What is found in a clip whose feet shake. */
function recorded(given: ClipFigure, trace: ClipTrace): Analysis {
  const { clip, feet, legLength } = given;
  const first = firstFrame(clip);
  const { missingX, missingZ } = detectContacts(trace, legLength);
  const inPlace = missingX !== 0 || missingZ !== 0;
  // What goes nowhere is given the way its lowest soles ask for, then what all its contacts ask for.
  const moving = inPlace ? movedTrace(trace, addTravel(clip, missingX, missingZ), missingX, missingZ) : trace;
  const shaking = shakingOf(moving, legLength, first);
  const calm = CALM_HZ;
  let found = recordedContacts(moving, legLength, first, shaking);
  if (inPlace) {
    const own = bodyWay(given, first);
    const put = contactTravel(given, own, lackingTravel(given, found.contacts, { first, calm }), first);
    const seen = traceSoles(exchangeTravel(clip, own, put), feet);
    found = recordedContacts(seen, legLength, first, shaking);
    return { figure: given, ...found, contacts: wholeContacts(seen, found.contacts, first), first, calm, inPlace };
  }
  const figure = { ...given, feet: measuredSoles(given, trace, found.contacts, found.floor, first) };
  const seen = traceSoles(clip, figure.feet);
  found = recordedContacts(seen, legLength, first, shaking);
  return { figure, ...found, contacts: wholeContacts(seen, found.contacts, first), first, calm, inPlace };
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
