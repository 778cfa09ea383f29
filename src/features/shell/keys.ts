import { useEffect, useRef } from 'react';
import { redo, undo, type DocumentStore } from '../document/store';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { stepContact, stepFrame, togglePlay } from './playback';

/** Listens for the keys while nothing that types has the focus. */
export function useKeys(store: DocumentStore, clock: Clock, motion: StageMotion, showSheet: () => void): void {
  const latest = useRef({ motion, showSheet });
  useEffect(() => {
    latest.current = { motion, showSheet };
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      const { motion: now, showSheet: show } = latest.current;
      const act = actionFor(e, target, store, clock, now, show);
      if (!act) return;
      e.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store, clock]);
}

function actionFor(e: KeyboardEvent, target: HTMLElement, store: DocumentStore, clock: Clock, motion: StageMotion, showSheet: () => void): (() => void) | null {
  const typing = target.isContentEditable || (target instanceof HTMLInputElement && target.type !== 'range' && target.type !== 'checkbox');
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && !typing) return () => (e.shiftKey ? redo(store) : undo(store));
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'y' && !typing) return () => redo(store);
  if (typing || e.ctrlKey || e.metaKey || e.altKey) return null;
  // A focused button, menu or switch keeps its own Space.
  if (e.key === ' ')
    return target.closest('button, [role="button"], [role="combobox"], [role="option"], a, input[type="checkbox"]') ? null : () => togglePlay(clock, motion);
  if (e.key === ',') return () => stepFrame(clock, motion, -1);
  if (e.key === '.') return () => stepFrame(clock, motion, 1);
  if (e.key === '[') return () => stepContact(clock, motion, -1);
  if (e.key === ']') return () => stepContact(clock, motion, 1);
  if (e.key === '?') return showSheet;
  return null;
}
