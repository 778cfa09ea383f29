import { strToU8, zipSync, type Zippable } from 'fflate';
import type { Body } from '../body/body';
import type { Carrier } from '../clip/carried';
import type { CheckResult } from '../check/check';
import { contactsName } from '../formats/contacts/file';
import type { ExportFormat } from '../formats/format';
import { finishLater } from '../math/finish';
import type { SampleOptions } from '../motion/sample';
import { makingClip, type Order } from './make-clip';
import type { Note } from './notes';
import { writing } from './written';

/** One written file and what measuring it again found. */
export interface PackedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** The contacts file beside it. */
  readonly contacts?: Uint8Array;
  readonly check: CheckResult;
  readonly notes: readonly Note[];
  readonly directionDeg: number;
}

export interface PackOptions extends SampleOptions {
  readonly rate: number;
  readonly inPlace: boolean;
  readonly carrier?: Carrier | null;
  readonly formats: readonly ExportFormat[];
  /** Whether a contacts file is written beside each BVH. */
  readonly contacts?: boolean;
}

/** Fixed time stamp of zip entries, so that equal packs have equal bytes. */
const ZIP_TIME = new Date('2026-01-01T00:00:00');

/** How far a pack is: files done, of how many, and the one being written. */
export interface PackProgress {
  readonly done: number;
  readonly total: number;
  readonly name: string;
}

/**
 * Writes every motion in every format and measures the files as written, by reading them back. Tells before each file how far
 * it is; who has heard enough just asks no further. Nothing is solved before its turn comes.
 */
export async function* packing(orders: readonly (() => Order)[], options: PackOptions): AsyncGenerator<PackProgress | undefined, PackedFile[]> {
  const files: PackedFile[] = [];
  const total = orders.length * options.formats.length;
  const names = new Set<string>();
  for (const make of orders) {
    const order = make();
    const { document, notes } = yield* makingClip(order, options.rate, options);
    const { body } = order.motion;
    const stem = unique(fileStem(body.spec.name, order.motion.name, document.info.direction, order.motion.pace.speed), names);
    for (const format of options.formats) {
      const name = `${stem}${format.extension}`;
      yield { done: files.length, total, name };
      const written = yield* writing(document, format, name, options.contacts ?? false);
      files.push({ name, ...written, notes, directionDeg: document.info.direction });
    }
  }
  yield { done: total, total, name: '' };
  return files;
}

/** The same to its end, telling nobody. */
export const packMotions = (orders: readonly (() => Order)[], options: PackOptions): Promise<PackedFile[]> => finishLater(packing(orders, options));

/** A name as a word of a file's name. */
const word = (s: string) =>
  s
    .normalize('NFKD')
    .replace(/[^\w.-]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase() || 'clip';

/** A file's name without its ending, of a clip's: none is given twice. */
export const uniqueStem = (name: string, ending: string, names: Set<string>): string => unique(word(name), names, ending);

/** File name by the pattern body_gait_direction_speed. */
function fileStem(body: string, gait: string, directionDeg: number, speed: number): string {
  const plain = gait.replace(/\s*-?\d+(\.\d+)?°/, '');
  return `${word(body)}_${word(plain)}_${Math.round(directionDeg)}deg_${speed.toFixed(2)}mps`;
}

function unique(stem: string, names: Set<string>, ending = ''): string {
  let name = stem;
  for (let n = 2; names.has(name + ending); n++) name = `${stem}_${n}`;
  names.add(name + ending);
  return name;
}

/** The manifest of a pack: what each file is and what was measured of it. */
export function manifestOf(files: readonly PackedFile[], body: Body): object {
  return {
    format: 'nimbret.manifest',
    version: 1,
    body: { name: body.spec.name, stature: body.spec.stature, legLength: body.legLength },
    clips: files.map(({ name, check, directionDeg, notes, contacts }) => ({
      file: name,
      ...(contacts ? { contactsFile: contactsName(name) } : {}),
      frames: check.frames,
      rate: check.rate,
      loop: check.seam !== null,
      travelPerLoopM: check.travel.distanceM,
      speedMps: check.travel.speedMps,
      directionDeg,
      turnDeg: check.travel.turnDeg,
      contacts: check.contacts,
      syncPhase: 0,
      slideMm: check.slideMm,
      sinkMm: check.sinkMm,
      seam: check.seam,
      notes: notes.map((n) => n.words),
    })),
  };
}

/** Every file of a pack by its name, contacts files among them. */
export const filesAndContacts = (files: readonly PackedFile[]): { readonly name: string; readonly bytes: Uint8Array }[] =>
  files.flatMap(({ name, bytes, contacts }) => [{ name, bytes }, ...(contacts ? [{ name: contactsName(name), bytes: contacts }] : [])]);

/** All files and their manifest as one zip. */
export function zipPack(files: readonly PackedFile[], body: Body): Uint8Array {
  const entries: Zippable = {};
  for (const { name, bytes } of filesAndContacts(files)) entries[name] = [bytes, { level: name.endsWith('.glb') ? 1 : 6, mtime: ZIP_TIME }];
  entries['manifest.json'] = [strToU8(JSON.stringify(manifestOf(files, body), null, 2)), { mtime: ZIP_TIME }];
  return zipSync(entries);
}
