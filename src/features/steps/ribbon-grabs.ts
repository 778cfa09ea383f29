import type { PointerEvent as ReactPointer, RefObject } from 'react';
import { frameOf } from '@/core/ground/frame';
import { clamp, toDegrees, wrapAngle } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { freshMark } from '../document/history';
import { useWalk } from '../document/selectors';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession } from '../stage/session';
import { useWalkChange } from './editing';
import { followPointer } from '../footfall/follow';
import { chosenBy, usePrintActions } from './print-actions';
import type { RibbonMap } from './ribbon-view';

interface Place {
  readonly x: number;
  readonly z: number;
}

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** What the mouse does on the ribbon; every drag is one step of undo. */
export function useRibbonGrabs(motion: StageMotion, map: RibbonMap, frame: RefObject<HTMLElement | null>, pan: (dx: number, dy: number) => void) {
  const { spec: plan } = useWalk();
  const change = useWalkChange();
  const actions = usePrintActions(motion);
  const chosen = useSession((s) => s.chosen);
  const set = useSession((s) => s.set);
  const placeOf = (e: { clientX: number; clientY: number }): Place => {
    const bounds = frame.current!.getBoundingClientRect();
    return map.place(e.clientX - bounds.left, e.clientY - bounds.top);
  };
  const drag = (e: ReactPointer, move: (at: Place, by: Place, mark: string) => void) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    e.preventDefault();
    frame.current?.focus({ preventScroll: true });
    const start = placeOf(e);
    const mark = freshMark('ribbon');
    followPointer((event) => {
      const at = placeOf(event);
      move(at, { x: at.x - start.x, z: at.z - start.z }, mark);
    });
  };
  return {
    placeOf,
    ground(featureId: string, part: 'whole' | 'end' | 'heading' | number, e: ReactPointer) {
      set({ chosen: { kind: 'feature', key: featureId } });
      const was = plan.ground.features.find((f) => f.id === featureId)!;
      const lies = frameOf(was);
      drag(e, (at, by, mark) =>
        change(
          part === 'whole' ? 'move ground' : 'size ground',
          (p) => {
            const f = p.ground.features.find((g) => g.id === featureId);
            if (!f) return;
            if (part === 'whole') {
              f.x = round(was.x + by.x);
              f.z = round(was.z + by.z);
            } else if (typeof part === 'number') {
              if (f.kind !== 'stones' || was.kind !== 'stones') return;
              f.stones[part]!.z = round(was.stones[part]!.z + by.x * lies.sin + by.z * lies.cos);
              f.stones[part]!.x = round(was.stones[part]!.x + by.x * lies.cos - by.z * lies.sin);
            } else {
              const along = (at.x - was.x) * lies.sin + (at.z - was.z) * lies.cos;
              if (f.kind === 'stairs') f.count = clamp(Math.round(along / f.tread), 1, 200);
              else if ('length' in f) f.length = round(clamp(along, 0.5, 2000));
            }
          },
          mark,
        ),
      );
    },
    knot(i: number, e: ReactPointer) {
      set({ chosen: { kind: 'knot', key: i } });
      const was = plan.course.knots[i]!;
      drag(e, (_, by, mark) =>
        change(
          'move a knot',
          (p) => {
            const knot = p.course.knots[i];
            if (knot) [knot.x, knot.z] = [round(was.x + by.x), round(was.z + by.z)];
          },
          mark,
        ),
      );
    },
    /** The place that is faced. */
    faced(e: ReactPointer) {
      const was = plan.facing;
      if (was?.kind !== 'point') return;
      drag(e, (_, by, mark) => change('facing', (p) => void (p.facing = { kind: 'point', x: round(was.x + by.x), z: round(was.z + by.z) }), mark));
    },
    print(hold: Foothold, part: 'whole' | 'stalk', e: ReactPointer) {
      if (hold.step < 1) return;
      const next = chosenBy(hold.step, chosen, e.shiftKey);
      if (next !== chosen) set({ chosen: next });
      if (e.shiftKey) return e.stopPropagation();
      const moved = part === 'whole' ? chosenPrints(next) : [hold.step];
      const along = actions.headings(moved);
      drag(e, (at, by, mark) => {
        const turn = part === 'stalk' ? toDegrees(wrapAngle(Math.atan2(at.x - hold.x, at.z - hold.z) - hold.heading)) : 0;
        actions.move(moved, part === 'whole' ? { ...by, turnDeg: 0 } : { x: 0, z: 0, turnDeg: Math.round(turn) }, mark, plan, along);
      });
    },
    /** Where nothing lies the picture is moved. */
    background(e: ReactPointer) {
      if (e.button !== 0) return;
      set({ chosen: null });
      let last = { x: e.clientX, y: e.clientY };
      followPointer((event) => {
        pan(event.clientX - last.x, event.clientY - last.y);
        last = { x: event.clientX, y: event.clientY };
      });
    },
  };
}
