import { FormatFault, READ_LIMITS } from '../limits';
import { BVH_CHANNELS, type BvhChannel, type BvhJoint } from './package';

/** Words of the text with the line each stands on. */
interface Words {
  readonly text: string;
  at: number;
  line: number;
}

/** What a BVH file says before its numbers. */
export interface BvhHeader {
  readonly joints: readonly BvhJoint[];
  /** Rows the file says it has. */
  readonly claimed: number;
  readonly frameTime: number;
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
const quoted = (word: string): string => (word === '' ? 'the end of the file' : `"${word.slice(0, 40)}"`);

function expectWord(w: Words, word: string): void {
  const got = next(w);
  if (got.toLowerCase() !== word.toLowerCase()) throw fault(w, `expected ${word}, found ${quoted(got)}`);
}

/** The number after a label that ends in a colon, with or without a blank between. */
function labelled(w: Words, label: string): number {
  const got = next(w);
  const glued = got.length > label.length && got.toLowerCase().startsWith(label.toLowerCase());
  if (!glued && got.toLowerCase() !== label.toLowerCase()) throw fault(w, `expected ${label}, found ${quoted(got)}`);
  return toNumber(w, glued ? got.slice(label.length) : next(w));
}

function toNumber(w: Words, word: string): number {
  const value = Number(word);
  if (word === '' || !Number.isFinite(value))
    throw fault(w, word === '' ? 'the file ends where a number should be' : `"${word.slice(0, 40)}" is not a finite number`);
  return value;
}

/** A length within what can be measured. */
function nextBounded(w: Words): number {
  const value = toNumber(w, next(w));
  if (!(Math.abs(value) <= READ_LIMITS.metres)) throw fault(w, `${value} is out of bounds; numbers within ±${READ_LIMITS.metres} are read`);
  return value;
}

function nextOffset(w: Words): [number, number, number] {
  return [nextBounded(w), nextBounded(w), nextBounded(w)];
}

/** Reads the hierarchy, the count of rows and their time from the text before the numbers. Throws FormatFault with the line. */
export function readHeader(text: string): BvhHeader {
  const w: Words = { text: text.charCodeAt(0) === 0xfeff ? text.slice(1) : text, at: 0, line: 1 };
  expectWord(w, 'HIERARCHY');
  const joints: BvhJoint[] = [];
  expectWord(w, 'ROOT');
  readJoint(w, joints, -1, 0);
  let word = next(w);
  for (; word.toUpperCase() === 'ROOT'; word = next(w)) readJoint(w, joints, -1, 0);
  if (word.toUpperCase() !== 'MOTION') throw fault(w, `expected MOTION, found ${quoted(word)}`);
  const claimed = labelled(w, 'Frames:');
  if (!Number.isInteger(claimed) || claimed < 0) throw fault(w, `the number of frames must be a whole number, got ${claimed}`);
  expectWord(w, 'Frame');
  const frameTime = labelled(w, 'Time:');
  if (!(frameTime >= 1 / READ_LIMITS.rate && frameTime < 10))
    throw fault(w, `the frame time must lie between ${1 / READ_LIMITS.rate} and 10 seconds, got ${frameTime}`);
  return { joints, claimed, frameTime };
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
  const count = toNumber(w, next(w));
  if (!Number.isInteger(count) || count < 0 || count > 6) throw fault(w, `a joint has 0 to 6 channels, not ${count}`);
  for (let i = 0; i < count; i++) {
    const word = next(w);
    const channel = BVH_CHANNELS.find((c) => c.toLowerCase() === word.toLowerCase());
    if (!channel) throw fault(w, `"${word.slice(0, 40)}" is not a channel`);
    if (channels.includes(channel)) throw fault(w, `channel ${channel} stands twice`);
    channels.push(channel);
  }
}
