import { strFromU8, strToU8 } from 'fflate';

type Random = () => number;
const pick = <T>(rand: Random, all: readonly T[]): T => all[Math.floor(rand() * all.length)]!;

const ODD_NUMBERS = [0, -1, 1, 1e-30, 1e30, 1e308, -1e308, 2 ** 31, 2 ** 32, 2 ** 53, 0.5, 255, 65_536, -0.0001];
const ODD_VALUES: readonly unknown[] = [...ODD_NUMBERS, null, true, '', 'x', '\u0000', '__proto__', [], {}, [[]], [null], { length: 3 }];

/** Odd values are mutated in turn: each time another copy. */
const copyOf = (value: unknown): unknown => JSON.parse(JSON.stringify(value)) as unknown;

/** A copy of a JSON value with one to three places in it changed: taken away, doubled, moved, or made something odd. */
export function mutantJson(json: unknown, rand: Random): unknown {
  const copy = JSON.parse(JSON.stringify(json)) as unknown;
  for (let n = 1 + Math.floor(rand() * 3); n > 0; n--) mutate(copy, rand);
  return copy;
}

function mutate(root: unknown, rand: Random): void {
  // A random walk down; what it ends at is changed in its parent.
  let at = root as Record<string, unknown>;
  for (let depth = 0; depth < 12; depth++) {
    const keys = Object.keys(at);
    if (keys.length === 0) return;
    const key = pick(rand, keys);
    const value = at[key];
    if (value !== null && typeof value === 'object' && Object.keys(value).length > 0 && rand() < 0.8) {
      at = value as Record<string, unknown>;
      continue;
    }
    const kind = rand();
    if (kind < 0.2 && !Array.isArray(at)) delete at[key];
    else if (kind < 0.3 && Array.isArray(at)) at.push(copyOf(value));
    else if (kind < 0.4 && Array.isArray(at)) at.splice(Number(key), 1);
    else if (typeof value === 'number' && kind < 0.7) at[key] = pick(rand, [value + 1, value - 1, -value, value * 2, ...ODD_NUMBERS]);
    else at[key] = copyOf(pick(rand, ODD_VALUES));
    return;
  }
}

/** A copy of bytes with some turned over, cut out, doubled, or cut off. */
function mutantBytes(bytes: Uint8Array, rand: Random): Uint8Array {
  const kind = rand();
  const at = Math.floor(rand() * bytes.length);
  if (kind < 0.1) return bytes.slice(0, at);
  if (kind < 0.2) return Uint8Array.from([...bytes.subarray(0, at), ...bytes.subarray(Math.min(bytes.length, at + 1 + Math.floor(rand() * 40)))]);
  const copy = bytes.slice();
  for (let n = 1 + Math.floor(rand() * 6); n > 0; n--) copy[Math.floor(rand() * copy.length)] = Math.floor(rand() * 256);
  return copy;
}

const ODD_FLOATS = [NaN, Infinity, -Infinity, 0, 1e38, -1e38, 1e-38, 1e7];

/** A GLB with its JSON changed, or numbers of its binary part made odd ones, or any of its bytes turned over. */
export function mutantGlb(glb: Uint8Array, rand: Random): Uint8Array {
  if (rand() < 0.2) return mutantBytes(glb, rand);
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  const length = view.getUint32(12, true);
  let json = JSON.parse(strFromU8(glb.subarray(20, 20 + length))) as unknown;
  const bin = glb.slice(20 + length + 8);
  if (rand() < 0.6) json = mutantJson(json, rand);
  else {
    const floats = new DataView(bin.buffer);
    for (let n = 1 + Math.floor(rand() * 8); n > 0; n--) floats.setFloat32(4 * Math.floor((rand() * bin.length) / 4), pick(rand, ODD_FLOATS), true);
  }
  return joinGlb(json, bin);
}

/** A GLB of a JSON value and a binary part. */
function joinGlb(json: unknown, bin: Uint8Array): Uint8Array {
  const text = strToU8(JSON.stringify(json));
  const padded = Math.ceil(text.length / 4) * 4;
  const out = new Uint8Array(20 + padded + 8 + bin.length).fill(0x20);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, out.length, padded, 0x4e4f534a].forEach((v, i) => view.setUint32(i * 4, v, true));
  out.set(text, 20);
  view.setUint32(20 + padded, bin.length, true);
  view.setUint32(24 + padded, 0x004e4942, true);
  out.set(bin, 28 + padded);
  return out;
}

const ODD_WORDS = ['NaN', '1e999', '-1e30', '1e7', '0', '', '{', '}', 'JOINT', 'ROOT', 'End', 'CHANNELS', '6', '-1', '99999999999', '\u0000', 'Xposition'];

/** Text with some of its words changed, lines doubled or taken away, or any of its bytes turned over. */
export function mutantText(text: string, rand: Random): Uint8Array {
  if (rand() < 0.2) return mutantBytes(strToU8(text), rand);
  const lines = text.split('\n');
  for (let n = 1 + Math.floor(rand() * 3); n > 0; n--) {
    const at = Math.floor(rand() * lines.length);
    const kind = rand();
    if (kind < 0.15) lines.splice(at, 1);
    else if (kind < 0.3) lines.splice(at, 0, lines[Math.floor(rand() * lines.length)]!);
    else {
      const words = lines[at]!.split(/(\s+)/);
      words[Math.floor(rand() * words.length)] = pick(rand, ODD_WORDS);
      lines[at] = words.join('');
    }
  }
  return strToU8(lines.join('\n'));
}
