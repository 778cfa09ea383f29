import type { Body } from './body';
import { armSkin } from './clay/arm';
import { restPositions } from './clay/clay';
import { footSkin } from './clay/foot';
import { legSkin } from './clay/leg';
import { trunkSkin } from './clay/trunk';
import { MeshBuilder, type SkinnedMesh } from './mesh-builder';

/**
 * A clay figure of the body's build: one skin from head to ankles and fingertips, thumbs and shoes apart. The face is a darker
 * plane, so that where it looks is told from afar.
 */
export function createMannequin(body: Body): SkinnedMesh {
  const mesh = new MeshBuilder();
  const world = restPositions(body);
  const loops = trunkSkin(mesh, body, world);
  for (const side of ['left', 'right'] as const) {
    armSkin(mesh, body, world, side, loops[`${side}Arm`]);
    legSkin(mesh, body, world, side, loops[`${side}Leg`]);
    footSkin(mesh, body, world, side);
  }
  return mesh.build();
}
