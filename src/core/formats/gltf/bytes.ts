import { WebIO, type Document } from '@gltf-transform/core';
import type { ClipDocument } from '../clip-info';
import { FormatFault } from '../limits';
import { glbParts } from './chunks';
import { inspectGltf } from './inspect';
import { toGltf } from './write';

/** The bytes of a GLB with the given clips (all of one body). */
export async function encodeGlb(documents: readonly ClipDocument[]): Promise<Uint8Array> {
  return new WebIO().writeBinary(toGltf(documents));
}

/** Reads GLB bytes; throws FormatFault on anything that is not one whole, sound GLB. Nothing is fetched. */
export async function decodeGlb(bytes: Uint8Array): Promise<Document> {
  const { json, binBytes } = glbParts(bytes);
  inspectGltf(json, binBytes);
  try {
    return await new WebIO({ credentials: 'omit' }).readBinary(bytes);
  } catch {
    // What the inspection lets through and the library does not is a fault all the same, but its words are not ours.
    throw new FormatFault('something in the file cannot be read', 'JSON');
  }
}
