import { Group, type BufferGeometry } from 'three';
import type { Body } from '@/core/body/body';
import { poseSize } from '@/core/body/skeleton';
import { keyMoments } from '@/core/measure/key-moments';
import { pendulumPosition } from '@/core/schedule/pendulum';
import type { Solver } from '@/core/solve/solver';
import type { StageMotion } from '../stage/motion';
import { Figure } from './figure';
import type { ScenePalette } from './palette';

/** Most onion skins shown at once: the eight key poses of a cycle, or four before and four after. */
const SKINS = 8;

/** What onion skins there are, and of what. */
export interface OnionOptions {
  readonly onion: { readonly mode: 'off' | 'keyPoses' | 'everyFrames'; readonly every: number; readonly before: number; readonly after: number };
  readonly fps: number;
}

/** Solves a cycle's pose at any time, travelled on over whole strides, into `pose`. */
export function poseAt(solver: Solver, time: number, pose: Float64Array): void {
  const { schedule } = solver;
  const turn = schedule.periodic ? Math.floor(time / schedule.duration + 1e-9) : 0;
  solver.solve(time - turn * schedule.duration, pose, 0, turn);
  pose[0] = pose[0]! + turn * pendulumPosition(schedule.travelX, schedule.duration);
  pose[2] = pose[2]! + turn * pendulumPosition(schedule.travelZ, schedule.duration);
}

/** Faint figures of other moments of the motion, and of a saved state at the same moment. */
export class Ghosts {
  readonly group = new Group();
  private readonly skins: Figure[] = [];
  private readonly compared: Figure;
  private readonly pose: Float64Array;
  private phases: readonly number[] = [];
  /** Times (s) of the skins shown now, and how many there are; written anew every picture without allocating. */
  private readonly times = new Float64Array(SKINS);
  private count = 0;
  private solver: Solver | null = null;

  constructor(
    private readonly body: Body,
    private readonly geometry: BufferGeometry,
    private readonly palette: ScenePalette,
  ) {
    this.pose = new Float64Array(poseSize(body.skeleton));
    this.compared = new Figure(body, geometry, { color: palette.sea, opacity: 0.38 });
    this.compared.mesh.visible = false;
    this.group.add(this.compared.mesh);
  }

  /** Skins are made when they are first asked for. */
  private skin(i: number): Figure {
    let figure = this.skins[i];
    if (!figure) {
      figure = new Figure(this.body, this.geometry, { color: this.palette.ink, opacity: 0.13 });
      this.skins[i] = figure;
      this.group.add(figure.mesh);
    }
    return figure;
  }

  private add(time: number): void {
    if (this.count < SKINS) this.times[this.count++] = time;
  }

  show(motion: StageMotion, time: number, { onion, fps }: OnionOptions, ghost: Solver | null): void {
    const { solver, duration } = motion;
    this.count = 0;
    if (onion.mode === 'keyPoses' && motion.endless) {
      if (this.solver !== solver) {
        this.phases = keyMoments(solver).map((m) => m.phase);
        this.solver = solver;
      }
      const turn = Math.floor(time / duration);
      for (const p of this.phases) this.add((turn + p) * duration);
    } else if (onion.mode === 'everyFrames') {
      const frame = Math.floor(time * fps + 1e-6);
      for (let k = 1; k <= onion.before; k++) this.add((frame - k * onion.every) / fps);
      for (let k = 1; k <= onion.after; k++) this.add((frame + k * onion.every) / fps);
    }
    for (let i = 0; i < SKINS; i++) {
      const t = this.times[i]!;
      const visible = i < this.count && (motion.endless || (t >= 0 && t <= duration));
      if (!visible) {
        if (this.skins[i]) this.skins[i]!.mesh.visible = false;
        continue;
      }
      const figure = this.skin(i);
      poseAt(solver, t, this.pose);
      figure.pose(this.pose);
      figure.mesh.visible = true;
    }
    this.compared.mesh.visible = ghost !== null && motion.endless;
    if (ghost && motion.endless) {
      // At the same phase, standing where the figure stands: the difference is in the pose, not in how far each has come.
      poseAt(solver, time, this.pose);
      const x = this.pose[0]!,
        z = this.pose[2]!;
      poseAt(ghost, (time / duration) * ghost.schedule.duration, this.pose);
      this.pose[0] = x;
      this.pose[2] = z;
      this.compared.pose(this.pose);
    }
  }

  dispose(): void {
    for (const figure of [...this.skins, this.compared]) figure?.dispose();
  }
}
