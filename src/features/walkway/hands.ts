import { Plane, Raycaster, Vector2, Vector3, type Camera } from 'three';
import type { Foothold } from '@/core/motion/motion';
import type { Stage } from './stage';

/** A place on the ground, m. */
interface GroundPlace {
  readonly x: number;
  readonly z: number;
}

/** What the pointer can do on the walkway besides turning the view. */
export interface WalkwayHands {
  /** Takes a print up; what it returns follows the pointer by so much until it is let go. Null: it is only chosen. */
  takePrint(hold: Foothold, more: boolean): ((by: GroundPlace) => void) | null;
  /** Told before each picture: the time (s), where the pointer is on the ground under the figure, and where the view looks (rad about Y). */
  beat?(time: number, pointed: GroundPlace | null, looks: number): void;
}

/** The pointer on the walkway. */
export interface Pointer {
  /** Where it is on the level `y` (m) of the shown space; null while it is elsewhere or turns the view. */
  onLevel(y: number): GroundPlace | null;
  end(): void;
}

const UP = new Vector3(0, 1, 0);
const NO_SHIFT: GroundPlace = { x: 0, z: 0 };
/** What is farther off than this (m) is the sky. */
const FARTHEST_M = 60;

/** Listens to the pointer on the walkway, before the view is turned by it. */
export function listenHands(canvas: HTMLElement, camera: Camera, stageNow: () => Stage | null, handsNow: () => WalkwayHands | null): Pointer {
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
    if (!ray.ray.intersectPlane(plane, hit) || hit.distanceTo(ray.ray.origin) > FARTHEST_M) return null;
    const { x, z } = stageNow()?.shift ?? NO_SHIFT;
    return { x: hit.x + x, z: hit.z + z };
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
  let last: PointerEvent | null = null;
  const hover = (e: PointerEvent) => {
    last = e.buttons === 0 ? e : null;
    if (e.buttons === 0) canvas.style.cursor = handsNow() && printUnder(e) ? 'grab' : '';
  };
  const leave = () => (last = null);
  canvas.addEventListener('pointerdown', down, true);
  canvas.addEventListener('pointermove', hover);
  canvas.addEventListener('pointerleave', leave);
  return {
    onLevel(y) {
      if (!last) return null;
      aim(last);
      return onLevel(y);
    },
    end() {
      canvas.removeEventListener('pointerdown', down, true);
      canvas.removeEventListener('pointermove', hover);
      canvas.removeEventListener('pointerleave', leave);
    },
  };
}
