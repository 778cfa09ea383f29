import { stat } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import type { Body } from '../src/core/body/body';
import type { Carrier } from '../src/core/clip/carried';
import { encodeClip } from '../src/core/formats/encode';
import { EXPORT_FORMATS } from '../src/core/formats/format';
import { contactsName, encodeContacts } from '../src/core/formats/contacts/file';
import { clipContacts, clipFile, clipTable } from '../src/core/handover/clip-file';
import { clipStride, NO_STRIDE, takingGait } from '../src/core/travel/take-gait';
import { InputFault } from './input';
import { writeWhole } from './output';
import type { Done } from './travel-done';

/** On which body files are written (null: on their own skeletons), and which joint carries their travel. */
export interface Writing {
  readonly body: Body | null;
  readonly carrier: Carrier | null;
  /** Whether a contacts file is written beside each BVH. */
  readonly contacts: boolean;
}

/** The bytes of one file, all its clips done, as the ending asks for; a table is one clip's. */
async function encoded(done: readonly Done[], ending: string, { body, carrier }: Writing): Promise<Uint8Array> {
  const { file, source, bytes, result, edits, onBody } = done[0]!;
  if (ending === '.csv') return Buffer.from(clipTable(result, edits));
  if (body) {
    const format = EXPORT_FORMATS.find((f) => f.extension === ending);
    if (!format) throw new InputFault([`--out: on a body a clip goes out as ${EXPORT_FORMATS.map((f) => f.extension).join(', ')} or .csv`]);
    if (done.length > 1) throw new InputFault([`${file}: it has ${done.length} clips; on a body one goes out`]);
    const { document, slide } = onBody!;
    process.stderr.write(`${basename(file)} on ${body.spec.name}: a foot slides up to ${(slide * 1000).toFixed(2)} mm\n`);
    return encodeClip(format, document);
  }
  if (ending !== `.${source.kind}`) throw new InputFault([`--out: a .${source.kind} goes out as .${source.kind} on its own skeleton, or as .csv`]);
  let now: Uint8Array = bytes;
  for (const one of done) now = Buffer.from(await clipFile({ bytes: now, file: source, index: one.index }, one.known, one.result, one.edits, carrier));
  return now;
}

/** The contacts of a clip as it goes out, for a file beside it. */
const contactsOf = ({ result, edits, onBody }: Done): Uint8Array =>
  onBody ? encodeContacts(onBody.document.clip, null, onBody.document.info.contacts) : clipContacts(result, edits);

/** Writes clips: one file, or files into a folder. */
export async function write(done: readonly Done[], out: string, many: boolean, how: Writing): Promise<void> {
  const folder =
    many ||
    (await stat(out).then(
      (s) => s.isDirectory(),
      () => false,
    ));
  if (!folder) {
    if (done.length > 1 && extname(out).toLowerCase() === '.csv')
      throw new InputFault([`--out: the file has ${done.length} clips; a folder is needed for their tables`]);
    await writeWhole(out, await encoded(done, extname(out).toLowerCase(), how));
    if (how.contacts && extname(out).toLowerCase() === '.bvh') await writeWhole(contactsName(out), contactsOf(done[0]!));
    return;
  }
  if (
    !(await stat(out).then(
      (s) => s.isDirectory(),
      () => false,
    ))
  )
    throw new InputFault([`--out: "${out}" must be a folder that is there, as there are several files`]);
  const files = await Promise.all(
    [...new Set(done.map((d) => d.file))].map(async (file) => ({
      name: basename(file),
      bytes: await encoded(
        done.filter((d) => d.file === file),
        extname(file).toLowerCase(),
        how,
      ),
    })),
  );
  for (const { name, bytes } of files) await writeWhole(join(out, name), bytes);
  if (how.contacts)
    for (const one of done) if (extname(one.file).toLowerCase() === '.bvh') await writeWhole(contactsName(join(out, basename(one.file))), contactsOf(one));
}

/** Fits a gait to the one clip there is, and writes it; how well it fits is said. */
export async function writeGait(done: readonly Done[], out: string): Promise<void> {
  if (done.length !== 1) throw new InputFault([`--gait: it is taken from one clip; there are ${done.length}`]);
  const { file, known, travel, layers } = done[0]!;
  const name = basename(file, extname(file));
  const found = clipStride(known.analysis, name, travel, [layers]);
  if (!found) throw new InputFault([`${file}: ${NO_STRIDE}`]);
  const fit = takingGait(found.stride, found.body, name);
  let step = fit.next();
  while (!step.done) step = fit.next();
  const { gait, off, bent } = step.value;
  await writeWhole(out, Buffer.from(`${JSON.stringify(gait, null, 2)}\n`));
  const each = Object.entries(off).map(([role, degrees]) => `${role} ${degrees.toFixed(1)}°`);
  process.stderr.write(
    `${out}: fitted to ${found.stride.strides.length} ${found.stride.strides.length === 1 ? 'stride' : 'strides'}; hips are bent ${bent.hip.toFixed(1)}° otherwise, knees ${bent.knee.toFixed(1)}°, ankles ${bent.ankle.toFixed(1)}°; turned about any axis: ${each.join(', ')} (root mean square)\n`,
  );
}
