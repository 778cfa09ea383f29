import { FormatFault, READ_LIMITS } from '../limits';
import { BVH_CHANNELS, channelCount, type BvhChannel, type BvhJoint, type BvhPackage } from './package';

/** Words of the text with the line each stands on. */
interface Words {
  readonly text: string;
  at: number;
  line: number;
}

function next(w: Words): string {
  const { text } = w;
  let i = w.at;
  for (; i < text.length && text.charCodeAt(i) <= 32; i++) if (text.charCodeAt(i) === 10) w.line++;
  const start = i;
  while (i < text.length && text.charCodeAt(i) > 32) i++;
  w.at = i;
  return text.slice(start, i);
}

const fault = (w: Words, message: string): FormatFault => new FormatFault(message, `line ${w.line}`);

function expectWord(w: Words, word: string): void {
  const got = next(w);
  if (got.toLowerCase() !== word.toLowerCase()) throw fault(w, `expected ${word}, found ${got === '' ? 'the end of the file' : `"${got.slice(0, 40)}"`}`);
}

function nextNumber(w: Words): number {
  const word = next(w);
  const value = Number(word);
  if (word === '' || !Number.isFinite(value))
    throw fault(w, word === '' ? 'the file ends where a number should be' : `"${word.slice(0, 40)}" is not a finite number`);
  return value;
}

/** A length or angle within what can be measured. */
function nextBounded(w: Words, bound: number): number {
  const value = nextNumber(w);
  if (!(Math.abs(value) <= bound)) throw fault(w, `${value} is out of bounds; numbers within ±${bound} are read`);
  return value;
}

function nextOffset(w: Words): [number, number, number] {
  const one = () => nextBounded(w, READ_LIMITS.metres);
  return [one(), one(), one()];
}

/** Reads BVH text: any names, channel orders and line breaks. Throws FormatFault with the line of what is wrong. */
export function decodeBvh(text: string): BvhPackage {
  if (text.length > READ_LIMITS.bytes) throw new FormatFault(`the file has ${text.length} characters; the limit is ${READ_LIMITS.bytes}`);
  const w: Words = { text: text.charCodeAt(0) === 0xfeff ? text.slice(1) : text, at: 0, line: 1 };
  expectWord(w, 'HIERARCHY');
  const joints: BvhJoint[] = [];
  expectWord(w, 'ROOT');
  readJoint(w, joints, -1, 0);
  expectWord(w, 'MOTION');
  expectWord(w, 'Frames:');
  const frames = nextNumber(w);
  if (!Number.isInteger(frames) || frames < 1 || frames > READ_LIMITS.frames)
    throw fault(w, `the number of frames must be a whole number from 1 to ${READ_LIMITS.frames}, got ${frames}`);
  expectWord(w, 'Frame');
  expectWord(w, 'Time:');
  const frameTime = nextNumber(w);
  if (!(frameTime >= 1 / READ_LIMITS.rate && frameTime < 10))
    throw fault(w, `the frame time must lie between ${1 / READ_LIMITS.rate} and 10 seconds, got ${frameTime}`);
  const width = channelCount(joints);
  // Two characters a number is the least the claimed count can take: refuse before reserving memory for a lie.
  if (frames * width * 2 > w.text.length - w.at + 2) throw fault(w, `the file claims ${frames} frames of ${width} numbers, but is too short for them`);
  if (frames * joints.length > READ_LIMITS.jointFrames)
    throw fault(w, `${frames} frames of ${joints.length} joints are too many; the limit is ${READ_LIMITS.jointFrames} for both multiplied`);
  const values = new Float64Array(frames * width);
  for (let i = 0; i < values.length; i++) values[i] = nextBounded(w, READ_LIMITS.metres);
  const rest = next(w);
  if (rest !== '') throw fault(w, `more numbers than ${frames} frames of ${width} channels`);
  return { joints, frameTime, frames, values };
}

function readJoint(w: Words, joints: BvhJoint[], parent: number, depth: number): void {
  if (depth > READ_LIMITS.depth) throw fault(w, `joints are nested deeper than ${READ_LIMITS.depth}`);
  if (joints.length >= READ_LIMITS.joints) throw fault(w, `more than ${READ_LIMITS.joints} joints`);
  // A name may hold blanks: everything up to the brace.
  const words: string[] = [];
  for (let word = next(w); word !== '{'; word = next(w)) {
    if (word === '') throw fault(w, 'the file ends inside the hierarchy');
    words.push(word);
  }
  expectWord(w, 'OFFSET');
  const offset = nextOffset(w);
  const channels: BvhChannel[] = [];
  let end: [number, number, number] | null = null;
  const index = joints.push({ name: words.join(' '), parent, offset, channels, end }) - 1;
  for (let word = next(w); word !== '}'; word = next(w)) {
    const key = word.toUpperCase();
    if (key === 'CHANNELS') readChannels(w, channels);
    else if (key === 'JOINT') readJoint(w, joints, index, depth + 1);
    else if (key === 'END') {
      expectWord(w, 'Site');
      expectWord(w, '{');
      expectWord(w, 'OFFSET');
      end = nextOffset(w);
      expectWord(w, '}');
    } else throw fault(w, word === '' ? 'the file ends inside the hierarchy' : `"${word.slice(0, 40)}" is not expected here`);
  }
  joints[index] = { name: words.join(' '), parent, offset, channels, end };
}

function readChannels(w: Words, channels: BvhChannel[]): void {
  const count = nextNumber(w);
  if (!Number.isInteger(count) || count < 0 || count > 6) throw fault(w, `a joint has 0 to 6 channels, not ${count}`);
  for (let i = 0; i < count; i++) {
    const word = next(w);
    const channel = BVH_CHANNELS.find((c) => c.toLowerCase() === word.toLowerCase());
    if (!channel) throw fault(w, `"${word.slice(0, 40)}" is not a channel`);
    if (channels.includes(channel)) throw fault(w, `channel ${channel} stands twice`);
    channels.push(channel);
  }
}
