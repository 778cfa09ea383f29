import { strFromU8, strToU8 } from 'fflate';
import { FormatFault, READ_LIMITS } from '../limits';
import { finish } from '../../math/finish';
import { channelCount, type BvhPackage } from './package';
import { readHeader } from './read-hierarchy';
import { scanNumbers, type NumberScan } from './scan-numbers';

/** Numbers read between two looks at whether to go on. */
const STEP_NUMBERS = 1 << 17;

/** Reads BVH text: any names, channel orders and line breaks. Throws FormatFault with the line of what is wrong. */
export function decodeBvh(source: Uint8Array | string): BvhPackage {
  return finish(decodingBvh(typeof source === 'string' ? strToU8(source) : source));
}

/**
 * The same bit by bit; yields the part (0 to 1) that is read. Rows are counted as they are: what the file says of them and
 * what is there may differ, which is told under `oddities`. Nothing is reserved for rows that are only claimed.
 */
export function* decodingBvh(bytes: Uint8Array): Generator<number, BvhPackage> {
  if (bytes.length > READ_LIMITS.bvhBytes) throw new FormatFault(`the file has ${bytes.length} bytes; the limit is ${READ_LIMITS.bvhBytes}`);
  const from = motionAt(bytes);
  const text = strFromU8(bytes.subarray(0, from));
  if (text.includes('\uFFFD') || text.includes('\0')) throw new FormatFault('the file is not UTF-8 text');
  const { joints, claimed, frameTime } = readHeader(text);
  const width = channelCount(joints);
  if (width === 0) throw new FormatFault('no joint has a channel: nothing moves');
  // Two characters a number is the least a row can take.
  const room = Math.min(claimed * width, Math.ceil((bytes.length - from) / 2));
  const scan: NumberScan = { bytes, at: from, values: new Float64Array(room + STEP_NUMBERS), count: 0 };
  while (scanNumbers(scan, STEP_NUMBERS, READ_LIMITS.metres)) {
    assertCount(Math.floor(scan.count / width), joints.length);
    yield scan.at / bytes.length;
  }
  const frames = Math.floor(scan.count / width);
  assertCount(frames, joints.length);
  const oddities = rowOddities(claimed, frames, scan.count - frames * width);
  if (frames < 1) throw new FormatFault(`there is no whole row of ${width} numbers`);
  return { joints, frameTime, frames, values: scan.values.subarray(0, frames * width), oddities };
}

function assertCount(frames: number, joints: number): void {
  if (frames > READ_LIMITS.frames) throw new FormatFault(`there are more than ${READ_LIMITS.frames} rows; that is the limit`);
  if (frames * joints > READ_LIMITS.bvhJointFrames)
    throw new FormatFault(`${frames} frames of ${joints} joints are too many; the limit is ${READ_LIMITS.bvhJointFrames} for both multiplied`);
}

function rowOddities(claimed: number, frames: number, over: number): string[] {
  const told: string[] = [];
  if (claimed !== frames) told.push(`the file says it has ${claimed} frames; ${frames} whole rows are there and count`);
  if (over > 0) told.push(`${over} numbers at its end make no whole row and are left out`);
  return told;
}

/** Most bytes before the numbers. */
const HEADER_BYTES = 4 * 1024 * 1024;

/** Where the first row of numbers begins: after MOTION and the two lines that follow it. The whole file where they are not found. */
function motionAt(bytes: Uint8Array): number {
  const word = strToU8('motion');
  const end = Math.min(bytes.length, HEADER_BYTES);
  for (let at = 0; at + word.length < end; at++) {
    let k = 0;
    while (k < word.length && (bytes[at + k]! | 32) === word[k]) k++;
    if (k < word.length || (at > 0 && bytes[at - 1]! > 32)) continue;
    const lines = strFromU8(bytes.subarray(at, Math.min(end, at + 400)), true);
    const head = /^motion\s+frames:\s*\S+\s+frame\s+time:\s*\S+/i.exec(lines);
    if (head) return at + head[0].length;
  }
  return end;
}
