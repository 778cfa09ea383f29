import { readFile, stat } from 'node:fs/promises';
import { extname } from 'node:path';
import { parseArgs, type ParseArgsConfig } from 'node:util';
import { createBody, type Body } from '../src/core/body/body';
import { bodySpecFromStature, SHIPPED_BODIES, type BodySpec, type ShippedBody } from '../src/core/body/spec';
import { CARRIERS, type Carrier } from '../src/core/clip/carried';
import { EXPORT_FORMATS, type ExportFormat } from '../src/core/formats/format';
import { decodeBody, decodeGait } from '../src/core/formats/json/decode';
import { FormatFault, READ_LIMITS } from '../src/core/formats/limits';
import { assign } from '../src/core/gait/assign';
import { fitGait } from '../src/core/gait/fit';
import { findPreset, PRESETS } from '../src/core/gait/presets';
import type { GaitSpec } from '../src/core/gait/spec';

/** Bad input: one line a fault, exit status 2. */
export class InputFault extends Error {
  constructor(readonly lines: readonly string[]) {
    super(lines.join('\n'));
  }
}

/** node's parser with faults worded as ours. */
export function parseOptions<T extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: T, allowPositionals = false) {
  try {
    return parseArgs({ args, options, allowPositionals, strict: true });
  } catch (error) {
    // The parser's own words name the option first; the advice behind it is for programmers.
    const { code, message } = error as NodeJS.ErrnoException;
    const option = /'(-[^' ]*)/.exec(message)?.[1] ?? 'that';
    if (code === 'ERR_PARSE_ARGS_UNKNOWN_OPTION') throw new InputFault([`${option} is no option of this command`]);
    if (code === 'ERR_PARSE_ARGS_INVALID_OPTION_VALUE')
      throw new InputFault([`${option}: ${/argument missing/.test(message) ? 'a value is needed' : 'it takes no value, or its value looks like an option'}`]);
    if (code === 'ERR_PARSE_ARGS_UNEXPECTED_POSITIONAL') throw new InputFault([`${/'([^']*)'/.exec(message)?.[1] ?? 'a word'} is not expected here`]);
    throw error;
  }
}

/** Options every command that makes motion takes. */
export const MOTION_OPTIONS = {
  gait: { type: 'string' },
  set: { type: 'string', multiple: true },
  body: { type: 'string' },
  stature: { type: 'string' },
  fps: { type: 'string' },
  'in-place': { type: 'boolean' },
  on: { type: 'string' },
  out: { type: 'string' },
  contacts: { type: 'boolean' },
} as const;

export async function readInput(path: string): Promise<Buffer> {
  try {
    const { size } = await stat(path);
    const most = /\.bvh$/i.test(path) ? READ_LIMITS.bvhBytes : READ_LIMITS.bytes;
    if (size > most) throw new InputFault([`${path}: ${size} bytes; the limit is ${most}`]);
    return await readFile(path);
  } catch (error) {
    if (error instanceof InputFault) throw error;
    throw new InputFault([`${path}: cannot be read (${(error as NodeJS.ErrnoException).code ?? String(error)})`]);
  }
}

/** Runs a decoder, its faults as input faults. */
export function decoded<T>(run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof FormatFault) throw new InputFault(error.message.split('\n'));
    throw error;
  }
}

export function readNumber(name: string, text: string | undefined, fallback: number, min: number, max: number): number {
  if (text === undefined) return fallback;
  const value = Number(text);
  if (text.trim() === '' || !(value >= min && value <= max)) throw new InputFault([`--${name}: "${text}" must be a number from ${min} to ${max}`]);
  return value;
}

/** A whole number; a part of one is refused rather than rounded. */
export function readWhole(name: string, text: string | undefined, fallback: number, min: number, max: number): number {
  const value = readNumber(name, text, fallback, min, max);
  if (!Number.isInteger(value)) throw new InputFault([`--${name}: "${text}" must be a whole number from ${min} to ${max}`]);
  return value;
}

/** One of some words, in any case. */
export function oneOf<T extends string>(name: string, text: string, all: readonly T[]): T {
  const found = all.find((x) => x.toLowerCase() === text.toLowerCase());
  if (!found) throw new InputFault([`--${name}: "${text}" is none of ${all.join(', ')}`]);
  return found;
}

/** Which joint --on puts the travel on; null: what is usual in the format. */
export const readCarrier = (text: string | undefined): Carrier | null => (text === undefined ? null : oneOf('on', text, CARRIERS));

/** The body of --body (a file or a shipped name) or --stature; Marlo without either. */
export async function readBody(body: string | undefined, stature: string | undefined): Promise<Body> {
  if (body !== undefined && stature !== undefined) throw new InputFault(['--body and --stature cannot both be given']);
  let spec: BodySpec = SHIPPED_BODIES.marlo;
  if (stature !== undefined) spec = bodySpecFromStature(readNumber('stature', stature, 1.72, 0.3, 4));
  else if (body !== undefined && Object.hasOwn(SHIPPED_BODIES, body)) spec = SHIPPED_BODIES[body as ShippedBody];
  else if (body !== undefined) {
    const text = (await readInput(body)).toString('utf8');
    spec = decoded(() => decodeBody(text, body));
  }
  try {
    return createBody(spec);
  } catch (error) {
    throw new InputFault([error instanceof Error ? error.message : String(error)]);
  }
}

/** The gait of --gait fitted to the body, with every --set laid over it. */
export async function readGait(gait: string | undefined, settings: readonly string[] | undefined, body: Body): Promise<GaitSpec> {
  if (gait === undefined) throw new InputFault([`--gait is needed: a file, or one of ${PRESETS.map((p) => p.key).join(', ')}`]);
  const preset = findPreset(gait);
  const text = preset ? '' : (await readInput(gait)).toString('utf8');
  const base = preset ? preset.make() : decoded(() => decodeGait(text, gait));
  const pairs = (settings ?? []).map((s): [string, string] => {
    const at = s.indexOf('=');
    if (at < 1) throw new InputFault([`--set: "${s}" is not KEY=VALUE`]);
    return [s.slice(0, at).trim(), s.slice(at + 1)];
  });
  const result = assign(fitGait(base, body.legLength), pairs);
  if ('faults' in result) throw new InputFault(result.faults.map((f) => `--set ${f.key}: ${f.message}`));
  return result.gait;
}

/** The export format a file name asks for. */
export function formatOf(path: string | undefined): ExportFormat {
  if (path === undefined) throw new InputFault(['--out is needed']);
  const format = EXPORT_FORMATS.find((f) => f.extension === extname(path).toLowerCase());
  if (!format) throw new InputFault([`--out: "${path}" must end in ${EXPORT_FORMATS.map((f) => f.extension).join(' or ')}`]);
  return format;
}
