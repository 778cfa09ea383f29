import type { FootModel } from '../body/foot-model';
import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { analyseClip, type Analysis } from './analysis';
import { draggedIn, draggedStill, type Drag } from './drags';
import { stretchedTo, travelsOf } from './kinds';
import { lockedClip } from './lock';
import { lockedContacts } from './locked-contacts';
import { lockOf } from './lock-loop';
import { correctedClip } from './correct';
import type { Layer } from './layer-spec';
import type { TravelKind } from './names';
import { movedBy, type Moved } from './moved';
import { standsOf } from './recorded-parts';
import { measureSlide, type ContactSlide } from './slide';
import type { TravelSpec } from './spec';
import { addTravel } from './split';
import { traceSoles } from './trace';
import { exchangeTravel, stayingTrack, withAxes, type Track } from './track';

/** A clip with its travel and its feet as they were asked for, and what was found on the way. */
export interface PreparedClip {
  readonly analysis: Analysis;
  /** The clip as it comes out. */
  readonly clip: Clip;
  /** Contacts that count, and with a lock those of the locked clip. */
  readonly contacts: readonly ClipContact[];
  readonly held: readonly ClipContact[];
  /** The travel under the clip, whole and as it comes out. */
  readonly travel: Track;
  readonly put: Track;
  /** Slide of each contact with the travel that was asked for; and of each as it comes out. */
  readonly before: readonly ContactSlide[];
  readonly after: readonly ContactSlide[];
  /** Contacts in which the foot is dragged, and how far: with a lock all that it leaves, without one those in which nothing stands. */
  readonly drags: readonly Drag[];
  /** With a lock: how far it moved hips, ankles and knees, and what it calmed. */
  readonly moved: Moved | null;
}

/** Does to a clip what a spec asks for. */
export function prepareClip(
  figure: ClipFigure,
  spec: TravelSpec,
  found: Analysis = analyseClip(figure),
  stacks: readonly (readonly Layer[])[] = [],
): PreparedClip {
  const contacts = spec.contacts ?? found.contacts;
  const analysis = { ...found, contacts };
  const { first, calm, floor } = analysis;
  const { clip: source, feet } = analysis.figure;
  const travels = travelsOf(analysis.figure, { contacts, first, calm, smooth: spec.smoothHz });
  // Feet are locked where the clip travels; what is not kept is taken out again at the end.
  const kind: TravelKind = spec.kind !== 'none' ? spec.kind : analysis.inPlace ? 'contacts' : 'asIs';
  const track = travels.of(kind);
  const travel = spec.distance === null ? track : stretchedTo(track, spec.distance, source, first);
  const moving = { ...analysis.figure, clip: exchangeTravel(source, travels.own, travel) };
  // What goes nowhere is measured with the steady travel its feet ask for.
  const lacks = kind === 'asIs' && spec.distance === null ? analysis.missing : NOT_MISSING;
  const before = slidesOf(moving.clip, feet, contacts, lacks);
  const lock = spec.lock ? lockOf(moving, contacts.flatMap(standsOf), { ...spec.lock, floor, first, calm }) : null;
  const steady = lock ? lockedClip(moving.clip, lock) : moving.clip;
  const held = lock ? lockedContacts({ ...moving, clip: steady }, spec.contacts ?? (found.told ? contacts : null), lock, analysis) : contacts;
  const locked = stacks.reduce((clip, layers) => correctedClip({ ...moving, clip }, layers, travel.places, held), steady);
  const after = lock || locked !== steady ? slidesOf(locked, feet, held, lacks) : before;
  const drags = lock ? draggedStill(locked, feet, contacts, held) : draggedIn(locked, feet, contacts);
  const put = spec.kind === 'none' ? stayingTrack(travel) : withAxes(travel, spec.axes);
  const clip = exchangeTravel({ ...locked, contacts: held }, travel, put);
  return { analysis, clip, contacts, held, travel, put, before, after, drags, moved: lock ? movedBy(moving, steady, calm) : null };
}

const NOT_MISSING = [0, 0] as const;

/** Slide of each contact of a clip as it stands, or with the steady travel it lacks. */
const slidesOf = (clip: Clip, feet: readonly FootModel[], contacts: readonly ClipContact[], [x, z]: readonly [number, number]): ContactSlide[] =>
  measureSlide(traceSoles(addTravel(clip, x, z), feet), contacts);
