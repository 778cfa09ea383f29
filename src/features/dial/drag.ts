import type { PointerEvent, RefObject } from 'react';
import { freshMark } from '../document/history';
import { phaseAt } from './geometry';

export interface DialDrag {
  /** Phase under the pointer. */
  readonly phase: number;
  /** Phase at which the drag began. */
  readonly from: number;
  /** The same during one drag. */
  readonly mark: string;
  /** Whether Shift is held. */
  readonly together: boolean;
}

/** Starts a drag on the dial, which takes the focus. `move` is called with every move, `end` when it is over. */
export function dragOnDial(
  begin: PointerEvent,
  svg: RefObject<SVGSVGElement | null>,
  size: number,
  name: string,
  move: (drag: DialDrag) => void,
  end: () => void,
): void {
  begin.preventDefault();
  (begin.currentTarget as SVGElement).focus({ preventScroll: true });
  const box = svg.current!.getBoundingClientRect();
  const phaseOf = (e: { clientX: number; clientY: number }) =>
    phaseAt(((e.clientX - box.left) / box.width) * size, ((e.clientY - box.top) / box.height) * size, size / 2);
  const from = phaseOf(begin);
  const mark = freshMark(name);
  const onMove = (e: globalThis.PointerEvent) => move({ phase: phaseOf(e), from, mark, together: e.shiftKey });
  const onUp = () => {
    window.removeEventListener('pointermove', onMove);
    window.removeEventListener('pointerup', onUp);
    window.removeEventListener('pointercancel', onUp);
    end();
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', onUp);
  window.addEventListener('pointercancel', onUp);
}
