'use client';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useEffect, useRef } from 'react';
import { redo, undo, type DocumentStore } from '../document/store';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { stepContact, stepFrame, togglePlay } from './playback';

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play or pause'],
  [', and .', 'One frame back, one frame on'],
  ['[ and ]', 'Previous, next landing or lift-off'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'Undo, redo'],
  ['Arrow keys', 'Step the value in focus; with Shift by ten'],
  ['?', 'This sheet'],
];

export function KeySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="key-sheet">
      <DialogTitle id="key-sheet">Keys</DialogTitle>
      <DialogContent>
        <Table size="small">
          <TableBody>
            {KEYS.map(([key, what]) => (
              <TableRow key={key}>
                <TableCell sx={{ fontWeight: 600 }}>{key}</TableCell>
                <TableCell>{what}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </DialogContent>
    </Dialog>
  );
}

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
