import { BufferAttribute, BufferGeometry, Group, Mesh, MeshStandardMaterial } from 'three';
import { FOOT_CLAY } from '@/core/body/clay/clay';
import { JOINT } from '@/core/body/roles';
import type { WorldPose } from '@/core/body/skeleton';
import type { ShownSkin } from '@/core/formats/gltf/read';
import { mainInfluence, skinVertex } from '@/core/measure/skin';

/** Clay of the body, linear. */
const CLAY = [0.485, 0.381, 0.275] as const;

/** Colours of a skin: clay, and its feet as feet are told apart everywhere. */
function claysOf({ skin }: ShownSkin, roles: Int32Array): Float32Array {
  const colors = new Float32Array(skin.count * 3);
  const foot = (side: 'left' | 'right') => new Set([roles[JOINT[`${side}Foot`]]!, roles[JOINT[`${side}Toes`]]!].filter((j) => j >= 0));
  const feet = [foot('left'), foot('right')] as const;
  for (let v = 0; v < skin.count; v++) {
    const { joint } = mainInfluence(skin, v);
    colors.set(feet[0].has(joint) ? FOOT_CLAY.left : feet[1].has(joint) ? FOOT_CLAY.right : CLAY, v * 3);
  }
  return colors;
}

/** The skin a clip's file brought along, in clay, moved by the clip's own joints. */
export class SkinFigure {
  readonly group = new Group();
  private readonly parts: { readonly shown: ShownSkin; readonly places: Float64Array; readonly drawn: BufferAttribute }[];
  private readonly material = new MeshStandardMaterial({ vertexColors: true, roughness: 0.92, metalness: 0, flatShading: true });

  constructor(
    readonly skins: readonly ShownSkin[],
    roles: Int32Array,
  ) {
    this.parts = skins.map((shown) => {
      const geometry = new BufferGeometry();
      const drawn = new BufferAttribute(new Float32Array(shown.skin.count * 3), 3);
      geometry.setAttribute('position', drawn);
      geometry.setAttribute('color', new BufferAttribute(claysOf(shown, roles), 3));
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
