import { WebIO, type Document } from '@gltf-transform/core';
import type { ClipDocument } from '../clip-info';
import { FormatFault, READ_LIMITS } from '../limits';
import { toGltf } from './write';

const GLB_MAGIC = 0x46546c67;

/** The bytes of a GLB with the given clips (all of one body). */
export async function encodeGlb(documents: readonly ClipDocument[]): Promise<Uint8Array> {
  return new WebIO().writeBinary(toGltf(documents));
}

/** Reads GLB bytes; throws FormatFault on anything that is not one whole GLB. Nothing is fetched. */
export async function decodeGlb(bytes: Uint8Array): Promise<Document> {
  if (bytes.byteLength > READ_LIMITS.bytes) throw new FormatFault(`the file has ${bytes.byteLength} bytes; the limit is ${READ_LIMITS.bytes}`);
  if (bytes.byteLength < 20) throw new FormatFault('the file is too short for a GLB');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== GLB_MAGIC) throw new FormatFault('this is not a GLB file (wrong first bytes)', 'byte 0');
  if (view.getUint32(4, true) !== 2) throw new FormatFault(`GLB version ${view.getUint32(4, true)} is not supported; 2 is`, 'byte 4');
  if (view.getUint32(8, true) !== bytes.byteLength)
    throw new FormatFault(`the header says ${view.getUint32(8, true)} bytes, the file has ${bytes.byteLength}`, 'byte 8');
  try {
    // A GLB may name outside files; those are never fetched.
    return await new WebIO({ credentials: 'omit' }).readBinary(bytes);
  } catch (error) {
    throw new FormatFault(`the GLB cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}
