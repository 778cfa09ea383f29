import { Group, type Raycaster } from 'three';
import type { OwnFigure } from '../travel/own-figure';
import { JointDots } from './joint-dots';
import type { ScenePalette } from './palette';
import { SkinFigure } from './skin-figure';

/** What of a clip's own skeleton is looked at. */
interface Looked {
  readonly clipSkin: boolean;
  readonly jointsShown: boolean;
  readonly jointAt: number | null;
}

/** A clip's own skeleton on the walkway: its skin, and its joints where they are looked for. */
export class OwnFigureView {
  readonly group = new Group();
  private skinned: SkinFigure | null = null;
  private dots: JointDots | null = null;

  constructor(private readonly palette: ScenePalette) {}

  /** Shows it at a time; true where its skin stands for the figure. */
  show(own: OwnFigure | null, time: number, { clipSkin, jointsShown, jointAt }: Looked): boolean {
    const skins = own && clipSkin && own.skins.length > 0 ? own.skins : null;
    if (this.skinned && this.skinned.skins !== skins) {
      this.group.remove(this.skinned.group);
      this.skinned.dispose();
      this.skinned = null;
    }
    if (own && skins && !this.skinned) this.group.add((this.skinned = new SkinFigure(skins, own.roles)).group);
    const joints = own && jointsShown ? own.joints : 0;
    if ((this.dots?.count ?? 0) !== joints) {
      if (this.dots) this.group.remove(this.dots.mesh);
      this.dots?.dispose();
      this.dots = joints > 0 ? new JointDots(joints, this.palette) : null;
      if (this.dots) this.group.add(this.dots.mesh);
    }
    if (own && (this.skinned || this.dots)) {
      const pose = own.at(time);
      this.skinned?.show(pose);
      this.dots?.show(pose, own.roles, jointAt);
    }
    return this.skinned !== null;
  }

  /** The joint under a ray. */
  under(ray: Raycaster): number | null {
    return this.dots?.under(ray) ?? null;
  }

  set dotsShown(shown: boolean) {
    if (this.dots) this.dots.mesh.visible = shown;
  }

  dispose(): void {
    this.skinned?.dispose();
    this.dots?.dispose();
  }
}
