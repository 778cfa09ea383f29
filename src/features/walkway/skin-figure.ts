import { BufferAttribute, BufferGeometry, Group, Mesh, MeshStandardMaterial } from 'three';
import type { WorldPose } from '@/core/body/skeleton';
import type { ShownSkin } from '@/core/formats/gltf/read';
import { skinVertex } from '@/core/measure/skin';

/** The skin a clip's file brought along, in clay, moved by the clip's own joints. */
export class SkinFigure {
  readonly group = new Group();
  private readonly parts: { readonly shown: ShownSkin; readonly places: Float64Array; readonly drawn: BufferAttribute }[];
  private readonly material = new MeshStandardMaterial({ color: 0xb9a68f, roughness: 0.92, metalness: 0, flatShading: true });

  constructor(readonly skins: readonly ShownSkin[]) {
    this.parts = skins.map((shown) => {
      const geometry = new BufferGeometry();
      const drawn = new BufferAttribute(new Float32Array(shown.skin.count * 3), 3);
      geometry.setAttribute('position', drawn);
      geometry.setIndex(new BufferAttribute(shown.faces, 1));
      const mesh = new Mesh(geometry, this.material);
      mesh.castShadow = true;
      mesh.frustumCulled = false;
      this.group.add(mesh);
      return { shown, places: new Float64Array(shown.skin.count * 3), drawn };
    });
  }

  /** Moves every vertex to where joints take it. */
  show(world: WorldPose): void {
    for (const { shown, places, drawn } of this.parts) {
      for (let v = 0; v < shown.skin.count; v++) skinVertex(shown.skin, v, world, places, v * 3);
      (drawn.array as Float32Array).set(places);
      drawn.needsUpdate = true;
    }
  }

  dispose(): void {
    for (const child of this.group.children) (child as Mesh).geometry.dispose();
    this.material.dispose();
  }
}
