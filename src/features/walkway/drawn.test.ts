import { Color, Mesh, Points, type Group, type SkinnedMesh } from 'three';
import { describe, expect, it } from 'vitest';
import { createBody } from '@/core/body/body';
import { SHOULDER } from '@/core/body/roles';
import { createWorldPose, forwardKinematics } from '@/core/body/skeleton';
import { SHIPPED_BODIES } from '@/core/body/spec';
import { findPreset } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';
import { palmLength } from '@/core/body/arms';
import { createPlacement } from '@/core/math/placement';
import { partOf } from '@/core/project/motion-spec';
import { rotate } from '@/core/math/quaternion';
import { stageMotion, type StageMotion } from '../stage/motion';
import { figureGeometry } from './figure';
import { Ghosts } from './ghosts';
import { Props } from './props';
import { Trails } from './trails';

const body = createBody(SHIPPED_BODIES.marlo);
const ink = new Color('#000');
const palette = { paper: ink, rule: ink, ink, sea: ink, left: ink, right: ink };
const motionOf = (change: (g: GaitSpec) => void = () => {}): StageMotion => {
  const gait = findPreset('walk')!.make();
  change(gait);
  return stageMotion({ kind: 'cycle', gait: 'gait' }, partOf(body.spec, gait));
};
const walk = motionOf();
const pose = new Float64Array(98);

describe('poses of a cycle at any time', () => {
  it('travel on over whole strides, without a step at the seam', () => {
    const { duration, gait } = walk;
    walk.source.pose(0.3 * duration, pose, 0);
    const z = pose[2]!;
    walk.source.pose(7.3 * duration, pose, 0);
    expect(pose[2]! - z).toBeCloseTo(7 * gait.timing.strideLength, 9);
    walk.source.pose(3 * duration - 1e-7, pose, 0);
    const before = pose[2]!;
    walk.source.pose(3 * duration + 1e-7, pose, 0);
    expect(pose[2]! - before).toBeCloseTo(2e-7 * gait.timing.speed, 8);
  });
});

describe('onion skins', () => {
  const visible = (g: Group) => g.children.filter((c) => c.visible).length;
  const rootOf = (m: SkinnedMesh) => m.children[0]!.position.z;
  const show = (ghosts: Ghosts, mode: 'off' | 'keyPoses' | 'everyFrames', time: number, ghost = null as StageMotion | null) =>
    ghosts.show(walk, time, { onion: { mode, every: 3, before: 2, after: 1 }, fps: 24 }, ghost?.source ?? null);

  it('are the eight key poses of the stride the figure is in, or so many before and after, or none', () => {
    const ghosts = new Ghosts(body, figureGeometry(body), palette);
    show(ghosts, 'keyPoses', 0.2);
    expect(visible(ghosts.group)).toBe(8);
    show(ghosts, 'everyFrames', 0.5);
    expect(visible(ghosts.group)).toBe(3);
    const z = ghosts.group.children.filter((c) => c.visible).map((c) => rootOf(c as SkinnedMesh));
    // Picture 12 of 24 a second: 9, 6 and 15 of them.
    [9, 6, 15].forEach((frame, i) => expect(z[i]).toBeCloseTo((frame / 24) * walk.gait.timing.speed, 6));
    show(ghosts, 'off', 0.5);
    expect(visible(ghosts.group)).toBe(0);
    ghosts.dispose();
  });

  it('a saved state stands where the figure stands, at the same part of its own stride', () => {
    const ghosts = new Ghosts(body, figureGeometry(body), palette);
    const slow = motionOf((g) => Object.assign(g.timing, { strideTime: 1.4, strideLength: 1.1, speed: 1.1 / 1.4 }));
    show(ghosts, 'off', 2.35 * walk.duration, slow);
    expect(visible(ghosts.group)).toBe(1);
    expect(rootOf(ghosts.group.children.find((c) => c.visible) as SkinnedMesh)).toBeCloseTo(2.35 * walk.gait.timing.strideLength, 6);
    ghosts.dispose();
  });
});

describe('trails', () => {
  it('are a line and a tick for every frame for each joint, over one stride, and follow the figure stride by stride', () => {
    const trails = new Trails(palette);
    trails.show(walk, ['hips', 'toes'], 24, createPlacement());
    // Hips once, toes of both sides; a line and ticks each.
    expect(trails.group.children).toHaveLength(6);
    const ticks = trails.group.children.filter((c) => c instanceof Points);
    for (const t of ticks) expect(t.geometry.getAttribute('position').count).toBe(25);
    const before = trails.group.children[0];
    trails.show(walk, ['hips', 'toes'], 24, createPlacement(0, 0, 3 * 1.42));
    expect(trails.group.position.z).toBeCloseTo(3 * 1.42, 9);
    // Another list is drawn anew; the first list, made again by the caller, too.
    expect(trails.group.children[0]).not.toBe(before);
    trails.show(walk, [], 24, createPlacement(0, 0, 3 * 1.42));
    expect(trails.group.children).toHaveLength(0);
    trails.dispose();
  });
});

describe('props', () => {
  const world = createWorldPose(body.skeleton);
  const place = (motion: StageMotion, time: number) => {
    const props = new Props(palette);
    motion.source.pose(time, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    props.show(motion, pose, world, time);
    return props;
  };

  it('the cart goes with the root and its wheels turn by the way over the radius', () => {
    const motion = motionOf((g) => (g.carry = 'cart'));
    const props = place(motion, 0.4);
    const cart = props.group.children[0] as Group;
    expect(cart.visible).toBe(true);
    expect(cart.position.z).toBeCloseTo(pose[2]!, 9);
    const wheels = cart.children.filter((c) => !(c instanceof Mesh));
    expect(wheels).toHaveLength(2);
    for (const w of wheels) {
      expect(w.rotation.x).toBeCloseTo((0.4 * motion.gait.timing.speed) / motion.gait.props.wheelRadius, 9);
      expect(w.position.y).toBeCloseTo(motion.gait.props.wheelRadius, 9);
    }
    props.dispose();
  });

  it('the lantern hangs on its cord from the palm that carries it', () => {
    const motion = motionOf((g) => (g.carry = 'lanternLeft'));
    for (const time of [0, 0.3, 0.7]) {
      const props = place(motion, time);
      const lantern = props.group.children[1] as Group;
      const palm = [0, 0, 0];
      const wrist = SHOULDER[0] + 3;
      rotate(palm, 0, world.rotations, wrist * 4, palmLength(body), 0, 0);
      const d = [0, 1, 2].map((k) => lantern.position.getComponent(k) - world.positions[wrist * 3 + k]! - palm[k]!);
      expect(Math.hypot(...d)).toBeCloseTo(motion.gait.props.cord, 2);
      expect(d[1]).toBeLessThan(0);
      props.dispose();
    }
  });
});
