import { Plane, Raycaster, Vector2, Vector3, type Camera } from 'three';
import type { Foothold } from '@/core/motion/motion';
import { wrapAngle } from '@/core/math/scalar';
import type { PlumbPart } from './plumb';
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
  /** Takes a part of the plumb up; what it returns follows the pointer: moved (m), and turned about up (rad), until it is let go. */
  takePlumb?(part: PlumbPart): ((by: PlumbMove) => void) | null;
  /** Points at a joint of a clip's own skeleton. */
  takeJoint?(joint: number): void;
  /** Told before each picture: the time (s), where the pointer is on the ground under the figure, and where the view looks (rad about Y). */
  beat?(time: number, pointed: GroundPlace | null, looks: number): void;
}

/** How far a plumb was dragged. */
interface PlumbMove extends GroundPlace {
  readonly y: number;
  readonly turn: number;
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
  /** Height (m) at which the pointer's ray passes a plumb line nearest. */
  const heightAt = (x: number, z: number): number => {
    const { origin, direction } = ray.ray;
    const { x: sx, z: sz } = stageNow()?.shift ?? NO_SHIFT;
    const [dx, dz] = [x - sx - origin.x, z - sz - origin.z];
    const flat = direction.x ** 2 + direction.z ** 2;
    const t = flat > 1e-6 ? (dx * direction.x + dz * direction.z) / flat : 0;
    return origin.y + t * direction.y;
  };
  const follows = (e: PointerEvent, move: () => void) => {
    canvas.setPointerCapture(e.pointerId);
    const heard = (event: PointerEvent) => {
      aim(event);
      move();
    };
    const end = () => {
      canvas.removeEventListener('pointermove', heard);
      canvas.removeEventListener('pointerup', end);
      canvas.removeEventListener('pointercancel', end);
    };
    canvas.addEventListener('pointermove', heard);
    canvas.addEventListener('pointerup', end);
    canvas.addEventListener('pointercancel', end);
  };
  /** Drags the plumb by the part under the pointer; false where none is. */
  const dragPlumb = (e: PointerEvent): boolean => {
    const [stage, hands] = [stageNow(), handsNow()];
    aim(e);
    const part = hands?.takePlumb && stage ? stage.plumbUnder(ray) : null;
    if (!part || !stage) return false;
    e.stopImmediatePropagation();
    const follow = hands!.takePlumb!(part);
    if (!follow) return true;
    const { x, y, z } = stage.plumbPlace;
    const level = y + stage.rise;
    const start = onLevel(level);
    const from = part === 'knob' ? heightAt(x, z) : 0;
    const angle = (p: GroundPlace) => Math.atan2(p.x - x, p.z - z);
    follows(e, () => {
      if (part === 'knob') return follow({ x: 0, z: 0, y: heightAt(x, z) - from, turn: 0 });
      const now = onLevel(level);
      if (!now || !start) return;
      if (part === 'foot') follow({ x: now.x - start.x, z: now.z - start.z, y: 0, turn: 0 });
      else follow({ x: 0, z: 0, y: 0, turn: wrapAngle(angle(now) - angle(start)) });
    });
    return true;
  };
  const jointUnder = (): number | null => (handsNow()?.takeJoint ? (stageNow()?.jointUnder(ray) ?? null) : null);
  /** Points at the joint under the pointer; false where none is. */
  const pointJoint = (e: PointerEvent): boolean => {
    aim(e);
    const joint = jointUnder();
    if (joint === null) return false;
    e.stopImmediatePropagation();
    handsNow()!.takeJoint!(joint);
    return true;
  };
  const down = (e: PointerEvent) => {
    if (e.button === 0 && (dragPlumb(e) || pointJoint(e))) return;
    const hands = handsNow();
    const hold = hands && e.button === 0 ? printUnder(e) : null;
    if (!hands || !hold || hold.step < 1) return;
    e.stopImmediatePropagation();
    const follow = hands.takePrint(hold, e.shiftKey);
    const start = onLevel(hold.y);
    if (!follow || !start) return;
    follows(e, () => {
      const place = onLevel(hold.y);
      if (place) follow({ x: place.x - start.x, z: place.z - start.z });
    });
  };
  let last: PointerEvent | null = null;
  const hover = (e: PointerEvent) => {
    last = e.buttons === 0 ? e : null;
    if (e.buttons !== 0) return;
    aim(e);
    const plumb = handsNow()?.takePlumb ? stageNow()?.plumbUnder(ray) : null;
    canvas.style.cursor = plumb || jointUnder() !== null || (handsNow() && printUnder(e)) ? 'grab' : '';
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
