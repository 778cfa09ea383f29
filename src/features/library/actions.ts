import { decodeGait } from '@/core/formats/json/decode';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import type { ProjectSpec } from '@/core/project/kinds';
import { idsOf } from '../document/context';
import { addItem, edit, type DocumentStore } from '../document/store';
import { projectCall } from '../projects/api';

/** A saved state in a list, as the server tells it. */
export interface SavedState {
  readonly version: number;
  readonly savedAt: string;
  readonly keptAs: string | null;
  readonly changed: readonly string[];
  readonly spec: GaitSpec;
}

/** Adds a gait to the project and takes it up, as one step. */
export function addGait(store: DocumentStore, gait: GaitSpec, id: string = crypto.randomUUID()): void {
  const { projectId } = store.getState();
  addItem(store, 'gait', id, gait, `add ${gait.name}`, (specs) => void ((specs[projectId] as ProjectSpec).gait = id));
}

/** Takes a gait out of the project; another is taken up where it was the one in use. The last one stays. */
export function removeGait(store: DocumentStore, id: string): void {
  const state = store.getState();
  const left = idsOf(state, 'gait').filter((g) => g !== id);
  if (left.length === 0) return;
  edit(store, `remove ${state.specs[id]!.name}`, (specs) => {
    delete specs[id];
    const project = specs[state.projectId] as ProjectSpec;
    if (project.gait === id) project.gait = left[0]!;
  });
}

const statesPath = (store: DocumentStore, id: string): string => `/${store.getState().projectId}/items/gait/${id}/revisions`;

export const gaitStates = (store: DocumentStore, id: string): Promise<SavedState[]> => projectCall('GET', statesPath(store, id));

/** Keeps a saved state under a name for good; with null it may fade again. */
export const keepGaitState = (store: DocumentStore, id: string, version: number, keptAs: string | null): Promise<void> =>
  projectCall('PUT', `${statesPath(store, id)}/${version}`, { keptAs });

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
