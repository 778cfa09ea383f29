import { AnimationMixer, Bone, Matrix4, SkinnedMesh, Skeleton, type AnimationClip, type Object3D } from 'three';
import { CCDIKSolver } from 'three/examples/jsm/animation/CCDIKSolver.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** What a team would take off the shelf, measured beside ours: three.js pieces. */

/** Poses of a clip a second: mixer plus world matrices of all joints. */
export async function mixerPoses(glb: Uint8Array, poses: number): Promise<() => void> {
  const gltf = await new GLTFLoader().parseAsync(glb.slice().buffer, '');
  const root: Object3D = gltf.scene.getObjectByName('root')!;
  const mixer = new AnimationMixer(root);
  const clip: AnimationClip = gltf.animations[0]!;
  mixer.clipAction(clip).play();
  return () => {
    for (let i = 0; i < poses; i++) {
      mixer.setTime(((i % 60) / 60) * clip.duration);
      root.updateMatrixWorld(true);
    }
  };
}

/** Two legs by cyclic coordinate descent, 40 iterations, warm-started; left-over error in metres in `worst`. */
export function ccdLegs(thigh: number, shank: number, targets: readonly (readonly [number, number, number])[], worst: { error: number }): () => void {
  const bones = [new Bone(), new Bone(), new Bone(), new Bone()];
  bones[1]!.position.y = -thigh;
  bones[2]!.position.y = -shank;
  bones[0]!.add(bones[1]!);
  bones[1]!.add(bones[2]!);
  const mesh = new SkinnedMesh();
  // The target bone stands beside the leg, or it would move with it.
  mesh.add(bones[0]!, bones[3]!);
  mesh.bind(
    new Skeleton(
      bones,
      bones.map(() => new Matrix4()),
    ),
  );
  const solver = new CCDIKSolver(mesh, [{ target: 3, effector: 2, links: [{ index: 1 }, { index: 0 }], iteration: 40 }]);
  return () => {
    for (const [x, y, z] of targets)
      for (let leg = 0; leg < 2; leg++) {
        bones[3]!.position.set(x, y, z);
        bones[3]!.matrixWorld.makeTranslation(x, y, z);
        mesh.updateMatrixWorld(true);
        solver.update();
        bones[0]!.updateMatrixWorld(true);
        const at = bones[2]!.getWorldPosition(bones[2]!.position.clone());
        worst.error = Math.max(worst.error, Math.hypot(at.x - x, at.y - y, at.z - z));
      }
  };
}
