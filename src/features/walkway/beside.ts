import { BufferAttribute, BufferGeometry, Group, Line, LineBasicMaterial } from 'three';
import type { Body } from '@/core/body/body';
import { poseSize } from '@/core/body/skeleton';
import type { Shown } from '@/core/motion/laid';
import { Figure, figureGeometry } from './figure';
import type { ScenePalette } from './palette';

/** Height (m) of the thread over the ground. */
const THREAD_M = 0.005;

interface Other {
  readonly body: Body;
  readonly figure: Figure;
  readonly skin: BufferGeometry;
  readonly pose: Float64Array;
}

/** Figures beside the one that is looked at, faint, and the thread that ties one to it. */
export class BesideFigures {
  readonly group = new Group();
  private readonly others: Other[] = [];
  private readonly thread: Line<BufferGeometry, LineBasicMaterial>;

  constructor(private readonly palette: ScenePalette) {
    this.thread = new Line(new BufferGeometry(), new LineBasicMaterial({ color: palette.ink, transparent: true, opacity: 0.7 }));
    this.thread.geometry.setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
    this.thread.frustumCulled = false;
    this.group.add(this.thread);
  }

  /** Shows all at one time; a figure is made anew only for another body. */
  show(beside: readonly Shown[], time: number): void {
    this.thread.visible = beside.some((s) => s.tie);
    while (this.others.length > beside.length) this.remove(this.others.pop()!);
    beside.forEach((shown, i) => {
      let other = this.others[i];
      if (other?.body !== shown.body) {
        if (other) this.remove(other);
        other = this.others[i] = this.made(shown.body, i);
      }
      if (shown.tie) this.tie(shown.tie);
      shown.pose(shown.repeat ? time : Math.min(time, shown.duration), other.pose, 0);
      other.figure.pose(other.pose);
    });
  }

  private made(body: Body, i: number): Other {
    const skin = figureGeometry(body);
    const figure = new Figure(body, skin, { color: i % 2 === 0 ? this.palette.sea : this.palette.ink, opacity: 0.55 });
    this.group.add(figure.mesh);
    return { body, figure, skin, pose: new Float64Array(poseSize(body.skeleton)) };
  }

  private tie(ends: NonNullable<Shown['tie']>): void {
    const at = this.thread.geometry.getAttribute('position') as BufferAttribute;
    ends.forEach((p, i) => at.setXYZ(i, p[0]!, THREAD_M, p[2]!));
    at.needsUpdate = true;
  }

  private remove({ figure, skin }: Other): void {
    this.group.remove(figure.mesh);
    figure.dispose();
    skin.dispose();
  }

  dispose(): void {
    for (const other of this.others) this.remove(other);
    this.thread.geometry.dispose();
    this.thread.material.dispose();
  }
}
