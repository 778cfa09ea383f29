import {
  CanvasTexture,
  DoubleSide,
  Group,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  Shape,
  ShapeGeometry,
  SRGBColorSpace,
  Vector3,
  type Raycaster,
} from 'three';
import type { Foothold } from '@/core/motion/motion';
import type { Body } from '@/core/body/body';
import type { Sole } from '@/core/body/sole';
import type { Side } from '@/core/body/roles';
import type { ScenePalette } from './palette';

/** Height (m) of a print over its ground. */
const LIFT_M = 0.0018;
/** How much nearer: some centimetres along a flat look at a few metres, in the units of depth. */
const NEARER_UNITS = -3000;
/** Most footprints shown of one foot. */
const POOL = 12;

/** Footprints on the ground: left with round ends and an L, right with square ends and an R. */
export class Prints {
  readonly group = new Group();
  private readonly pools: Mesh<ShapeGeometry, MeshBasicMaterial>[][] = [];
  private readonly used = [0, 0];
  private overLand = false;
  private readonly shown: (Foothold | null)[][] = [[], []];
  private readonly left = new Vector3();
  private readonly up = new Vector3();
  private readonly ahead = new Vector3();
  private readonly turn = new Matrix4();

  constructor(
    body: Body,
    private readonly palette: ScenePalette,
  ) {
    for (const side of [0, 1] as const) {
      const geometry = outline(body.sole, side);
      const letter = new PlaneGeometry(0.075, 0.075).rotateX(-Math.PI / 2).rotateY(Math.PI);
      const map = letterTexture(side === 0 ? 'L' : 'R', palette);
      const color = side === 0 ? palette.left : palette.right;
      this.pools.push(
        Array.from({ length: POOL }, () => {
          const mesh = new Mesh(geometry, new MeshBasicMaterial({ color, transparent: true, depthWrite: false, side: DoubleSide }));
          const sign = new Mesh(letter, new MeshBasicMaterial({ map, transparent: true, depthWrite: false }));
          sign.position.set(0, 0.0006, body.sole.ballAhead * 0.62);
          mesh.add(sign);
          mesh.visible = false;
          this.group.add(mesh);
          return mesh;
        }),
      );
    }
  }

  /** Begins anew; over drawn land, whose picture is coarser than the ground itself, prints are drawn nearer than they lie. */
  begin(overLand: boolean): void {
    this.used.fill(0);
    if (overLand === this.overLand) return;
    this.overLand = overLand;
    for (const { material } of this.pools.flat()) {
      material.polygonOffset = overLand;
      material.polygonOffsetUnits = overLand ? NEARER_UNITS : 0;
    }
  }

  add(hold: Foothold, stoodOn: boolean, chosen: boolean): void {
    const { side } = hold;
    const mesh = this.pools[side]![this.used[side]!];
    if (!mesh) return;
    this.shown[side]![this.used[side]!] = hold;
    this.used[side]!++;
    mesh.position.set(hold.x, hold.y + LIFT_M, hold.z);
    // Laid into the plane of its foothold: left, up, ahead.
    const sin = Math.sin(hold.heading),
      cos = Math.cos(hold.heading);
    this.ahead.set(sin, hold.slopeX * sin + hold.slopeZ * cos, cos).normalize();
    this.up.set(-hold.slopeX, 1, -hold.slopeZ).normalize();
    this.left.crossVectors(this.up, this.ahead);
    mesh.quaternion.setFromRotationMatrix(this.turn.makeBasis(this.left, this.up, this.ahead));
    mesh.material.opacity = chosen || stoodOn ? 0.85 : 0.38;
    mesh.material.color.copy(chosen ? this.palette.ink : side === 0 ? this.palette.left : this.palette.right);
    mesh.visible = true;
  }

  end(): void {
    for (const side of [0, 1] as const) for (let i = this.used[side]!; i < POOL; i++) this.pools[side]![i]!.visible = false;
  }

  /** The foothold whose print a ray meets first. */
  under(ray: Raycaster): Foothold | null {
    let [best, nearest]: [Foothold | null, number] = [null, Infinity];
    for (const side of [0, 1] as const)
      for (let i = 0; i < this.used[side]!; i++) {
        const hit = ray.intersectObject(this.pools[side]![i]!, false)[0];
        if (hit && hit.distance < nearest) [best, nearest] = [this.shown[side]![i]!, hit.distance];
      }
    return best;
  }

  dispose(): void {
    this.group.traverse((o) => {
      if (!(o instanceof Mesh)) return;
      (o.geometry as PlaneGeometry).dispose();
      const material = o.material as MeshBasicMaterial;
      material.map?.dispose();
      material.dispose();
    });
  }
}

/** Sole outline in the ground plane, forward = +Z, around the point under the ankle. */
function outline(sole: Sole, side: Side): ShapeGeometry {
  const w = (sole.breadth / 2) * 1.06,
    back = -sole.heelBack * 1.05,
    front = sole.tipAhead * 1.03;
  const waist = sole.ballAhead * 0.25;
  const shape = new Shape();
  if (side === 0) {
    shape.moveTo(w * 0.74, back + w * 0.7);
    shape.quadraticCurveTo(w * 0.72, back, 0, back);
    shape.quadraticCurveTo(-w * 0.72, back, -w * 0.74, back + w * 0.7);
    shape.quadraticCurveTo(-w * 0.66, waist, -w, sole.ballAhead);
    shape.quadraticCurveTo(-w, front, 0, front);
    shape.quadraticCurveTo(w, front, w, sole.ballAhead);
    shape.quadraticCurveTo(w * 0.66, waist, w * 0.74, back + w * 0.7);
  } else {
    shape.moveTo(w * 0.76, back);
    shape.lineTo(-w * 0.76, back);
    shape.lineTo(-w * 0.66, waist);
    shape.lineTo(-w, sole.ballAhead * 0.9);
    shape.lineTo(-w, front);
    shape.lineTo(w, front);
    shape.lineTo(w, sole.ballAhead * 0.9);
    shape.lineTo(w * 0.66, waist);
    shape.closePath();
  }
  // Shapes lie in XY; turning by +90° about X lays Y along +Z.
  return new ShapeGeometry(shape, 16).rotateX(Math.PI / 2);
}

function letterTexture(letter: string, palette: ScenePalette): CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 64;
  const pen = canvas.getContext('2d')!;
  pen.font = '700 50px "Source Sans 3 Variable", sans-serif';
  pen.textAlign = 'center';
  pen.textBaseline = 'middle';
  pen.fillStyle = `#${palette.paper.getHexString()}`;
  pen.fillText(letter, 32, 36);
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = SRGBColorSpace;
  return texture;
}
