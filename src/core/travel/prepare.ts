import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { analyseClip, type Analysis } from './analysis';
import { stretchedTo, travelsOf } from './kinds';
import { lockedClip, type Lock } from './lock';
import { lockOf } from './lock-loop';
import { pivotSlides, type PivotSlide } from './pivot-slide';
import { correctedClip } from './correct';
import type { Layer } from './layer-spec';
import type { TravelKind } from './names';
import type { TravelSpec } from './spec';
import { standingOf, staysOf } from './stays';
import { exchangeTravel, stayingTrack, withAxes, type Track } from './track';

/** A clip with its travel and its feet as they were asked for, and what was found on the way. */
export interface PreparedClip {
  readonly analysis: Analysis;
  /** The clip as it comes out. */
  readonly clip: Clip;
  /** Contacts that count, and with a lock the stays in them that are held. */
  readonly contacts: readonly ClipContact[];
  readonly held: readonly ClipContact[];
  /** The travel under the clip, whole and as it comes out. */
  readonly travel: Track;
  readonly put: Track;
  /** Slide of each contact with the travel that was asked for, without arriving and leaving; and of each that is held once feet were locked. */
  readonly before: readonly PivotSlide[];
  readonly after: readonly PivotSlide[];
  /** With a lock: contacts in which the foot is dragged to another place, which the lock leaves as it is, and how far. */
  readonly drags: readonly PivotSlide[];
  /** How far the hips gave way: mean and most, m; 0 without a lock. */
  readonly hips: { readonly mean: number; readonly most: number };
}

/** A foot that goes less far (m) between its stays is not dragged. */
const DRAGGED_M = 0.005;

/** Does to a clip what a spec asks for. `known`: contacts that the clip tells itself. */
export function prepareClip(
  figure: ClipFigure,
  spec: TravelSpec,
  known: readonly ClipContact[] | null = null,
  found: Analysis = analyseClip(figure),
  stacks: readonly (readonly Layer[])[] = [],
): PreparedClip {
  const contacts = spec.contacts ?? known ?? found.contacts;
  const analysis = { ...found, contacts };
  const { first, calm, floor } = analysis;
  const { clip: source } = analysis.figure;
  const travels = travelsOf(analysis.figure, { contacts, first, calm, smooth: spec.smoothHz });
  // Feet are locked where the clip travels; what is not kept is taken out again at the end.
  const kind: TravelKind = spec.kind !== 'none' ? spec.kind : analysis.inPlace ? 'contacts' : 'asIs';
  const track = travels.of(kind);
  const travel = spec.distance === null ? track : stretchedTo(track, spec.distance, source, first);
  const moving = { ...analysis.figure, clip: exchangeTravel(source, travels.own, travel) };
  // A recorded foot arrives and leaves, which is no slide; where it is dragged on it is, and only its stays can be held.
  const stays = calm === Infinity || spec.contacts || known ? contacts.map((c) => [c]) : staysOf(moving, contacts, first);
  const standing = contacts.map((c, i) => standingOf(c, stays[i]!));
  const before = pivotSlides(moving.clip, moving.feet, standing, floor, calm === Infinity ? 'made' : 'recorded');
  const lock = spec.lock ? lockOf(moving, stays.flat(), { ...spec.lock, floor, first, calm }) : null;
  const held = lock ? lock.contacts : contacts;
  const steady = lock ? lockedClip(moving.clip, lock) : moving.clip;
  const locked = stacks.reduce((clip, layers) => correctedClip({ ...moving, clip }, layers, travel.places, held), steady);
  const after =
    lock || locked !== steady
      ? pivotSlides(locked, moving.feet, lock ? held : standing, floor, lock ? 'locked' : calm === Infinity ? 'made' : 'recorded')
      : before;
  const dragged = lock ? standing.filter((_, i) => stays[i]!.length !== 1) : [];
  const drags = pivotSlides(locked, moving.feet, dragged, floor).filter((d) => d.metres > DRAGGED_M);
  const put = spec.kind === 'none' ? stayingTrack(travel) : withAxes(travel, spec.axes);
  const clip = exchangeTravel({ ...locked, contacts: held }, travel, put);
  return { analysis, clip, contacts, held, travel, put, before, after, drags, hips: lock ? waySizes(lock) : { mean: 0, most: 0 } };
}

function waySizes({ hips }: Lock): { mean: number; most: number } {
  let [sum, most] = [0, 0];
  const frames = hips.length / 3;
  for (let f = 0; f < frames; f++) {
    const d = Math.hypot(hips[f * 3]!, hips[f * 3 + 1]!, hips[f * 3 + 2]!);
    sum += d;
    most = Math.max(most, d);
  }
  return { mean: sum / frames, most };
}
