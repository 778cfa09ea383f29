import type { Body } from '../body/body';
import { ownFeet } from '../body/foot-model';
import { measuredBody } from '../body/measured';
import { JOINT } from '../body/roles';
import { canCarry, carried, type Carrier } from '../clip/carried';
import { movedContact, type Clip, type ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { clipDocument, type ClipDocument } from '../formats/clip-info';
import { bring, type Brought } from '../formats/bring';
import { encodeContacts } from '../formats/contacts/file';
import { encodeBvh } from '../formats/bvh/encode';
import { rewrittenBvh } from '../formats/bvh/rewrite';
import { travelCsv } from '../formats/csv/travel';
import { decodeGlb } from '../formats/gltf/bytes';
import { rewrittenGlb } from '../formats/gltf/rewrite';
import type { FoundClip, MotionFile } from '../formats/motion-file';
import { FormatFault } from '../formats/limits';
import { analyseClip, type Analysis } from '../travel/analysis';
import { clipView } from '../travel/clip-view';
import { travelFacts } from '../travel/kinds';
import { onBody } from '../travel/on-body';
import type { ClipSpec } from '../travel/clip-spec';
import { draggedIn, draggedStill, type Drag } from '../travel/drags';
import { edited, finished, isEdited, repeatedPlaces, rowsOf } from '../travel/edited';
import { prepareClip, type PreparedClip } from '../travel/prepare';
import { worstSlide } from '../travel/slide';
import { mended, type Mended } from '../travel/repair';
import type { EditSpec } from '../travel/spec';

/** A clip brought in, mended and cut, and what its pictures show. */
export interface KnownClip {
  /** As it was brought in, and mended. */
  readonly brought: Brought;
  readonly mended: readonly Mended[];
  /** What is found of it as its edits make it. */
  readonly analysis: Analysis;
}

/** Brings a clip of a file in, mends it and cuts it as its spec asks. `edits` may depend on what is found of the whole. Throws FormatFault where it is no biped. */
export function knowClip(
  found: FoundClip,
  { said, repair, edits }: Pick<ClipSpec, 'said' | 'repair'> & { edits: EditSpec | ((whole: Analysis) => EditSpec) },
): KnownClip & { edits: EditSpec } {
  const brought = bring(found, said);
  const { figure, done } = mended(brought.figure, repair);
  const whole = analyseClip(figure);
  const chosen = typeof edits === 'function' ? edits(whole) : edits;
  return { brought: { ...brought, figure }, mended: done, analysis: analysisOf(whole, figure, chosen), edits: chosen };
}

/** A known clip as its spec asks for. */
export const prepareKnown = ({ analysis }: KnownClip, { travel, baked, layers }: Pick<ClipSpec, 'travel' | 'baked' | 'layers'>): PreparedClip =>
  prepareClip(analysis.figure, travel, analysis, [baked, layers]);

/** What is found of a clip as its edits make it, on the soles the whole recording shows. */
const analysisOf = (whole: Analysis, figure: ClipFigure, edits: EditSpec): Analysis =>
  isEdited(edits) ? analyseClip(edited({ ...whole.figure, clip: figure.clip }, edits)) : whole;

/** Travel and contacts of a prepared clip as a table, round after round. */
export function clipTable({ clip: prepared, put, held }: PreparedClip, edits: EditSpec): string {
  const clip = finished(prepared, edits);
  const rounds = prepared.loop ? edits.repeat : 1;
  return travelCsv(clip, repeatedPlaces(put, rounds), repeatedContacts(held, prepared.frames, rounds));
}

/** Contacts of a loop over so many rounds. */
const repeatedContacts = (contacts: readonly ClipContact[], frames: number, rounds: number): ClipContact[] =>
  Array.from({ length: rounds }, (_, r) => contacts.map((c) => movedContact(c, r * frames))).flat();

/** The contacts file of a clip as it goes out on its own skeleton. */
export function clipContacts({ clip, held, analysis }: PreparedClip, edits: EditSpec): Uint8Array {
  const contacts = repeatedContacts(held, clip.frames, clip.loop ? edits.repeat : 1);
  return encodeContacts({ ...finished(clip, edits), contacts }, analysis.figure.feet);
}

/** Where feet are dragged, in words; null where they are not. */
export function dragWords({ drags, moved }: PreparedClip): string | null {
  if (drags.length === 0) return null;
  const most = drags.reduce((m, d) => Math.max(m, d.metres), 0) * 1000;
  return `in ${drags.length === 1 ? 'one contact' : `${drags.length} contacts`} the foot is dragged, by up to ${most.toFixed(0)} mm${moved ? '; only its stays are held' : ''}`;
}

/**
 * A file again, a BVH as its text, with one of its clips as it was prepared, on its own skeleton; all that did not change is as it
 * was. Throws FormatFault where the travel is to be carried by a joint that is not there.
 */
export async function clipFile(
  { bytes, file, index }: { readonly bytes: Uint8Array; readonly file: MotionFile; readonly index: number },
  { brought }: KnownClip,
  { clip: prepared, put }: PreparedClip,
  edits: EditSpec,
  carrier: Carrier | null = null,
): Promise<string | Uint8Array> {
  const { figure, unit, turn } = brought;
  const done = finished(carrier ? onCarrier(prepared, figure.roles[JOINT.hips]!, put.places, carrier) : prepared, edits);
  const clip = { ...done, contacts: repeatedContacts(prepared.contacts ?? [], prepared.frames, prepared.loop ? edits.repeat : 1) };
  if (!file.bvh) return rewrittenGlb(await decodeGlb(bytes), index, figure.deck ? null : figure.clip, clip, unit, turn);
  // A rest pose that was mended away is a row less at the beginning.
  const skipped = figure.clip.frames < file.bvh.frames ? 1 : 0;
  return encodeBvh(rewrittenBvh(file.bvh, clip, unit, turn, rowsOf(edits, skipped)));
}

function onCarrier(clip: Clip, hips: number, places: Float64Array, carrier: Carrier): Clip {
  if (!canCarry(clip, hips)) throw new FormatFault(`its travel cannot be put on the ${carrier}: no joint over the hips is moved in this file`);
  return carried(clip, hips, places, carrier);
}

/** How a clip goes out on a body of ours. */
export interface BodyOrder {
  readonly body: Body;
  readonly name: string;
  readonly carrier: Carrier | null;
}

/** A prepared clip on a body of ours, ready to be written, and what its feet slide there, m. */
export function clipOnBody(
  { analysis }: KnownClip,
  prepared: PreparedClip,
  { travel, edits }: Pick<ClipSpec, 'travel' | 'edits'>,
  { body, name, carrier }: BodyOrder,
): { readonly document: ClipDocument; readonly slide: number; readonly drags: readonly Drag[] } {
  const { clip, held, put, travel: under } = prepared;
  const measured = measuredBody(clip.skeleton, analysis.figure, name);
  const shown = { clip, figure: analysis.figure, contacts: held, places: put.places, floor: analysis.floor };
  const { clip: own, slides } = onBody(shown, measured, body, travel.lock, analysis.calm === Infinity);
  const facts = travelFacts(under, clip, analysis.first);
  const { strideTime, dutyFactor } = clipView(shown, measured).pace;
  const k = body.legLength / measured.body.legLength;
  const rounds = clip.loop ? edits.repeat : 1;
  const done = { ...finished(own, edits), name, contacts: repeatedContacts(own.contacts!, own.frames, rounds) };
  const pace = { speed: facts.speed * k, strideLength: facts.speed * k * strideTime, strideTime, dutyFactor, direction: facts.direction };
  return {
    document: clipDocument(body, done, pace, travel.kind === 'none', null, carrier),
    slide: (worstSlide(slides) ?? 0) / 1000,
    drags: travel.lock ? draggedStill(own, ownFeet(body), analysis.contacts, own.contacts!) : draggedIn(own, ownFeet(body), own.contacts!),
  };
}
