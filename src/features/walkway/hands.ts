import { Plane, Raycaster, Vector2, Vector3, type Camera } from 'three';
import type { Foothold } from '@/core/motion/motion';
import type { Stage } from './stage';

/** A place on the ground, m. */
export interface GroundPlace {
  readonly x: number;
  readonly z: number;
}

/** What the pointer can do on the walkway besides turning the view. */
export interface WalkwayHands {
  /** Takes a print up; what it returns follows the pointer by so much until it is let go. Null: it is only chosen. */
  takePrint(hold: Foothold, more: boolean): ((by: GroundPlace) => void) | null;
}

const UP = new Vector3(0, 1, 0);

/** Listens to the pointer on the walkway, before the view is turned by it; ends with what it returns. */
export function listenHands(canvas: HTMLElement, camera: Camera, stageNow: () => Stage | null, handsNow: () => WalkwayHands | null): () => void {
  const ray = new Raycaster();
  const at = new Vector2();
  const plane = new Plane();
  const hit = new Vector3();
  const aim = (e: PointerEvent) => {
    const box = canvas.getBoundingClientRect();
    at.set(((e.clientX - box.left) / box.width) * 2 - 1, 1 - ((e.clientY - box.top) / box.height) * 2);
    ray.setFromCamera(at, camera);
  };
  /** Where the pointer's ray meets the level `y` (m) of the shown space. */
  const onLevel = (y: number): GroundPlace | null => {
    plane.set(UP, -y);
    return ray.ray.intersectPlane(plane, hit) ? { x: hit.x, z: hit.z } : null;
  };
  const printUnder = (e: PointerEvent): Foothold | null => {
    aim(e);
    return stageNow()?.printUnder(ray) ?? null;
  };
  const down = (e: PointerEvent) => {
    const hands = handsNow();
    const hold = hands && e.button === 0 ? printUnder(e) : null;
    if (!hands || !hold || hold.step < 1) return;
    e.stopImmediatePropagation();
    const follow = hands.takePrint(hold, e.shiftKey);
    const start = onLevel(hold.y);
    if (!follow || !start) return;
    canvas.setPointerCapture(e.pointerId);
    const move = (event: PointerEvent) => {
      aim(event);
      const place = onLevel(hold.y);
      if (place) follow({ x: place.x - start.x, z: place.z - start.z });
    };
    const end = () => {
      canvas.removeEventListener('pointermove', move);
      canvas.removeEventListener('pointerup', end);
      canvas.removeEventListener('pointercancel', end);
    };
    canvas.addEventListener('pointermove', move);
    canvas.addEventListener('pointerup', end);
    canvas.addEventListener('pointercancel', end);
  };
  const hover = (e: PointerEvent) => {
    if (e.buttons === 0) canvas.style.cursor = handsNow() && printUnder(e) ? 'grab' : '';
  };
  canvas.addEventListener('pointerdown', down, true);
  canvas.addEventListener('pointermove', hover);
  return () => {
    canvas.removeEventListener('pointerdown', down, true);
    canvas.removeEventListener('pointermove', hover);
  };
}
