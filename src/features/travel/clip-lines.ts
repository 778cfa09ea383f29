import { JOINT } from '@/core/body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '@/core/body/skeleton';
import { toDegrees } from '@/core/math/scalar';
import type { ClipAnswer } from '@/workers/protocol';

/** What the chart of a clip draws of it over time. */
export const CLIP_LINES = ['speed', 'way', 'turn', 'heights'] as const;
export type ClipLine = (typeof CLIP_LINES)[number];
/** As they stand in the list. */
export const LINE_WORDS: Readonly<Record<ClipLine, string>> = { speed: 'speed', way: 'distance', turn: 'turn', heights: 'heights' };
export const LINE_UNITS: Readonly<Record<ClipLine, string>> = { speed: 'm/s', way: 'm', turn: '°', heights: 'm' };

/** One line: values at even times (s), and whose it is. */
interface Line {
  readonly of: 'body' | 'left' | 'right';
  readonly values: readonly number[];
}

export interface Lines {
  readonly times: readonly number[];
  readonly lines: readonly Line[];
  readonly range: readonly [number, number];
}

/** Looks along a line. */
const LOOKS = 300;
/** Speed is taken over so long, s, to either side. */
const SPEED_S = 0.05;

/** Lines of a clip as it is shown: its speed, its way, how far it has turned, or how high hips and ankles are over the floor. */
export function linesOf(kind: ClipLine, { clip, places, figure, floor }: ClipAnswer): Lines {
  const { frames, rate } = clip;
  const looks = Math.max(1, Math.min(LOOKS, frames - 1));
  const at = Array.from({ length: looks + 1 }, (_, i) => Math.round((i / looks) * (frames - 1)));
  const times = at.map((f) => f / rate);
  const way = (a: number, b: number) => Math.hypot(places[b * 4]! - places[a * 4]!, places[b * 4 + 2]! - places[a * 4 + 2]!);
  const lines = (): Line[] => {
    if (kind === 'turn') return [{ of: 'body', values: at.map((f) => toDegrees(places[f * 4 + 3]! - places[3]!)) }];
    if (kind === 'way') {
      let sum = 0;
      return [{ of: 'body', values: at.map((f, i) => (sum += i === 0 ? 0 : way(at[i - 1]!, f))) }];
    }
    if (kind === 'speed') {
      const half = Math.max(1, Math.round(SPEED_S * rate));
      return [
        {
          of: 'body',
          values: at.map((f) => {
            const [a, b] = [Math.max(0, f - half), Math.min(frames - 1, f + half)];
            return b > a ? (way(a, b) * rate) / (b - a) : 0;
          }),
        },
      ];
    }
    const world = createWorldPose(clip.skeleton);
    const joints = [figure.roles[JOINT.hips]!, figure.feet[0]!.ankle, figure.feet[1]!.ankle];
    const heights = at.map((f) => {
      forwardKinematics(clip.skeleton, clip.poses, f * poseSize(clip.skeleton), world);
      return joints.map((j) => world.positions[j * 3 + 1]! - floor);
    });
    return (['body', 'left', 'right'] as const).map((of, i) => ({ of, values: heights.map((h) => h[i]!) }));
  };
  const all = lines();
  const values = all.flatMap((l) => l.values);
  const [low, high] = [values.reduce((a, b) => Math.min(a, b), 0), values.reduce((a, b) => Math.max(a, b), 0)];
  return { times, lines: all, range: [low, Math.max(low + 0.5, high)] };
}
