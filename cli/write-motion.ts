import { contactsName } from '../src/core/formats/contacts/file';
import type { ExportFormat } from '../src/core/formats/format';
import type { MadeClip } from '../src/core/handover/make-clip';
import { writing } from '../src/core/handover/written';
import { finishLater } from '../src/core/math/finish';
import { writeWhole } from './output';
import { summary } from './report';

/** Writes a made clip, measures the file as written and prints what was found and noted. */
export async function writeMotion(path: string, format: ExportFormat, { document, notes }: MadeClip, contacts = false): Promise<number> {
  const { bytes, check, contacts: beside } = await finishLater(writing(document, format, path, contacts));
  await writeWhole(path, bytes);
  if (beside) await writeWhole(contactsName(path), beside);
  process.stdout.write(`${path}: ${summary(check)}\n`);
  for (const note of notes) process.stdout.write(`  ${note.words}\n`);
  return 0;
}
