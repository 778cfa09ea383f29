import { BufferAttribute, BufferGeometry, Group, Line, LineBasicMaterial, Mesh, MeshBasicMaterial, RingGeometry, SphereGeometry, type Raycaster } from 'three';
import type { ScenePalette } from './palette';

/** What of a plumb is dragged: the knob up and down, the foot along the ground, the ring round the foot to turn. */
const PLUMB_PARTS = ['knob', 'foot', 'ring'] as const;
export type PlumbPart = (typeof PLUMB_PARTS)[number];

const KNOB_M = 0.026;
const FOOT_M = 0.05;
const RING_M = [0.15, 0.19] as const;
/** Height (m) of what lies on the ground. */
const OVER_M = 0.006;

/** A handle for corrections: a knob with a plumb line down to a foot on the ground, and a ring round the foot. */
export class Plumb {
  readonly group = new Group();
  private readonly knob: Mesh<SphereGeometry, MeshBasicMaterial>;
  private readonly foot: Mesh<RingGeometry, MeshBasicMaterial>;
  private readonly ring: Mesh<RingGeometry, MeshBasicMaterial>;
  private readonly line: Line<BufferGeometry, LineBasicMaterial>;

  constructor(palette: ScenePalette) {
    const paint = (opacity: number) => new MeshBasicMaterial({ color: palette.sea, depthTest: false, transparent: true, opacity });
    this.knob = new Mesh(new SphereGeometry(KNOB_M, 20, 14), paint(0.95));
    this.foot = new Mesh(new RingGeometry(0, FOOT_M, 32).rotateX(-Math.PI / 2), paint(0.85));
    this.ring = new Mesh(new RingGeometry(RING_M[0], RING_M[1], 64).rotateX(-Math.PI / 2), paint(0.45));
    this.line = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.sea, depthTest: false, transparent: true }));
    this.line.geometry.setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
    this.line.frustumCulled = false;
    [this.ring, this.line, this.foot, this.knob].forEach((part, i) => (part.renderOrder = 10 + i));
    this.group.add(this.ring, this.line, this.foot, this.knob);
    this.group.visible = false;
  }

  /** Hangs it at a place (m) over the ground's height there. */
  show(x: number, y: number, z: number, ground: number): void {
    this.group.visible = true;
    this.knob.position.set(x, y, z);
    for (const flat of [this.foot, this.ring]) flat.position.set(x, ground + OVER_M, z);
    const at = this.line.geometry.getAttribute('position') as BufferAttribute;
    at.setXYZ(0, x, y, z);
    at.setXYZ(1, x, ground + OVER_M, z);
    at.needsUpdate = true;
  }

  /** Whether it is drawn where it hangs. */
  set shown(shown: boolean) {
    for (const part of this.group.children) part.visible = shown;
  }

  hide(): void {
    this.group.visible = false;
  }

  /** What of it lies under a ray. */
  under(ray: Raycaster): PlumbPart | null {
    if (!this.group.visible) return null;
    for (const part of PLUMB_PARTS) if (ray.intersectObject(this[part]).length > 0) return part;
    return null;
  }

  /** Where its foot stands in the space it hangs in. */
  get place(): { readonly x: number; readonly y: number; readonly z: number; readonly top: number } {
    const { x, y, z } = this.foot.position;
    return { x, y: y - OVER_M, z, top: this.knob.position.y };
  }

  dispose(): void {
    for (const part of [this.knob, this.foot, this.ring, this.line]) {
      part.geometry.dispose();
      part.material.dispose();
    }
  }
}
