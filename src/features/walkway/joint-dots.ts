import { InstancedMesh, Matrix4, MeshBasicMaterial, SphereGeometry, type Color, type Raycaster } from 'three';
import type { WorldPose } from '@/core/body/skeleton';
import type { ScenePalette } from './palette';

const DOT_M = 0.016;
/** The one pointed at is so many times as large. */
const LARGE = 2.1;

/** Dots on all joints of a clip's own skeleton: those with a role, those without, and the one pointed at. */
export class JointDots {
  readonly mesh: InstancedMesh<SphereGeometry, MeshBasicMaterial>;
  private readonly at = new Matrix4();

  constructor(
    readonly count: number,
    private readonly palette: ScenePalette,
  ) {
    this.mesh = new InstancedMesh(new SphereGeometry(DOT_M, 12, 8), new MeshBasicMaterial({ depthTest: false, transparent: true, opacity: 0.9 }), count);
    this.mesh.frustumCulled = false;
    this.mesh.renderOrder = 9;
  }

  show({ positions }: WorldPose, roles: Int32Array, pointed: number | null): void {
    const named = new Set(roles);
    for (let j = 0; j < this.count; j++) {
      const s = j === pointed ? LARGE : 1;
      this.at.makeScale(s, s, s).setPosition(positions[j * 3]!, positions[j * 3 + 1]!, positions[j * 3 + 2]!);
      this.mesh.setMatrixAt(j, this.at);
      const color: Color = j === pointed ? this.palette.ink : named.has(j) ? this.palette.sea : this.palette.paper;
      this.mesh.setColorAt(j, color);
    }
    this.mesh.instanceMatrix.needsUpdate = true;
    if (this.mesh.instanceColor) this.mesh.instanceColor.needsUpdate = true;
    this.mesh.computeBoundingSphere();
  }

  /** The joint under a ray. */
  under(ray: Raycaster): number | null {
    return ray.intersectObject(this.mesh)[0]?.instanceId ?? null;
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
    this.mesh.dispose();
  }
}
