import { BufferAttribute, BufferGeometry, Group, Line, LineBasicMaterial, Mesh, MeshBasicMaterial, RingGeometry } from 'three';
import { createPlacement } from '@/core/math/placement';
import type { Motion } from '@/core/motion/motion';
import type { ScenePalette } from './palette';

const POINTS = 160;
/** Heights (m) of the way and of the mark over the ground. */
const LINE_M = 0.0025;
const MARK_M = 0.004;

/** Where a figure really is while a treadmill holds it: its way, faint, and a mark on it. */
export class HeldTrace {
  readonly group = new Group();
  private readonly way: Line<BufferGeometry, LineBasicMaterial>;
  private readonly mark: Mesh<RingGeometry, MeshBasicMaterial>;
  private of: Motion | null = null;

  constructor(palette: ScenePalette) {
    this.way = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.ink, transparent: true, opacity: 0.28 }));
    this.way.geometry.setAttribute('position', new BufferAttribute(new Float32Array(POINTS * 3), 3));
    this.way.frustumCulled = false;
    this.mark = new Mesh(
      new RingGeometry(0.05, 0.065, 28).rotateX(-Math.PI / 2),
      new MeshBasicMaterial({ color: palette.ink, transparent: true, opacity: 0.4 }),
    );
    this.group.add(this.way, this.mark);
    this.group.visible = false;
  }

  hide(): void {
    this.group.visible = false;
  }

  /** Shows the way of a motion so long (s), and the mark at a place. */
  show(motion: Motion, duration: number, x: number, y: number, z: number): void {
    this.group.visible = true;
    this.mark.position.set(x, y + MARK_M, z);
    if (this.of === motion) return;
    this.of = motion;
    const at = this.way.geometry.getAttribute('position') as BufferAttribute;
    const root = createPlacement();
    for (let i = 0; i < POINTS; i++) {
      motion.place((i / (POINTS - 1)) * duration, root);
      at.setXYZ(i, root[0]!, root[1]! + LINE_M, root[2]!);
    }
    at.needsUpdate = true;
  }

  dispose(): void {
    for (const part of [this.way, this.mark]) {
      part.geometry.dispose();
      part.material.dispose();
    }
  }
}
