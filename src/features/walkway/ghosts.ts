import { Group, type BufferGeometry } from 'three';
import type { Body } from '@/core/body/body';
import { poseSize } from '@/core/body/skeleton';
import { keyMoments } from '@/core/measure/key-moments';
import type { Motion } from '@/core/motion/motion';
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

/** Faint figures of other moments of the motion, and of a saved state at the same moment. */
export class Ghosts {
  readonly group = new Group();
  private readonly skins: readonly [before: Figure[], after: Figure[]] = [[], []];
  private readonly compared: Figure;
  private readonly pose: Float64Array;
  private phases: readonly number[] = [];
  /** Times (s) of the skins shown now, and how many there are; written anew every picture without allocating. */
  private readonly times = new Float64Array(SKINS);
  private count = 0;
  private source: Motion | null = null;

  constructor(
    private readonly body: Body,
    private readonly geometry: BufferGeometry,
    private readonly palette: ScenePalette,
  ) {
    this.pose = new Float64Array(poseSize(body.skeleton));
    this.compared = new Figure(body, geometry, { color: palette.sea, opacity: 0.4 });
    this.compared.mesh.visible = false;
    this.group.add(this.compared.mesh);
  }

  /** Skins are made when they are first asked for: moments before are washed, moments after are nets. */
  private skin(i: number, after: boolean): Figure {
    const pool = this.skins[after ? 1 : 0];
    let figure = pool[i];
    if (!figure) {
      figure = new Figure(this.body, this.geometry, after ? { color: this.palette.ink, opacity: 0.2, net: true } : { color: this.palette.sea, opacity: 0.22 });
      pool[i] = figure;
      this.group.add(figure.mesh);
    }
    return figure;
  }

  private add(time: number): void {
    if (this.count < SKINS) this.times[this.count++] = time;
  }

  show(motion: StageMotion, time: number, { onion, fps }: OnionOptions, ghost: Motion | null): void {
    const { source, duration } = motion;
    this.count = 0;
    if (onion.mode === 'keyPoses' && motion.endless) {
      if (this.source !== source) {
        this.phases = keyMoments(source).map((m) => m.phase);
        this.source = source;
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
      for (const pool of this.skins) if (pool[i]) pool[i]!.mesh.visible = false;
      if (!visible) continue;
      const figure = this.skin(i, t > time);
      source.pose(t, this.pose, 0);
      figure.pose(this.pose);
      figure.mesh.visible = true;
    }
    this.compared.mesh.visible = ghost !== null && motion.endless;
    if (ghost && motion.endless) {
      // At the same phase, standing where the figure stands: the difference is in the pose, not in how far each has come.
      source.pose(time, this.pose, 0);
      const x = this.pose[0]!,
        z = this.pose[2]!;
      ghost.pose((time / duration) * ghost.duration, this.pose, 0);
      this.pose[0] = x;
      this.pose[2] = z;
      this.compared.pose(this.pose);
    }
  }

  dispose(): void {
    for (const figure of [...this.skins.flat(), this.compared]) figure?.dispose();
  }
}
