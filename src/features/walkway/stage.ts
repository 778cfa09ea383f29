import {
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  Group,
  HemisphereLight,
  Line,
  LineBasicMaterial,
  Mesh,
  MeshBasicMaterial,
  RingGeometry,
  type Scene,
  type OrthographicCamera,
  type Raycaster,
} from 'three';
import { UPPER_LEG } from '@/core/body/roles';
import { createWorldPose, forwardKinematics, poseSize, type WorldPose } from '@/core/body/skeleton';
import { centreOfMass } from '@/core/body/centre-of-mass';
import { createPlacement, repeatPlacement } from '@/core/math/placement';
import type { Foothold, Motion } from '@/core/motion/motion';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, type Session, type TrailName } from '../stage/session';
import { BesideFigures } from './beside';
import { Figure, figureGeometry } from './figure';
import { Ghosts, type OnionOptions } from './ghosts';
import { ChartGround } from './ground';
import { HeldTrace } from './held-trace';
import { OwnFigureView } from './own-figure';
import type { ScenePalette } from './palette';
import { Plumb, type PlumbPart } from './plumb';
import { Prints } from './prints';
import type { Quality } from './quality';
import type { Props } from './props';
import { Terrain } from './terrain';
import { Trails } from './trails';

/** What of the scene is shown and how it is held. */
export interface StageOptions extends OnionOptions {
  readonly treadmill: boolean;
  readonly held: Session['held'];
  readonly plumb: Session['plumb'];
  readonly clipSkin: boolean;
  readonly jointsShown: boolean;
  readonly jointAt: number | null;
  readonly prints: boolean;
  readonly travelLine: boolean;
  readonly weightPoint: boolean;
  readonly trails: readonly TrailName[];
  readonly chosen: Session['chosen'];
  readonly led: Session['led'];
}

const NO_STEPS: readonly number[] = [];
const LINE_POINTS = 160;
/** Way (m) from its place at which the sole view's camera counts as there. */
const SOLE_REST_M = 2e-5;
/** Height (m) of the line over the ground. */
const LINE_HEIGHT_M = 0.0025;
/** On rough ground lines and marks lie higher by so many times its roughness. */
const ROUGH_LIFT = 2;
/** Height (m) of the mark under the centre of mass. */
const WEIGHT_HEIGHT_M = 0.004;
/** Strides whose prints are shown behind and ahead of the figure, of a cycle and of a plan; fewer than the prints there are. */
const SHOWN = { cycle: { before: 2, after: 3 }, plan: { before: 4, after: 5 } } as const;

/** The scene of the walkway for one body and palette; `show` writes one moment into it without allocating. */
export class Stage {
  /** True where something but the moment shown is new, until it was drawn. */
  changed = true;
  /** Where the figure is in the shown space, m. */
  readonly focus = { x: 0, y: 0, z: 0 };
  private readonly world = new Group();
  private readonly skin: BufferGeometry;
  private readonly figure: Figure;
  private readonly ghosts: Ghosts;
  private readonly trails: Trails;
  /** Made when a gait first carries something. */
  private props: Props | null = null;
  private wanted = false;
  private disposed = false;
  private readonly ground: ChartGround;
  private readonly terrain: Terrain;
  private readonly prints: Prints;
  private readonly plumb: Plumb;
  private readonly trace: HeldTrace;
  private readonly line: Line<BufferGeometry, LineBasicMaterial>;
  private readonly weight: Mesh<RingGeometry, MeshBasicMaterial>;
  private readonly goal: Mesh<RingGeometry, MeshBasicMaterial>;
  private readonly light = new DirectionalLight(0xfff4e2, 2.1);
  private readonly pose: Float64Array;
  private readonly worldPose: WorldPose;
  private readonly com = new Float64Array(3);
  private readonly root = createPlacement();
  private lineOf: Motion | null = null;
  /** What the rounds before this one add to the figure's place. */
  private readonly moved = createPlacement();
  private around: readonly Foothold[] = [];
  private printsOf: Motion | null = null;
  private printsStride = 0;
  private shownAt = 0;
  private readonly beside: BesideFigures;
  private readonly own: OwnFigureView;
  private readonly deckBy = new Float64Array(2);
  private readonly sole = { x: 0, y: 0, z: 0, side: 0, stands: false };

  constructor(
    private readonly scene: Scene,
    private motion: StageMotion,
    private readonly palette: ScenePalette,
  ) {
    const { body } = motion;
    this.pose = new Float64Array(poseSize(body.skeleton));
    this.worldPose = createWorldPose(body.skeleton);
    this.skin = figureGeometry(body);
    this.figure = new Figure(body, this.skin);
    this.ghosts = new Ghosts(body, this.skin, palette);
    this.trails = new Trails(palette);
    this.ground = new ChartGround(palette);
    this.terrain = new Terrain(palette);
    this.prints = new Prints(body, palette);
    this.plumb = new Plumb(palette);
    this.trace = new HeldTrace(palette);
    this.beside = new BesideFigures(palette);
    this.own = new OwnFigureView(palette);
    this.line = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.sea, transparent: true, opacity: 0.9 }));
    this.line.geometry.setAttribute('position', new BufferAttribute(new Float32Array(LINE_POINTS * 3), 3));
    this.line.frustumCulled = false;
    this.weight = new Mesh(
      new RingGeometry(0.022, 0.034, 24).rotateX(-Math.PI / 2),
      new MeshBasicMaterial({ color: palette.ink, depthTest: false, transparent: true }),
    );
    this.goal = new Mesh(
      new RingGeometry(0.09, 0.115, 40).rotateX(-Math.PI / 2),
      new MeshBasicMaterial({ color: palette.sea, transparent: true, opacity: 0.9 }),
    );
    this.light.castShadow = true;
    this.light.shadow.mapSize.set(1024, 1024);
    this.light.shadow.radius = 5;
    Object.assign(this.light.shadow.camera, { left: -1.6, right: 1.6, top: 2.4, bottom: -1.2, near: 0.5, far: 9 });
    this.world.add(
      this.terrain.group,
      this.figure.mesh,
      this.ghosts.group,
      this.trails.group,
      this.prints.group,
      this.line,
      this.weight,
      this.goal,
      this.plumb.group,
      this.beside.group,
      this.own.group,
    );
    scene.background = palette.paper;
    scene.add(this.world, this.trace.group, this.ground.group, new HemisphereLight(0xffffff, 0xb7a88c, 1.5), this.light, this.light.target);
  }

  setQuality(quality: Quality): void {
    this.light.castShadow = quality.shadows;
    this.ground.setQuality(quality);
    this.figure.setPlain(quality.plainClay);
    this.changed = true;
  }

  setMotion(motion: StageMotion): void {
    this.motion = motion;
    this.changed = true;
  }

  /** Writes the moment `time` (s) into the scene; `ghost` is a saved state to stand beside the figure. */
  show(time: number, options: StageOptions, ghost: Motion | null, facing = 0): void {
    const { source, endless, duration, body } = this.motion;
    this.shownAt = time;
    const turn = endless ? Math.floor(time / duration) : 0;
    if (source.repeat) repeatPlacement(this.moved, 0, source.repeat, 0, turn);
    else this.moved.fill(0);
    source.pose(time, this.pose, 0);
    this.figure.pose(this.pose);
    const x = this.pose[0]!,
      z = this.pose[2]!;
    const [shiftX, shiftZ] = this.heldWay(x, z, options);
    const shiftY = options.treadmill && this.motion.clip && options.held.height ? this.pose[1]! : 0;
    this.world.position.set(-shiftX, -shiftY, -shiftZ);
    this.focus.x = x - shiftX;
    this.focus.z = z - shiftZ;
    this.focus.y = this.pose[1]! - shiftY;
    const y = this.pose[1]!;
    if (options.treadmill && this.motion.clip) this.trace.show(source, duration, x, y, z);
    else this.trace.hide();
    this.terrain.show(source, this.motion.part.bodies ?? {}, x, z);
    this.ground.group.visible = !this.terrain.covers;
    this.ground.update(x, z, shiftX, shiftZ, facing);
    this.light.position.set(this.focus.x - 1.6, this.focus.y + 4.6, this.focus.z + 1.4);
    this.light.target.position.set(this.focus.x, this.focus.y + 0.4, this.focus.z);
    // What lies on a deck goes along with it.
    this.deckBy.fill(0);
    source.deck?.(time, this.deckBy);
    for (const on of [this.prints.group, this.terrain.group]) on.position.set(this.deckBy[0]!, 0, this.deckBy[1]!);
    this.showPrints(time, options);
    this.showLine(options.travelLine);
    this.ghosts.show(this.motion, time, options, ghost);
    this.figure.mesh.visible = !this.own.show(this.motion.own, time, options);
    this.beside.show(this.motion.beside, time);
    this.trails.show(this.motion, options.trails, options.fps, this.moved);
    forwardKinematics(body.skeleton, this.pose, 0, this.worldPose);
    this.followSole();
    this.showProps(time);
    if (options.plumb === null) this.plumb.hide();
    else {
      const p = this.worldPose.positions;
      const [px, py, pz] = [p[options.plumb * 3]!, p[options.plumb * 3 + 1]!, p[options.plumb * 3 + 2]!];
      this.plumb.show(px, py, pz, source.ground.height(px, pz));
    }
    this.goal.visible = this.motion.led !== null && options.led !== null;
    if (options.led) {
      const { place } = options.led;
      this.goal.position.set(place.x, source.ground.height(place.x, place.z) + WEIGHT_HEIGHT_M + ROUGH_LIFT * this.rough, place.z);
    }
    this.weight.visible = options.weightPoint;
    if (options.weightPoint) {
      centreOfMass(this.worldPose, this.com, 0);
      this.weight.position.x = this.com[0]!;
      this.weight.position.z = this.com[2]!;
      this.weight.position.y = y + WEIGHT_HEIGHT_M;
    }
  }

  /** The joint of a clip's own skeleton under a ray. */
  jointUnder(ray: Raycaster): number | null {
    this.world.updateMatrixWorld();
    return this.own.under(ray);
  }

  private showProps(time: number): void {
    if (this.motion.gait.carry !== 'nothing' && !this.wanted) {
      this.wanted = true;
      void import('./props').then(({ Props: Made }) => {
        if (this.disposed) return;
        this.props = new Made(this.palette);
        this.world.add(this.props.group);
        this.changed = true;
      });
    }
    this.props?.show(this.motion, this.pose, this.worldPose, time);
  }

  /** The prints around a moment; looked up anew when it leaves the stride they were looked up for. */
  private printsAround(time: number): readonly Foothold[] {
    const { source, endless } = this.motion;
    const stride = Math.floor(time / source.strideTime);
    // What is led decides its prints as it goes.
    if (this.printsOf !== source || this.printsStride !== stride || this.motion.led) {
      this.printsOf = source;
      this.printsStride = stride;
      const { before, after } = endless ? SHOWN.cycle : SHOWN.plan;
      this.around = source.footholds((stride - before) * source.strideTime, (stride + after) * source.strideTime - 1e-6);
    }
    return this.around;
  }

  private showPrints(time: number, { prints, chosen }: StageOptions): void {
    this.prints.group.visible = prints;
    const steps = this.motion.endless ? NO_STEPS : chosenPrints(chosen);
    this.prints.begin(this.terrain.covers && !this.motion.source.ground.pieces?.length);
    // Of two feet that stand the one that landed last; of a clip the other one, until it has left: push-off is where feet slide.
    const sign = this.motion.clip ? -1 : 1;
    let latest = -Infinity;
    const around = this.printsAround(time);
    for (let i = 0; i < around.length; i++) {
      const hold = around[i]!;
      const stands = time >= hold.landing && time <= hold.leaving;
      this.prints.add(hold, stands, hold.step > 0 && steps.includes(hold.step));
      if (stands && sign * hold.landing > latest) {
        latest = sign * hold.landing;
        this.sole.x = hold.x;
        this.sole.y = hold.y;
        this.sole.z = hold.z;
        this.sole.side = hold.side;
      }
    }
    this.sole.stands = latest > -Infinity;
    this.prints.end();
  }

  /** The sole view follows the foot that bears where it is now; of a clip in which none is told to stand, the lower one. */
  private followSole(): void {
    if (!this.motion.clip) return;
    const p = this.worldPose.positions;
    const ankle = (side: 0 | 1) => (UPPER_LEG[side] + 2) * 3;
    if (!this.sole.stands) this.sole.side = p[ankle(0) + 1]! <= p[ankle(1) + 1]! ? 0 : 1;
    const at = ankle(this.sole.side === 0 ? 0 : 1);
    // Between ankle and toes, as prints are seen.
    this.sole.x = (p[at]! + p[at + 3]!) / 2;
    this.sole.z = (p[at + 2]! + p[at + 5]!) / 2;
    if (!this.sole.stands) this.sole.y = this.motion.source.ground.height(this.sole.x, this.sole.z);
  }

  /** What of its way a treadmill takes from the figure, of a clip's as it is asked: forward is where it faces at the motion's beginning. */
  private heldWay(x: number, z: number, { treadmill, held }: StageOptions): readonly [number, number] {
    if (!treadmill) return [0, 0];
    if (!this.motion.clip || (held.forward && held.sideways)) return [x, z];
    this.motion.source.place(0, this.root);
    const [sin, cos] = [Math.sin(this.root[3]!), Math.cos(this.root[3]!)];
    const ahead = held.forward ? x * sin + z * cos : 0,
      left = held.sideways ? x * cos - z * sin : 0;
    return [ahead * sin + left * cos, ahead * cos - left * sin];
  }

  /** Handles are none of what the sole view looks at. */
  showHandles(visible: boolean): void {
    this.plumb.shown = visible;
    this.own.dotsShown = visible;
  }

  /** What of the plumb lies under a ray. */
  plumbUnder(ray: Raycaster): PlumbPart | null {
    this.world.updateMatrixWorld();
    return this.plumb.under(ray);
  }

  /** Where the plumb hangs in the motion's own space. */
  get plumbPlace(): Plumb['place'] {
    return this.plumb.place;
  }

  /** How far (m) the ground leaves the planes it is drawn with. */
  private get rough(): number {
    return this.motion.source.ground.rough ?? 0;
  }

  /** How far (m) the shown space lies behind the motion's: on a treadmill the world goes by. */
  get rise(): number {
    return this.world.position.y;
  }

  get shift(): { readonly x: number; readonly z: number } {
    return { x: -this.world.position.x, z: -this.world.position.z };
  }

  /** The foothold of a print under a ray; none while prints are not shown. */
  printUnder(ray: Raycaster): Foothold | null {
    if (!this.prints.group.visible || this.motion.endless) return null;
    this.world.updateMatrixWorld();
    return this.prints.under(ray);
  }

  /** The way of the root, drawn once for a motion and moved on with its rounds. */
  private showLine(visible: boolean): void {
    // A way that is only now being made has none yet.
    this.line.visible = visible && this.motion.led === null;
    if (!this.line.visible) return;
    const { source, duration, endless } = this.motion;
    this.line.position.set(this.moved[0]!, this.moved[1]! + ROUGH_LIFT * this.rough, this.moved[2]!);
    this.line.rotation.y = this.moved[3]!;
    if (this.lineOf === source) return;
    this.lineOf = source;
    const at = this.line.geometry.getAttribute('position') as BufferAttribute;
    for (let i = 0; i < LINE_POINTS; i++) {
      const u = i / (LINE_POINTS - 1);
      source.place(endless ? (u * 5 - 2) * duration : u * duration, this.root);
      at.setXYZ(i, this.root[0]!, this.root[1]! + LINE_HEIGHT_M, this.root[2]!);
    }
    at.needsUpdate = true;
  }

  /** Way of travel as a unit vector in the ground; ahead where there is none. */
  private way(): readonly [number, number] {
    const { repeat } = this.motion.source;
    if (!repeat) this.motion.source.place(this.shownAt, this.root);
    const length = repeat ? Math.hypot(repeat[0]!, repeat[2]!) : 0;
    if (repeat && length > 1e-3) return [repeat[0]! / length, repeat[2]! / length];
    // A walk goes where the figure faces.
    return repeat ? [0, 1] : [Math.sin(this.root[3]!), Math.cos(this.root[3]!)];
  }

  /** Aims the sole view's camera at the foot that stands, from its outer side at ankle height; true while it is on its way. */
  aimSoleView(camera: OrthographicCamera, ease: number): boolean {
    const x = this.sole.x + this.world.position.x,
      z = this.sole.z + this.world.position.z;
    const jump = Math.hypot(camera.userData.x - x, camera.userData.z - z) > 3;
    const rests = Math.hypot(camera.userData.x - x, camera.userData.z - z) < SOLE_REST_M;
    const k = jump || rests || camera.userData.x === undefined ? 1 : ease;
    camera.userData.x = (camera.userData.x ?? x) + (x - (camera.userData.x ?? x)) * k;
    camera.userData.z = (camera.userData.z ?? z) + (z - (camera.userData.z ?? z)) * k;
    const y = (camera.userData.y = (camera.userData.y ?? this.sole.y) + (this.sole.y - (camera.userData.y ?? this.sole.y)) * k);
    // Across the way of travel, so that what slides is seen to.
    const [dx, dz] = this.way();
    camera.position.set(camera.userData.x - 1.5 * dz, y + 0.26, camera.userData.z + 1.5 * dx);
    camera.lookAt(camera.userData.x, y + 0.066, camera.userData.z);
    return !rests;
  }

  dispose(): void {
    this.figure.dispose();
    this.ghosts.dispose();
    this.beside.dispose();
    this.own.dispose();
    this.trace.dispose();
    this.trails.dispose();
    this.props?.dispose();
    this.disposed = true;
    this.skin.dispose();
    this.ground.dispose();
    this.terrain.dispose();
    this.prints.dispose();
    this.plumb.dispose();
    this.line.geometry.dispose();
    this.line.material.dispose();
    this.goal.geometry.dispose();
    this.goal.material.dispose();
    this.weight.geometry.dispose();
    this.weight.material.dispose();
    this.light.dispose();
    this.scene.clear();
  }
}
