import { fileStem } from '@/core/formats/motion-file';
import { READ_LIMITS } from '@/core/formats/limits';
import { newClipSpec, type ClipSpec } from '@/core/travel/clip-spec';
import type { EngineClient } from '@/workers/client';
import { idsOf, specOf } from '../document/context';
import { addItem, type DocumentStore } from '../document/store';
import { freeName } from '../library/actions';
import { hashOf, keepFile } from './clip-files';

/** How bringing files in goes: which one, and how far (0 to 1). */
export interface Bringing {
  readonly name: string;
  readonly share: number;
}

interface Means {
  readonly engine: EngineClient;
  readonly store: DocumentStore;
  readonly tell: (bringing: Bringing | null) => void;
  /** Shows a clip whose file is read and not yet kept. */
  readonly show: (arriving: ClipSpec) => void;
}

/**
 * Brings files in one after the other: read in the worker, kept on the server as they came, and added to the project. Returns
 * the id of the last clip, and for each file that was refused why, in words; of those nothing is kept.
 */
export async function bringFiles(files: readonly File[], { engine, store, tell, show }: Means): Promise<{ last: string | null; refused: string[] }> {
  const refused: string[] = [];
  let last: string | null = null;
  for (const file of files) {
    try {
      last = await bringFile(file, { engine, store, tell, show });
    } catch (error) {
      refused.push(`${file.name}: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
  tell(null);
  return { last, refused };
}

/** From this size on a file is kept while it is read, once this part of it was. */
const LARGE_BYTES = 16e6;
const SOUND_SHARE = 0.3;

async function bringFile(file: File, { engine, store, tell, show }: Means): Promise<string> {
  // Told by steps of two hundredths: each one draws the page anew.
  let told = -1;
  const said = (share: number) => {
    const step = Math.floor(share * 50);
    if (step === told) return;
    told = step;
    tell({ name: file.name, share: step / 50 });
  };
  said(0);
  const most = /\.bvh$/i.test(file.name) ? READ_LIMITS.bvhBytes : READ_LIMITS.bytes;
  if (file.size > most) throw new Error(`the file has ${file.size} bytes; the limit is ${most}`);
  if (file.size === 0) throw new Error('the file is empty');
  const bytes = new Uint8Array(await file.arrayBuffer());
  const hash = await hashOf(bytes);
  // A large file is kept while it is still read, once so much of it is sound.
  let [read, kept] = [0, 0];
  let keeping: Promise<void> | null = null;
  const keep = () => (keeping ??= keepFile(hash, bytes, (share) => said(0.6 * read + 0.4 * (kept = share))));
  const found = await engine.call('bring', 'bring', { hash, name: file.name, bytes }, ({ done, total }) => {
    read = done / total;
    said(0.6 * read + 0.4 * kept);
    if (file.size > LARGE_BYTES && read > SOUND_SHARE) void keep().catch(() => undefined);
  });
  read = 1;
  const specs: ClipSpec[] = [];
  found.clips.forEach((clip, index) => {
    const taken = [...clipNames(store), ...specs.map((c) => c.name)];
    const name = freeName((found.clips.length > 1 ? clip.name : fileStem(file.name)).trim().slice(0, 70) || 'Clip', taken);
    const from: ClipSpec['file'] = { hash, name: file.name.slice(-255), bytes: file.size, index, skeleton: clip.skeleton };
    // What was said of one skeleton is remembered for its next file.
    const alike = clipSpecs(store).find((c) => c.file.skeleton === clip.skeleton);
    specs.push({ ...newClipSpec(name, from), ...(alike ? { said: alike.said } : {}) });
  });
  if (file.size > LARGE_BYTES) show(specs.at(-1)!);
  await keep();
  let last = '';
  for (const spec of specs) {
    last = crypto.randomUUID();
    addItem(store, 'clip', last, spec, `import ${spec.name}`);
  }
  return last;
}

const clipSpecs = (store: DocumentStore): ClipSpec[] => idsOf(store.getState(), 'clip').map((id) => specOf(store.getState(), 'clip', id));
const clipNames = (store: DocumentStore): string[] => clipSpecs(store).map((c) => c.name);
