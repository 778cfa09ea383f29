import { strFromU8 } from 'fflate';
import { FormatFault, READ_LIMITS } from '../limits';

const GLB_MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;
const HEADER_BYTES = 12;
const CHUNK_HEADER_BYTES = 8;

/** A GLB taken apart: its JSON as a value and the bytes of its binary part (0 where it has none). Source: glTF 2.0, section 4. */
export interface GlbParts {
  readonly json: unknown;
  readonly binBytes: number;
}

/** Takes a GLB apart; throws FormatFault on anything that is not one whole GLB. */
export function glbParts(bytes: Uint8Array): GlbParts {
  if (bytes.byteLength > READ_LIMITS.bytes) throw new FormatFault(`the file has ${bytes.byteLength} bytes; the limit is ${READ_LIMITS.bytes}`);
  if (bytes.byteLength < HEADER_BYTES + CHUNK_HEADER_BYTES) throw new FormatFault('the file is too short for a GLB');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const u32 = (at: number) => view.getUint32(at, true);
  if (u32(0) !== GLB_MAGIC) throw new FormatFault('this is not a GLB file (wrong first bytes)', 'byte 0');
  if (u32(4) !== 2) throw new FormatFault(`GLB version ${u32(4)} is not supported; 2 is`, 'byte 4');
  if (u32(8) !== bytes.byteLength) throw new FormatFault(`the header says ${u32(8)} bytes, the file has ${bytes.byteLength}`, 'byte 8');
  let json: Uint8Array | null = null;
  let binBytes = 0;
  for (let at = HEADER_BYTES, n = 0; at < bytes.byteLength; n++) {
    if (at + CHUNK_HEADER_BYTES > bytes.byteLength) throw new FormatFault('a part begins, but the file ends in its header', `byte ${at}`);
    const length = u32(at),
      type = u32(at + 4);
    const start = at + CHUNK_HEADER_BYTES;
    if (start + length > bytes.byteLength) throw new FormatFault(`a part says it has ${length} bytes, but ${bytes.byteLength - start} are left`, `byte ${at}`);
    if (n === 0 && type !== JSON_CHUNK) throw new FormatFault('the first part of a GLB must be its JSON', `byte ${at + 4}`);
    if (n > 0 && type === JSON_CHUNK) throw new FormatFault('the JSON part stands twice', `byte ${at + 4}`);
    if (type === JSON_CHUNK) json = bytes.subarray(start, start + length);
    if (type === BIN_CHUNK && binBytes === 0) binBytes = length;
    at = start + length;
  }
  return { json: parseJson(json!), binBytes };
}

function parseJson(bytes: Uint8Array): unknown {
  if (bytes.byteLength > READ_LIMITS.jsonBytes) throw new FormatFault(`the JSON part has ${bytes.byteLength} bytes; the limit is ${READ_LIMITS.jsonBytes}`);
  const text = strFromU8(bytes);
  if (text.includes('\uFFFD')) throw new FormatFault('the JSON part is not UTF-8 text', 'JSON');
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new FormatFault('the JSON part is not well-formed', 'JSON');
  }
}
