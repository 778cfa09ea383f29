import { BufferAttribute, BufferGeometry, Group, Line, LineBasicMaterial, Points, PointsMaterial, type Color } from 'three';
import { JOINT, SHOULDER, UPPER_LEG } from '@/core/body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '@/core/body/skeleton';
import type { Placement } from '@/core/math/placement';
import type { StageMotion } from '../stage/motion';
import type { TrailName } from '../stage/session';
import type { ScenePalette } from './palette';

/** Joints of each trail and the colour they are drawn in. */
const JOINTS: Record<TrailName, readonly (readonly [joint: number, ink: 'sea' | 'ink' | 'left' | 'right'])[]> = {
  hips: [[JOINT.hips, 'sea']],
  head: [[JOINT.head, 'ink']],
  knees: [
    [UPPER_LEG[0] + 1, 'left'],
    [UPPER_LEG[1] + 1, 'right'],
  ],
  toes: [
    [UPPER_LEG[0] + 3, 'left'],
    [UPPER_LEG[1] + 3, 'right'],
  ],
  hands: [
    [SHOULDER[0] + 3, 'left'],
    [SHOULDER[1] + 3, 'right'],
  ],
};
/** Points of a line over the motion. */
const LINE_POINTS = 121;
/** Most ticks of one trail: more than any plan has frames. */
const MOST_TICKS = 40_000;

/** Paths of joints over one stride, or over a whole plan, with a tick for every frame: the wider apart, the faster. */
export class Trails {
  readonly group = new Group();
  private shown: readonly TrailName[] = [];
  private fps = 0;
  private motion: StageMotion | null = null;

  constructor(private readonly palette: ScenePalette) {}

  /** `turn` is the stride the figure is in, (x, z) how far one stride goes. */
  show(motion: StageMotion, trails: readonly TrailName[], fps: number, moved: Placement): void {
    if (this.motion !== motion || this.shown !== trails || this.fps !== fps) {
      this.motion = motion;
      this.shown = trails;
      this.fps = fps;
      this.rebuild(motion, trails, fps);
    }
    this.group.position.set(moved[0]!, moved[1]!, moved[2]!);
    this.group.rotation.y = moved[3]!;
  }

  private rebuild(motion: StageMotion, trails: readonly TrailName[], fps: number): void {
    this.clear();
    const { duration } = motion;
    // Every tick is a picture, also where the motion is no whole number of them.
    const frames = Math.min(MOST_TICKS, Math.floor(duration * fps + 1e-6) + (motion.endless ? 0 : 1));
    for (const trail of trails)
      for (const [joint, ink] of JOINTS[trail]) {
        const color = this.palette[ink];
        this.group.add(path(motion, joint, LINE_POINTS, (i) => (i / (LINE_POINTS - 1)) * duration, color, false));
        if (frames > 0) this.group.add(path(motion, joint, frames, (i) => i / fps, color, true));
      }
  }

  private clear(): void {
    for (const child of [...this.group.children] as Line<BufferGeometry, LineBasicMaterial>[]) {
      this.group.remove(child);
      child.geometry.dispose();
      child.material.dispose();
    }
  }

  dispose(): void {
    this.clear();
  }
}

function path(motion: StageMotion, joint: number, count: number, timeOf: (i: number) => number, color: Color, ticks: boolean) {
  const { body, source } = motion;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const positions = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    source.pose(timeOf(i), pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    for (let k = 0; k < 3; k++) positions[i * 3 + k] = world.positions[joint * 3 + k]!;
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  const drawn = ticks
    ? new Points(geometry, new PointsMaterial({ color, size: 5, sizeAttenuation: false, transparent: true, opacity: 0.9 }))
    : new Line(geometry, new LineBasicMaterial({ color, transparent: true, opacity: 0.8 }));
  drawn.frustumCulled = false;
  return drawn;
}
