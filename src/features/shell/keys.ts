import { useEffect, useRef } from 'react';
import type { DocumentStore } from '../document/store';
import type { SessionStore } from '../stage/session';
import { entryFor, type KeyContext } from './key-table';
import { redoAloud, undoAloud } from './undoing';

/** Listens for the keys while nothing that types has the focus. */
export function useKeys(store: DocumentStore, context: KeyContext): void {
  const latest = useRef(context);
  useEffect(() => {
    latest.current = context;
  });
  useEffect(() => {
    // What a press gave the focus keeps no keys for itself; what the keyboard came to does.
    let pressed = false;
    let clicked = false;
    let usedUp = '';
    // A list that a press opened gives the keys back to the motion once something in it was chosen, or it was left.
    let openedByPress = false;
    let inList = false;
    const onKey = (e: KeyboardEvent) => {
      pressed = false;
      if (e.key === 'Tab') clicked = openedByPress = false;
      if (e.defaultPrevented) return;
      const act = historyAction(e, store, latest.current.clock.session) ?? actionFor(e, latest.current, clicked);
      if (!act) return;
      e.preventDefault();
      usedUp = e.key;
      act();
    };
    // Buttons and switches act when Space is let go.
    const onKeyUp = (e: KeyboardEvent) => {
      if (e.key === usedUp) e.preventDefault();
      usedUp = '';
    };
    const onFocus = (e: FocusEvent) => {
      const target = e.target as HTMLElement;
      const back = inList && openedByPress && target.closest('[role="combobox"]') !== null;
      clicked = pressed;
      inList = target.closest('[role="listbox"], .MuiModal-root') !== null;
      if (back) target.blur();
    };
    // A press beside a field leaves it, also where what is pressed takes no focus of its own: the keys are the motion's again.
    const onPress = (e: PointerEvent) => {
      pressed = clicked = true;
      if ((e.target as Element).closest('[role="combobox"]')) openedByPress = true;
      const held = document.activeElement;
      if (held instanceof HTMLElement && types(held) && !held.contains(e.target as Node) && !(e.target as Element).closest('label')) held.blur();
    };
    window.addEventListener('keydown', onKey);
    window.addEventListener('keyup', onKeyUp);
    window.addEventListener('focusin', onFocus);
    window.addEventListener('pointerdown', onPress, true);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('keyup', onKeyUp);
      window.removeEventListener('focusin', onFocus);
      window.removeEventListener('pointerdown', onPress, true);
    };
  }, [store]);
}

const types = (el: HTMLElement): boolean =>
  el.isContentEditable ||
  el instanceof HTMLTextAreaElement ||
  (el instanceof HTMLInputElement && !['range', 'checkbox', 'radio', 'button', 'file'].includes(el.type));

/** Undo and redo; a field keeps them while something in it is not committed. */
function historyAction(e: KeyboardEvent, store: DocumentStore, session: SessionStore): (() => void) | null {
  if (!(e.ctrlKey || e.metaKey) || e.altKey) return null;
  const key = e.key.toLowerCase();
  if (key !== 'z' && key !== 'y') return null;
  const target = e.target as HTMLElement;
  if (types(target) && target.dataset.committed !== 'true') return null;
  return key === 'y' || e.shiftKey ? () => redoAloud(store, session) : () => undoAloud(store, session);
}

function actionFor(e: KeyboardEvent, context: KeyContext, clicked: boolean): (() => void) | null {
  const target = e.target as HTMLElement;
  if (types(target) || e.ctrlKey || e.metaKey || e.altKey) return null;
  // What was reached by keyboard keeps its own Space and its letters; what was only clicked does not.
  if (e.key === ' ' && target.closest('button, [role="button"], [role="combobox"], a, input[type="checkbox"]') && !clicked) return null;
  if (target.closest('[role="listbox"], [role="menu"], [role="dialog"]')) return null;
  // A closed list goes by letters, digits and the named keys; signs are of no use to it.
  if (target.closest('[role="combobox"]') && (e.key.length > 1 || /[\p{L}\p{N} ]/u.test(e.key))) return null;
  // A slider has its own way to its ends.
  if ((e.key === 'Home' || e.key === 'End') && target.closest('[role="slider"], input[type="range"]')) return null;
  const entry = entryFor(e.key);
  return entry ? () => entry.run(context) : null;
}
