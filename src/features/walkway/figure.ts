import { Bone, BufferAttribute, BufferGeometry, MeshBasicMaterial, MeshLambertMaterial, MeshStandardMaterial, Skeleton, SkinnedMesh, type Color } from 'three';
import type { Body } from '@/core/body/body';
import { createMannequin } from '@/core/body/mannequin';
import { rotationAt } from '@/core/body/skeleton';

/** The skin of a body, shared by all figures that show it. */
export function figureGeometry(body: Body): BufferGeometry {
  const data = createMannequin(body);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(data.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(data.normals, 3));
  geometry.setAttribute('color', new BufferAttribute(data.colors, 3));
  geometry.setAttribute('skinIndex', new BufferAttribute(data.joints, 4));
  geometry.setAttribute('skinWeight', new BufferAttribute(data.weights, 4));
  geometry.setIndex(new BufferAttribute(data.indices, 1));
  return geometry;
}

const matteClay = () => new MeshStandardMaterial({ vertexColors: true, roughness: 0.92, metalness: 0 });

/** A skinned mesh whose bones are written from solved poses: the clay figure, or with a colour a flat ghost of it. */
export class Figure {
  readonly mesh: SkinnedMesh;
  private readonly bones: Bone[];

  constructor(
    private readonly body: Body,
    geometry: BufferGeometry,
    ghost?: { readonly color: Color; readonly opacity: number },
  ) {
    const { names, parents, offsets, moving } = body.skeleton;
    this.bones = names.map((name, j) => {
      const bone = new Bone();
      bone.name = name;
      bone.position.fromArray(offsets, j * 3);
      return bone;
    });
    parents.forEach((p, j) => p >= 0 && this.bones[p]!.add(this.bones[j]!));
    this.mesh = new SkinnedMesh(
      geometry,
      ghost
        ? // Pushed back a little: where a ghost and the figure agree, the figure is seen.
          new MeshBasicMaterial({ ...ghost, transparent: true, depthWrite: false, polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 8 })
        : matteClay(),
    );
    this.mesh.add(this.bones[moving[0]!]!);
    this.mesh.updateMatrixWorld(true);
    this.mesh.bind(new Skeleton(this.bones));
    this.mesh.castShadow = !ghost;
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
    (this.mesh.material as MeshStandardMaterial).dispose();
  }
}
