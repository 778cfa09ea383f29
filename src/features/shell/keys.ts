import { useEffect, useRef } from 'react';
import { redo, undo, type DocumentStore } from '../document/store';
import { entryFor, type KeyContext } from './key-table';

/** Listens for the keys while nothing that types has the focus. */
export function useKeys(store: DocumentStore, context: KeyContext): void {
  const latest = useRef(context);
  useEffect(() => {
    latest.current = context;
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented) return;
      const act = historyAction(e, store) ?? actionFor(e, latest.current);
      if (!act) return;
      e.preventDefault();
      act();
    };
    // A press beside a field leaves it, also where what is pressed takes no focus of its own: the keys are the motion's again.
    const onPress = (e: PointerEvent) => {
      const held = document.activeElement;
      if (held instanceof HTMLElement && types(held) && !held.contains(e.target as Node) && !(e.target as Element).closest('label')) held.blur();
    };
    window.addEventListener('keydown', onKey);
    window.addEventListener('pointerdown', onPress, true);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('pointerdown', onPress, true);
    };
  }, [store]);
}

const types = (el: HTMLElement): boolean =>
  el.isContentEditable ||
  el instanceof HTMLTextAreaElement ||
  (el instanceof HTMLInputElement && !['range', 'checkbox', 'radio', 'button', 'file'].includes(el.type));

/** Undo and redo; a field keeps them while something in it is not committed. */
function historyAction(e: KeyboardEvent, store: DocumentStore): (() => void) | null {
  if (!(e.ctrlKey || e.metaKey) || e.altKey) return null;
  const key = e.key.toLowerCase();
  if (key !== 'z' && key !== 'y') return null;
  const target = e.target as HTMLElement;
  if (types(target) && target.dataset.committed !== 'true') return null;
  return key === 'y' || e.shiftKey ? () => redo(store) : () => undo(store);
}

function actionFor(e: KeyboardEvent, context: KeyContext): (() => void) | null {
  const target = e.target as HTMLElement;
  if (types(target) || e.ctrlKey || e.metaKey || e.altKey) return null;
  // What was reached by keyboard keeps its own Space and its letters; what was only clicked does not.
  if (e.key === ' ' && target.closest('button, [role="button"], [role="combobox"], a, input[type="checkbox"]') && target.matches(':focus-visible')) return null;
  if (target.closest('[role="listbox"], [role="menu"], [role="dialog"], [role="combobox"]')) return null;
  // A slider has its own way to its ends.
  if ((e.key === 'Home' || e.key === 'End') && target.closest('[role="slider"], input[type="range"]')) return null;
  const entry = entryFor(e.key);
  return entry ? () => entry.run(context) : null;
}
