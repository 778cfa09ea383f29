import type { Step } from '../document/history';
import { redo, undo, type DocumentStore } from '../document/store';
import type { SessionStore } from '../stage/session';
import { isStation, stationOf } from './stations';

/** What a step did and where, as it is told: "a print is moved" is not known, but "move a print (Steps)" is. */
export const stepWords = ({ label, where }: Step): string => `${label}${where && isStation(where) ? ` (${stationOf(where).label})` : ''}`;

function tell(session: SessionStore, word: string, step: Step | null): void {
  if (!step) return;
  const { where } = step;
  const here = globalThis.location?.pathname.split('/').pop();
  session
    .getState()
    .set({ notice: { text: `${word}: ${stepWords(step)}`, undo: false, ...(where && where !== here && isStation(where) ? { go: where } : {}) } });
}

/** Undo and redo that say what they did, with a way to where it was done. */
export const undoAloud = (store: DocumentStore, session: SessionStore): void => tell(session, 'Undone', undo(store));
export const redoAloud = (store: DocumentStore, session: SessionStore): void => tell(session, 'Done again', redo(store));
