import {
  Bone,
  ConstantAlphaFactor,
  CustomBlending,
  OneMinusConstantAlphaFactor,
  BufferAttribute,
  BufferGeometry,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  Skeleton,
  SkinnedMesh,
  type Color,
  type Material,
} from 'three';
import type { Body } from '@/core/body/body';
import { FOOT_CLAY } from '@/core/body/clay/clay';
import { createMannequin } from '@/core/body/mannequin';
import { createPlainLimbs } from '@/core/body/plain-limbs';
import type { SkinnedMesh as SkinData } from '@/core/body/mesh-builder';
import { rotationAt } from '@/core/body/skeleton';

/** Runs of faces that are of a foot, told by the foot's own colour, or are not. */
function runs({ indices, colors }: SkinData): { start: number; count: number; foot: boolean }[] {
  const found: { start: number; count: number; foot: boolean }[] = [];
  const isFoot = (v: number) => Object.values(FOOT_CLAY).some((c) => Math.abs(colors[v * 3]! - c[0]) < 1e-3 && Math.abs(colors[v * 3 + 2]! - c[2]) < 1e-3);
  for (let i = 0; i < indices.length; i += 3) {
    const foot = isFoot(indices[i]!);
    const last = found[found.length - 1];
    if (last && last.foot === foot) last.count += 3;
    else found.push({ start: i, count: 3, foot });
  }
  return found;
}

/** How a ghost is drawn: its tint, how faint, and whether as a net of lines. */
export interface GhostLook {
  readonly color: Color;
  readonly opacity: number;
  readonly net?: boolean;
}

/**
 * Materials of a ghost: its body in the tint, its feet in their own colours. Blended among the opaque things and before the
 * figure, so that it always stands behind it.
 */
function ghostMaterials({ color, opacity, net = false }: GhostLook): MeshBasicMaterial[] {
  const common = {
    transparent: false,
    depthWrite: false,
    blending: CustomBlending,
    blendSrc: ConstantAlphaFactor,
    blendDst: OneMinusConstantAlphaFactor,
    wireframe: net,
  } as const;
  return [
    new MeshBasicMaterial({ ...common, color, blendAlpha: opacity }),
    new MeshBasicMaterial({ ...common, vertexColors: true, blendAlpha: Math.min(1, opacity * 1.6) }),
  ];
}

/** The skin of a body, shared by all figures that show it. */
export function figureGeometry(body: Body): BufferGeometry {
  const data = body.plain ? createPlainLimbs(body) : createMannequin(body);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(data.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(data.normals, 3));
  geometry.setAttribute('color', new BufferAttribute(data.colors, 3));
  geometry.setAttribute('skinIndex', new BufferAttribute(data.joints, 4));
  geometry.setAttribute('skinWeight', new BufferAttribute(data.weights, 4));
  geometry.setIndex(new BufferAttribute(data.indices, 1));
  for (const { start, count, foot } of runs(data)) geometry.addGroup(start, count, foot ? 1 : 0);
  return geometry;
}

const matteClay = () => new MeshStandardMaterial({ vertexColors: true, roughness: 0.92, metalness: 0 });

/** A skinned mesh whose bones are written from solved poses: the clay figure, or with a colour a flat ghost of it. */
export class Figure {
  readonly mesh: SkinnedMesh<BufferGeometry, Material | Material[]>;
  private readonly bones: Bone[];

  constructor(
    private readonly body: Body,
    geometry: BufferGeometry,
    ghost?: GhostLook,
  ) {
    const { names, parents, offsets, moving } = body.skeleton;
    this.bones = names.map((name, j) => {
      const bone = new Bone();
      bone.name = name;
      bone.position.fromArray(offsets, j * 3);
      return bone;
    });
    parents.forEach((p, j) => p >= 0 && this.bones[p]!.add(this.bones[j]!));
    this.mesh = new SkinnedMesh(geometry, ghost ? ghostMaterials(ghost) : matteClay());
    this.mesh.add(this.bones[moving[0]!]!);
    this.mesh.updateMatrixWorld(true);
    this.mesh.bind(new Skeleton(this.bones));
    this.mesh.castShadow = !ghost;
    this.mesh.renderOrder = ghost ? -1 : 0;
    this.mesh.frustumCulled = false;
  }

  /** Writes a pose onto the bones; allocates nothing. */
  pose(pose: Float64Array): void {
    const { skeleton } = this.body;
    for (let m = 0; m < skeleton.moving.length; m++) this.bones[skeleton.moving[m]!]!.position.set(pose[m * 3]!, pose[m * 3 + 1]!, pose[m * 3 + 2]!);
    for (let j = 0; j < this.bones.length; j++) {
      const q = rotationAt(skeleton, j);
      this.bones[j]!.quaternion.set(pose[q]!, pose[q + 1]!, pose[q + 2]!, pose[q + 3]!);
    }
  }

  /** Lights the clay simply, or as matte clay again. */
  setPlain(plain: boolean): void {
    (this.mesh.material as MeshStandardMaterial).dispose();
    this.mesh.material = plain ? new MeshLambertMaterial({ vertexColors: true }) : matteClay();
  }

  dispose(): void {
    this.mesh.skeleton.dispose();
    for (const material of [this.mesh.material].flat()) material.dispose();
  }
}
