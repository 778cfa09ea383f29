import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  CylinderGeometry,
  Group,
  Line,
  LineBasicMaterial,
  Mesh,
  MeshStandardMaterial,
  TorusGeometry,
  type Material,
} from 'three';
import { palmLength } from '@/core/body/arms';
import type { Body } from '@/core/body/body';
import { JOINT, SHOULDER } from '@/core/body/roles';
import type { WorldPose } from '@/core/body/skeleton';
import type { GaitSpec } from '@/core/gait/spec';
import { rotate } from '@/core/math/quaternion';
import type { Motion } from '@/core/motion/motion';
import { propOf, type Prop } from '@/core/motion/props';
import type { StageMotion } from '../stage/motion';
import type { ScenePalette } from './palette';

const SPOKES = 6;

/** The mail cart and the lantern, as the gait in use asks for them. */
export class Props {
  readonly group = new Group();
  private readonly cart = new Group();
  private readonly wheels: Group[] = [];
  private readonly lantern = new Group();
  private readonly cord: Line<BufferGeometry, LineBasicMaterial>;
  private readonly hand = [0, 0, 0];
  private built = '';
  private of: Motion | null = null;
  private prop: Prop | null = null;

  constructor(palette: ScenePalette) {
    this.cord = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.ink }));
    this.cord.geometry.setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
    this.cord.frustumCulled = false;
    this.group.add(this.cart, this.lantern, this.cord);
    this.buildLantern();
  }

  private wood(): Material {
    return new MeshStandardMaterial({ color: 0x8a6a45, roughness: 0.9 });
  }

  private buildLantern(): void {
    const iron = new MeshStandardMaterial({ color: 0x39424a, roughness: 0.6 });
    const glow = new MeshStandardMaterial({ color: 0xf2c879, emissive: 0x8a5a0b, roughness: 0.5 });
    const glass = new Mesh(new CylinderGeometry(0.035, 0.042, 0.085, 12), glow);
    const cap = new Mesh(new CylinderGeometry(0.012, 0.044, 0.03, 12), iron);
    const foot = new Mesh(new CylinderGeometry(0.046, 0.046, 0.014, 12), iron);
    cap.position.y = 0.057;
    foot.position.y = -0.05;
    this.lantern.add(glass, cap, foot);
    this.lantern.traverse((o) => (o.castShadow = true));
  }

  /** Builds the cart for its measures: a box on two wheels, with a handle across two shafts. */
  private buildCart({ handleHeight, handleAhead, gripWidth, wheelRadius }: GaitSpec['props']): void {
    const key = `${handleHeight} ${handleAhead} ${gripWidth} ${wheelRadius}`;
    if (key === this.built) return;
    this.built = key;
    this.cart.traverse(disposeMesh);
    this.cart.clear();
    this.wheels.length = 0;
    const wood = this.wood();
    const axle = handleAhead + 2.4 * wheelRadius + 0.18;
    const width = gripWidth * 1.25;
    const box = new Mesh(new BoxGeometry(width, 0.34, 0.62), wood);
    box.position.set(0, wheelRadius + 0.24, axle + 0.06);
    const handle = new Mesh(new CylinderGeometry(0.014, 0.014, gripWidth * 1.3, 10).rotateZ(Math.PI / 2), wood);
    handle.position.set(0, handleHeight, handleAhead);
    this.cart.add(box, handle);
    for (const side of [-1, 1]) {
      const from = [side * gripWidth * 0.55, handleHeight, handleAhead] as const,
        to = [side * width * 0.45, wheelRadius + 0.12, axle] as const;
      const length = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]);
      const shaft = new Mesh(new CylinderGeometry(0.014, 0.014, length, 8), wood);
      shaft.position.set((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, (from[2] + to[2]) / 2);
      shaft.quaternion.setFromUnitVectors(
        shaft.up.clone().set(0, 1, 0),
        shaft.up
          .clone()
          .set(to[0] - from[0], to[1] - from[1], to[2] - from[2])
          .normalize(),
      );
      const wheel = new Group();
      wheel.add(new Mesh(new TorusGeometry(wheelRadius - 0.014, 0.014, 8, 28).rotateY(Math.PI / 2), wood));
      for (let s = 0; s < SPOKES; s++) {
        const spoke = new Mesh(new CylinderGeometry(0.007, 0.007, wheelRadius * 2 - 0.03, 6), wood);
        spoke.rotation.x = (Math.PI * s) / SPOKES;
        wheel.add(spoke);
      }
      wheel.position.set(side * (width / 2 + 0.04), wheelRadius, axle);
      this.wheels.push(wheel);
      this.cart.add(shaft, wheel);
    }
    this.cart.traverse((o) => (o.castShadow = true));
  }

  /** Places what is carried for one pose of the motion at `time`. */
  show(motion: StageMotion, pose: Float64Array, world: WorldPose, time: number): void {
    if (this.of !== motion.source) {
      this.of = motion.source;
      this.prop = propOf(motion.source, motion.gait);
    }
    const { prop } = this;
    this.cart.visible = prop?.kind === 'cart';
    this.lantern.visible = this.cord.visible = prop?.kind === 'lantern';
    if (prop?.kind === 'cart') this.placeCart(prop, pose, world, time);
    if (prop?.kind === 'lantern') this.placeLantern(prop, motion.body, world, time);
  }

  private placeCart(prop: Extract<Prop, { kind: 'cart' }>, pose: Float64Array, world: WorldPose, time: number): void {
    this.buildCart(prop.measures);
    this.cart.position.set(pose[0]!, pose[1]!, pose[2]!);
    // The cart points where the root does, turned by the direction of travel.
    rotate(this.hand, 0, world.rotations, JOINT.root * 4, 0, 0, 1);
    this.cart.rotation.y = Math.atan2(this.hand[0]!, this.hand[2]!) + prop.heading;
    const angle = prop.wheel(time);
    for (const wheel of this.wheels) wheel.rotation.x = angle;
  }

  private placeLantern(prop: Extract<Prop, { kind: 'lantern' }>, body: Body, world: WorldPose, time: number): void {
    const wrist = SHOULDER[prop.hand] + 3;
    rotate(this.hand, 0, world.rotations, wrist * 4, (prop.hand === 0 ? 1 : -1) * palmLength(body), 0, 0);
    const ahead = prop.angle(time, 0),
      aside = prop.angle(time, 1);
    const x = world.positions[wrist * 3]! + this.hand[0]!,
      y = world.positions[wrist * 3 + 1]! + this.hand[1]!,
      z = world.positions[wrist * 3 + 2]! + this.hand[2]!;
    const { cord } = prop;
    this.lantern.position.set(x + cord * Math.sin(aside), y - cord * Math.cos(aside) * Math.cos(ahead), z + cord * Math.sin(ahead));
    this.lantern.rotation.set(-ahead, 0, aside);
    const line = this.cord.geometry.getAttribute('position') as BufferAttribute;
    line.setXYZ(0, x, y, z);
    line.setXYZ(1, this.lantern.position.x, this.lantern.position.y + 0.06, this.lantern.position.z);
    line.needsUpdate = true;
  }

  dispose(): void {
    this.group.traverse(disposeMesh);
    this.cord.geometry.dispose();
    this.cord.material.dispose();
  }
}

function disposeMesh(o: unknown): void {
  if (!(o instanceof Mesh)) return;
  (o.geometry as BufferGeometry).dispose();
  (o.material as Material).dispose();
}
