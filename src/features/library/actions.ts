import { decodeGait } from '@/core/formats/json/decode';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import { chooseGait } from '../cycle/editing';
import { idsOf } from '../document/context';
import { addItem, dropItem, type DocumentStore } from '../document/store';
import { projectCall } from '../projects/api';

/** A saved state in a list, as the server tells it. */
export interface RevisionSummary {
  readonly version: number;
  readonly savedAt: string;
}

const itemsPath = (store: DocumentStore): string => `/${store.getState().projectId}/items/gait`;

/** Adds a gait to the project and takes it up. */
export async function addGait(store: DocumentStore, gait: GaitSpec): Promise<void> {
  const { id, version } = await projectCall<{ id: string; version: number }>('POST', itemsPath(store), { spec: gait });
  addItem(store, 'gait', id, version, gait);
  chooseGait(store, id);
}

/** Takes a gait out of the project; what was taken can be brought back with the function returned. */
export async function removeGait(store: DocumentStore, id: string): Promise<() => Promise<void>> {
  const spec = store.getState().specs[id] as GaitSpec;
  const { version } = store.getState().meta[id]!;
  if (store.getState().dirty.includes(id)) throw new Error('This gait is still being saved. Try again in a moment.');
  await projectCall('DELETE', `${itemsPath(store)}/${id}`);
  dropItem(store, id);
  const first = idsOf(store.getState(), 'gait')[0]!;
  chooseGait(store, first);
  return async () => {
    await projectCall('POST', `${itemsPath(store)}/${id}/restore`);
    addItem(store, 'gait', id, version, spec);
    chooseGait(store, id);
  };
}

export const gaitRevisions = (store: DocumentStore, id: string): Promise<RevisionSummary[]> => projectCall('GET', `${itemsPath(store)}/${id}/revisions`);

export const gaitRevision = (store: DocumentStore, id: string, version: number): Promise<{ spec: GaitSpec }> =>
  projectCall('GET', `${itemsPath(store)}/${id}/revisions/${version}`);

/** A name that no gait of the project has yet. */
export function freeName(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  for (let n = 2; ; n++) if (!taken.includes(`${name} ${n}`)) return `${name} ${n}`;
}

/** Reads a gait file a person chose, fitted to the body in use. Throws with the file's faults in words. */
export async function readGaitFile(file: File, legLength: number): Promise<GaitSpec> {
  const MOST_BYTES = 1_000_000;
  if (file.size > MOST_BYTES) throw new Error(`${file.name} has ${file.size} bytes; a gait file has at most ${MOST_BYTES}.`);
  return fitGait(decodeGait(await file.text(), file.name), legLength);
}

/** Hands bytes to the person as a file. */
export function saveAs(name: string, data: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([data], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** File name of a gait. */
export const gaitFileName = (gait: GaitSpec, extension: string): string =>
  `${gait.name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')}.${extension}`;
