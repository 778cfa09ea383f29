import type { ClipFigure } from '../clip/figure';
import { bring, type Brought } from '../formats/bring';
import { encodeBvh } from '../formats/bvh/encode';
import { rewrittenBvh } from '../formats/bvh/rewrite';
import { travelCsv } from '../formats/csv/travel';
import { decodeGlb } from '../formats/gltf/bytes';
import { rewrittenGlb } from '../formats/gltf/rewrite';
import type { FoundClip, MotionFile } from '../formats/motion-file';
import { analyseClip, type Analysis } from '../travel/analysis';
import type { ClipSpec } from '../travel/clip-spec';
import { edited, finished, isEdited, repeatedPlaces, rowsOf } from '../travel/edited';
import type { PreparedClip } from '../travel/prepare';
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

/** What is found of a clip as its edits make it, on the soles the whole recording shows. */
const analysisOf = (whole: Analysis, figure: ClipFigure, edits: EditSpec): Analysis =>
  isEdited(edits) ? analyseClip(edited({ ...whole.figure, clip: figure.clip }, edits)) : whole;

/** Travel and contacts of a prepared clip as a table, round after round. */
export function clipTable({ clip: prepared, put, held }: PreparedClip, edits: EditSpec): string {
  const clip = finished(prepared, edits);
  const rounds = prepared.loop ? edits.repeat : 1;
  const contacts = Array.from({ length: rounds }, (_, r) => held.map((c) => ({ ...c, from: c.from + r * prepared.frames, to: c.to + r * prepared.frames })));
  return travelCsv(clip, repeatedPlaces(put, rounds), contacts.flat());
}

/** A file again, a BVH as its text, with one of its clips as it was prepared, on its own skeleton; all that did not change is as it was. */
export async function clipFile(
  { bytes, file, index }: { readonly bytes: Uint8Array; readonly file: MotionFile; readonly index: number },
  { brought }: KnownClip,
  { clip: prepared }: PreparedClip,
  edits: EditSpec,
): Promise<string | Uint8Array> {
  const clip = finished(prepared, edits);
  const { figure, unit, turn } = brought;
  if (!file.bvh) return rewrittenGlb(await decodeGlb(bytes), index, figure.clip, clip, unit, turn);
  // A rest pose that was mended away is a row less at the beginning.
  const skipped = figure.clip.frames < file.bvh.frames ? 1 : 0;
  return encodeBvh(rewrittenBvh(file.bvh, clip, unit, turn, rowsOf(edits, skipped)));
}
