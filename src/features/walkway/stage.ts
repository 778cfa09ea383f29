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
} from 'three';
import { SIDES } from '@/core/body/roles';
import { createWorldPose, forwardKinematics, poseSize, type WorldPose } from '@/core/body/skeleton';
import { centreOfMass } from '@/core/measure/centre-of-mass';
import { pendulumPosition } from '@/core/schedule/pendulum';
import type { StageMotion } from '../stage/motion';
import type { Solver } from '@/core/solve/solver';
import type { TrailName } from '../stage/session';
import { Figure, figureGeometry } from './figure';
import { Ghosts, type OnionOptions } from './ghosts';
import { ChartGround } from './ground';
import type { ScenePalette } from './palette';
import { Prints } from './prints';
import type { Props } from './props';
import { Trails } from './trails';

/** What of the scene is shown and how it is held. */
export interface StageOptions extends OnionOptions {
  readonly treadmill: boolean;
  readonly prints: boolean;
  readonly travelLine: boolean;
  readonly weightPoint: boolean;
  readonly trails: readonly TrailName[];
}

const LINE_POINTS = 160;
/** Strides of a plan whose prints are shown behind and ahead of the figure; together fewer than the prints there are. */
const SHOWN_BEFORE = 4;
const SHOWN_AFTER = 5;

/** The scene of the walkway for one body and palette; `show` writes one moment into it without allocating. */
export class Stage {
  /** Where the figure is in the shown space, m. */
  readonly focus = { x: 0, z: 0 };
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
  private readonly prints: Prints;
  private readonly line: Line<BufferGeometry, LineBasicMaterial>;
  private readonly weight: Mesh<RingGeometry, MeshBasicMaterial>;
  private readonly light = new DirectionalLight(0xfff4e2, 2.1);
  private readonly pose: Float64Array;
  private readonly worldPose: WorldPose;
  private readonly com = new Float64Array(3);
  private readonly sole = { x: 0, z: 0, side: 0 };

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
    this.prints = new Prints(body, palette);
    this.line = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.sea, transparent: true, opacity: 0.9 }));
    this.line.geometry.setAttribute('position', new BufferAttribute(new Float32Array(LINE_POINTS * 3), 3));
    this.line.frustumCulled = false;
    this.weight = new Mesh(
      new RingGeometry(0.022, 0.034, 24).rotateX(-Math.PI / 2),
      new MeshBasicMaterial({ color: palette.ink, depthTest: false, transparent: true }),
    );
    this.weight.position.y = 0.004;
    this.light.castShadow = true;
    this.light.shadow.mapSize.set(1024, 1024);
    this.light.shadow.radius = 5;
    Object.assign(this.light.shadow.camera, { left: -1.6, right: 1.6, top: 2.4, bottom: -1.2, near: 0.5, far: 9 });
    this.world.add(this.figure.mesh, this.ghosts.group, this.trails.group, this.prints.group, this.line, this.weight);
    scene.background = palette.paper;
    scene.add(this.world, this.ground.group, new HemisphereLight(0xffffff, 0xb7a88c, 1.5), this.light, this.light.target);
  }

  setMotion(motion: StageMotion): void {
    this.motion = motion;
  }

  /** Writes the moment `time` (s) into the scene; `ghost` is a saved state to stand beside the figure. */
  show(time: number, options: StageOptions, ghost: Solver | null): void {
    const { solver, endless, duration, body } = this.motion;
    const { schedule } = solver;
    const turn = endless ? Math.floor(time / duration) : 0;
    const loopX = pendulumPosition(schedule.travelX, duration),
      loopZ = pendulumPosition(schedule.travelZ, duration);
    const baseX = turn * loopX,
      baseZ = turn * loopZ;
    solver.solve(time - turn * duration, this.pose, 0, turn);
    this.pose[0] = this.pose[0]! + baseX;
    this.pose[2] = this.pose[2]! + baseZ;
    this.figure.pose(this.pose);
    const x = this.pose[0]!,
      z = this.pose[2]!;
    const shiftX = options.treadmill ? x : 0,
      shiftZ = options.treadmill ? z : 0;
    this.world.position.set(-shiftX, 0, -shiftZ);
    this.focus.x = x - shiftX;
    this.focus.z = z - shiftZ;
    this.ground.update(x, z, shiftX, shiftZ);
    this.light.position.set(this.focus.x - 1.6, 4.6, this.focus.z + 1.4);
    this.light.target.position.set(this.focus.x, 0.4, this.focus.z);
    this.showPrints(time, turn, loopX, loopZ, options.prints);
    this.showLine(turn, loopX, loopZ, options.travelLine);
    this.ghosts.show(this.motion, time, options, ghost);
    this.trails.show(this.motion, options.trails, options.fps, turn, loopX, loopZ);
    forwardKinematics(body.skeleton, this.pose, 0, this.worldPose);
    this.showProps(time, Math.hypot(x, z));
    this.weight.visible = options.weightPoint;
    if (options.weightPoint) {
      centreOfMass(this.worldPose, this.com, 0);
      this.weight.position.x = this.com[0]!;
      this.weight.position.z = this.com[2]!;
    }
  }

  private showProps(time: number, travelled: number): void {
    if (this.motion.gait.carry !== 'nothing' && !this.wanted) {
      this.wanted = true;
      void import('./props').then(({ Props: Made }) => {
        if (this.disposed) return;
        this.props = new Made(this.palette);
        this.world.add(this.props.group);
      });
    }
    this.props?.show(this.motion, this.pose, this.worldPose, time, travelled);
  }

  private showPrints(time: number, turn: number, loopX: number, loopZ: number, visible: boolean): void {
    const { solver, endless, duration } = this.motion;
    this.prints.group.visible = visible;
    this.prints.begin();
    let latest = -Infinity;
    for (const side of SIDES)
      for (const hold of solver.schedule.footholds[side]) {
        // A cycle's holds repeat every stride: those landing in [0, duration) stand for all.
        if (endless && (hold.landing < -1e-9 || hold.landing >= duration - 1e-9)) continue;
        // A long plan shows the prints around the figure.
        if (!endless && (hold.leaving < time - SHOWN_BEFORE * solver.schedule.strideTime || hold.landing > time + SHOWN_AFTER * solver.schedule.strideTime))
          continue;
        for (let k = endless ? turn - 2 : 0; k <= (endless ? turn + 2 : 0); k++) {
          const landing = hold.landing + k * duration,
            leaving = hold.leaving + k * duration;
          const x = hold.x + k * loopX,
            z = hold.z + k * loopZ;
          const stands = time >= landing && time <= leaving;
          this.prints.add(side, x, z, hold.heading, stands);
          if (stands && landing > latest) {
            latest = landing;
            Object.assign(this.sole, { x, z, side });
          }
        }
      }
    this.prints.end();
  }

  private showLine(turn: number, loopX: number, loopZ: number, visible: boolean): void {
    this.line.visible = visible;
    if (!visible) return;
    const { schedule } = this.motion.solver;
    const { duration, endless } = this.motion;
    const at = this.line.geometry.getAttribute('position') as BufferAttribute;
    for (let i = 0; i < LINE_POINTS; i++) {
      const u = i / (LINE_POINTS - 1);
      const t = endless ? (u * 5 - 2) * duration : u * duration;
      at.setXYZ(
        i,
        pendulumPosition(schedule.travelX, t) + (endless ? turn * loopX : 0),
        0.0025,
        pendulumPosition(schedule.travelZ, t) + (endless ? turn * loopZ : 0),
      );
    }
    at.needsUpdate = true;
  }

  /** Aims the sole view's camera at the foot that stands, from its outer side at ankle height. */
  aimSoleView(camera: OrthographicCamera, ease: number): void {
    const x = this.sole.x + this.world.position.x,
      z = this.sole.z + this.world.position.z + 0.05;
    const jump = Math.hypot(camera.userData.x - x, camera.userData.z - z) > 3;
    const k = jump || camera.userData.x === undefined ? 1 : ease;
    camera.userData.x = (camera.userData.x ?? x) + (x - (camera.userData.x ?? x)) * k;
    camera.userData.z = (camera.userData.z ?? z) + (z - (camera.userData.z ?? z)) * k;
    camera.position.set(camera.userData.x - 1.5, 0.26, camera.userData.z);
    camera.lookAt(camera.userData.x, 0.066, camera.userData.z);
  }

  dispose(): void {
    this.figure.dispose();
    this.ghosts.dispose();
    this.trails.dispose();
    this.props?.dispose();
    this.disposed = true;
    this.skin.dispose();
    this.ground.dispose();
    this.prints.dispose();
    this.line.geometry.dispose();
    this.line.material.dispose();
    this.weight.geometry.dispose();
    this.weight.material.dispose();
    this.light.dispose();
    this.scene.clear();
  }
}
