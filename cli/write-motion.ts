import { checkFile } from '../src/core/check/check';
import { encodeClip } from '../src/core/formats/encode';
import { contactsName, encodeContacts } from '../src/core/formats/contacts/file';
import type { ExportFormat } from '../src/core/formats/format';
import type { MadeClip } from '../src/core/handover/make-clip';
import { writeWhole } from './output';
import { summary } from './report';

/** Writes a made clip, measures the file as written and prints what was found and noted. */
export async function writeMotion(path: string, format: ExportFormat, { document, notes }: MadeClip, contacts = false): Promise<number> {
  const bytes = await encodeClip(format, document);
  const [check] = await checkFile(bytes, path, document.info.ground);
  await writeWhole(path, bytes);
  if (contacts && format.id === 'bvh') await writeWhole(contactsName(path), encodeContacts(document.clip, null, document.info.contacts));
  process.stdout.write(`${path}: ${summary(check!)}\n`);
  for (const note of notes) process.stdout.write(`  ${note.words}\n`);
  return 0;
}
