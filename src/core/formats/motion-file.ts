import type { Sole } from '../body/sole';
import type { Clip } from '../clip/clip';
import type { GroundSpec } from '../ground/spec';
import { finishLater } from '../math/finish';
import type { Skin } from '../measure/skin';
import { decodingBvh } from './bvh/decode';
import type { BvhPackage } from './bvh/package';
import { fromBvhBitByBit } from './bvh/to-clip';
import { decodeGlb } from './gltf/bytes';
import { fromGltf, type ShownSkin } from './gltf/read';
import { FormatFault, READ_LIMITS } from './limits';

/** A clip as its file has it: the file's unit and axes. */
export interface FoundClip {
  readonly clip: Clip;
  /** Where joints without children end, in the joint's frame; null where that is not told. */
  readonly ends: readonly (readonly [number, number, number] | null)[];
  /** The sole our own files tell. */
  readonly sole: Sole | null;
  readonly skin: Skin | null;
  /** Its skins as they are shown; read when they are asked for. */
  readonly skins: () => readonly ShownSkin[];
  /** The ground the clip says it was made for. */
  readonly ground: GroundSpec | null;
}

/** What a motion file holds. */
export interface MotionFile {
  readonly kind: 'bvh' | 'glb';
  readonly clips: readonly FoundClip[];
  /** What is odd and was read all the same, in words. */
  readonly oddities: readonly string[];
  /** A BVH's own numbers, for who writes it again. */
  readonly bvh: BvhPackage | null;
}

/** The kinds of motion files that are read, by their last letters. */
export const MOTION_FILES = ['.bvh', '.glb'] as const;

/** Name of a file without folders and ending. */
export const fileStem = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');

/** Reads a motion file bit by bit; yields the part (0 to 1) that is read. Throws FormatFault in our words. */
export async function* readingMotionFile(bytes: Uint8Array, file: string): AsyncGenerator<number, MotionFile> {
  const ending = /\.[^.]*$/.exec(file.toLowerCase())?.[0] ?? '';
  if (ending === '.bvh') {
    if (bytes.length < 4 || (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
      throw new FormatFault(bytes.length < 4 ? 'the file is empty' : 'the file is not UTF-8 text');
    const reading = decodingBvh(bytes);
    let step = reading.next();
    for (; !step.done; step = reading.next()) yield step.value * READ_PART;
    const bvh = step.value;
    const making = fromBvhBitByBit(bvh, 1, fileStem(file));
    let made = making.next();
    for (; !made.done; made = making.next()) yield READ_PART + made.value * (1 - READ_PART);
    const { clip, ends } = made.value;
    const roots = bvh.joints.filter((j) => j.parent < 0).length;
    const oddities = [
      ...(bvh.oddities ?? []),
      ...(roots > 1 ? [`it has ${roots} roots; all are read`] : []),
      ...(clip.frames === 1 ? ['it has one frame only'] : []),
    ];
    return { kind: 'bvh', clips: [{ clip, ends, sole: null, skin: null, skins: () => [], ground: null }], oddities, bvh };
  }
  if (ending === '.glb') {
    if (bytes.length > READ_LIMITS.bytes) throw new FormatFault(`the file has ${bytes.length} bytes; the limit is ${READ_LIMITS.bytes}`);
    const { clips, sole, skin, skins, grounds, oddities } = fromGltf(await decodeGlb(bytes));
    yield READ_PART;
    const found = clips.map((clip): FoundClip => ({
      clip,
      ends: clip.skeleton.names.map(() => null),
      sole,
      skin,
      skins,
      ground: grounds.get(clip.name) ?? null,
    }));
    return { kind: 'glb', clips: found, oddities, bvh: null };
  }
  throw new FormatFault(`only ${MOTION_FILES.join(' and ')} files are read`);
}

/** Part of the time that goes into reading; the rest makes poses. */
const READ_PART = 0.6;

/** The same at once. */
export const readMotionFile = (bytes: Uint8Array, file: string): Promise<MotionFile> => finishLater(readingMotionFile(bytes, file));
