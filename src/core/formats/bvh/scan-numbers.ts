import { FormatFault } from '../limits';

/** Where a scan of numbers is: what is read, up to where, and how many numbers are there. */
export interface NumberScan {
  readonly bytes: Uint8Array;
  at: number;
  /** Numbers read so far; grows as it must. */
  values: Float64Array;
  count: number;
}

/** Powers of ten that are exact as doubles. */
const TENS = Float64Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
/** Digits that a small integer holds: with an exact power of ten the quotient is the nearest double (Clinger 1990). */
const INTEGER_DIGITS = 9;
const ZERO = 48,
  NINE = 57,
  MINUS = 45,
  PLUS = 43,
  POINT = 46;

/**
 * Reads numbers separated by blanks until the text ends or `most` more are read; false once nothing is left. Throws
 * FormatFault with the line where a word is no number, not finite, or beyond ±`bound`.
 */
export function scanNumbers(scan: NumberScan, most: number, bound: number): boolean {
  const { bytes } = scan;
  // Up to the last blank no word can run over the end, so that digits need not look for it.
  let n = bytes.length;
  while (n > scan.at && bytes[n - 1]! > 32) n--;
  const end = scan.count + most;
  if (end > scan.values.length) scan.values = grown(scan.values, end);
  const { values } = scan;
  let { at, count } = scan;
  while (count < end) {
    while (at < n && bytes[at]! <= 32) at++;
    if (at >= n) break;
    const start = at;
    let c = bytes[at]!;
    const negative = c === MINUS;
    if (negative || c === PLUS) c = bytes[++at]!;
    const first = at;
    let digits = 0;
    while (c >= ZERO && c <= NINE) {
      digits = (digits * 10 + (c - ZERO)) | 0;
      c = bytes[++at]!;
    }
    let many = at - first,
      places = 0;
    if (c === POINT) {
      const point = at;
      c = bytes[++at]!;
      while (c >= ZERO && c <= NINE) {
        digits = (digits * 10 + (c - ZERO)) | 0;
        c = bytes[++at]!;
      }
      places = at - point - 1;
      many += places;
    }
    let value = digits;
    if (c > 32 || many === 0 || many > INTEGER_DIGITS) {
      while (at < n && bytes[at]! > 32) at++;
      value = wordAsNumber(bytes, start, at);
    } else {
      if (places > 0) value = value / TENS[places]!;
      if (negative) value = -value;
    }
    if (!(value >= -bound && value <= bound)) throw outOfBounds(value, bound, bytes, start);
    values[count++] = value;
  }
  if (count < end && n < bytes.length && at >= n) {
    const value = wordAsNumber(bytes, n, bytes.length);
    if (!(Math.abs(value) <= bound)) throw outOfBounds(value, bound, bytes, n);
    values[count++] = value;
    at = bytes.length;
  }
  scan.at = at;
  scan.count = count;
  return count === end && at < bytes.length;
}

function grown(values: Float64Array, least: number): Float64Array {
  const more = new Float64Array(Math.max(least, Math.ceil(values.length * 1.5)));
  more.set(values);
  return more;
}

const outOfBounds = (value: number, bound: number, bytes: Uint8Array, at: number): FormatFault =>
  new FormatFault(`${value} is out of bounds; numbers within ±${bound} are read`, `line ${lineAt(bytes, at)}`);

/** A number of unusual spelling, such as one with an exponent. */
function wordAsNumber(bytes: Uint8Array, from: number, to: number): number {
  let word = '';
  for (let i = from; i < to && word.length < 400; i++) word += String.fromCharCode(bytes[i]!);
  const value = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(word) ? Number(word) : NaN;
  if (!Number.isFinite(value)) throw new FormatFault(`"${word.slice(0, 40)}" is not a finite number`, `line ${lineAt(bytes, from)}`);
  return value;
}

/** Line (from 1) on which a byte stands. */
function lineAt(bytes: Uint8Array, at: number): number {
  let line = 1;
  for (let i = 0; i < at; i++) if (bytes[i] === 10) line++;
  return line;
}
