import { strFromU8 } from 'fflate';
import { checkingFile, type CheckResult } from '../check/check';
import type { ClipDocument } from '../formats/clip-info';
import { contactsName, encodeContacts } from '../formats/contacts/file';
import { encodeClip } from '../formats/encode';
import type { ExportFormat } from '../formats/format';

/** A document as a file: its bytes, what measuring it again found, and the contacts file beside it where one was asked for. */
export interface Written {
  readonly bytes: Uint8Array;
  readonly check: CheckResult;
  readonly contacts?: Uint8Array;
}

/** Writes a document and measures the file as written, on the ground it is for. A BVH has no place for its contacts: `beside` asks for a contacts file; where its floor moves it always has one, since nothing else tells how. */
export async function* writing(document: ClipDocument, format: ExportFormat, name: string, beside: boolean): AsyncGenerator<undefined, Written> {
  const bytes = await encodeClip(format, document);
  const { clip, info } = document;
  const contacts = format.id === 'bvh' && (beside || clip.deck) ? encodeContacts(clip, null, info.contacts) : null;
  const text = contacts ? { text: strFromU8(contacts), file: contactsName(name) } : undefined;
  const check = (yield* checkingFile(bytes, name, info.ground, text))[0]!;
  return { bytes, check, ...(contacts ? { contacts } : {}) };
}
