import { build, motionKey, type Built, type FrameFit, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';

/** Motions kept: a set of thirty-two with its twins fits. */
const KEPT = 80;

/** The latest motions by what they are made of: what was prepared for one question serves the next. */
export class Motions {
  private readonly kept = new Map<string, Built>();

  of(spec: MotionSpec, part: ProjectPart, fit?: FrameFit): Built {
    const key = motionKey(spec, part, fit);
    const built = this.kept.get(key) ?? build(spec, part, fit);
    // The last one asked for stands last; the first goes when there are too many.
    this.kept.delete(key);
    this.kept.set(key, built);
    if (this.kept.size > KEPT) this.kept.delete(this.kept.keys().next().value!);
    return built;
  }
}
