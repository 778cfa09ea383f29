import type { FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors, type WorldPose } from '../body/skeleton';
import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { rotate } from '../math/quaternion';
import { calmSole, RECORDED } from './recorded-contacts';
import { GRAVITY } from '../math/scalar';
import type { ClipTrace } from './trace';

type Vector = readonly [number, number, number];

/** Least time (s) a foot must stand flat for its sole to be measured, and most pictures looked at. */
const LEAST_S = 0.25;
const LOOKS = 400;
/** A ball this near (part of ℓ) to its usual level stands on the floor; a sole this near (cosine) to its usual bearing lies flat. */
const BALL_LEVEL = 0.015;
const USUAL = Math.cos(0.1);
/** Looks are taken ever nearer (cosines) to where they mostly are, as long as so many of them are there. */
const NEARER = [0.05, 0.02, 0.008, 0.003, 0.001].map(Math.cos);
const MOST = 0.5;
/** Part of the looks that must be about the rest pose's sole for it to be believed. */
const RESTED = 0.08;

/**
 * Feet with the soles that the recording itself shows: while heel and ball both stand on the floor, the sole is level and on
 * it. Feet that never stand so keep what the rest pose says. `floor` in m.
 */
export function measuredSoles(figure: ClipFigure, trace: ClipTrace, contacts: readonly ClipContact[], floor: number, first = 0): FootModel[] {
  const { clip, legLength } = figure;
  const still = 0.6 * RECORDED.on * Math.sqrt(GRAVITY * legLength);
  const flat = trace.soles.map(({ foot }, i) => {
    const calm = calmSole(trace.soles[i]!, clip.frames, clip.rate, first);
    const frames: number[] = [];
    for (const { from, to } of contacts.filter((c) => c.foot === foot.name))
      for (let f = Math.ceil(from); f <= to; f++)
        if (calm.speeds[f * 3]! < still && calm.speeds[f * 3 + 1]! < still && Math.abs(calm.points[f * 9 + 4]! - floor) < RECORDED.floor * legLength)
          frames.push(f);
    // The ball's own level is told better than the whole sole's: what stands higher or lower stands on something else.
    const ball = middle(frames.map((f) => calm.points[f * 9 + 4]!));
    return frames.filter((f) => Math.abs(calm.points[f * 9 + 4]! - ball) < BALL_LEVEL * legLength);
  });
  const world = createWorldPose(clip.skeleton);
  const stands = figure.feet.map((foot, i) => (flat[i]!.length / clip.rate < LEAST_S ? null : standing(figure, foot, flat[i]!, world)));
  const heights = stands.flatMap((s, i) => (s ? [s.hinge - thickness(figure.feet[i]!)] : []));
  if (heights.length === 0) return [...figure.feet];
  // One floor under both: each foot is as thick as it must be to stand on it.
  const level = heights.reduce((a, b) => a + b, 0) / heights.length;
  return figure.feet.map((foot, i) => (stands[i] ? fitted(foot, stands[i], level) : foot));
}

/** Depth of the ball point under the toe hinge. */
const thickness = (foot: FootModel): number => -dot(foot.ball, foot.toesUp);

interface Standing {
  /** The way up in the ankle's and in the toes' frame, and the middle heights of both joints, m. */
  readonly up: Vector;
  readonly toesUp: Vector;
  readonly ankle: number;
  readonly hinge: number;
}

function standing({ clip }: ClipFigure, foot: FootModel, frames: readonly number[], world: WorldPose): Standing {
  const size = poseSize(clip.skeleton);
  const only = withAncestors(clip.skeleton, [foot.ankle, foot.toes]);
  const step = Math.max(1, Math.floor(frames.length / LOOKS));
  const looks = frames
    .filter((_, i) => i % step === 0)
    .map((f) => {
      forwardKinematics(clip.skeleton, clip.poses, f * size, world, only);
      const [up, toesUp] = [foot.ankle, foot.toes].map((j) => {
        const q = world.rotations;
        const v = [0, 0, 0];
        rotate(v, 0, [-q[j * 4]!, -q[j * 4 + 1]!, -q[j * 4 + 2]!, q[j * 4 + 3]!], 0, 0, 1, 0);
        return v;
      });
      return { up: up!, toesUp: toesUp!, ankle: world.positions[foot.ankle * 3 + 1]!, hinge: world.positions[foot.toes * 3 + 1]! };
    });
  // Some stand with a heel up for most of the time: where the sole is about as it rests, it is flat; else where it usually is.
  const mean = (of: typeof looks, pick: (l: (typeof looks)[number]) => ArrayLike<number>) =>
    unit([0, 1, 2].map((k) => of.reduce((sum, l) => sum + pick(l)[k]!, 0)));
  const about = (of: typeof looks, pick: (l: (typeof looks)[number]) => ArrayLike<number>, up: ArrayLike<number>, cosine: number) =>
    of.filter((l) => dot(pick(l), up) > cosine);
  const sole = (l: (typeof looks)[number]) => l.up,
    toes = (l: (typeof looks)[number]) => l.toesUp;
  const rested = about(looks, sole, foot.up, USUAL),
    usual = about(looks, sole, mean(looks, sole), USUAL);
  let kept = rested.length >= RESTED * looks.length ? rested : usual.length > 0 ? usual : looks;
  // Ever nearer to where most of them are: a foot that was locked lies flat exactly, and rolls before and after.
  for (const cosine of NEARER) {
    const up = mean(kept, sole),
      toesUp = mean(kept, toes);
    const nearer = about(about(kept, sole, up, cosine), toes, toesUp, cosine);
    if (nearer.length < MOST * kept.length) break;
    kept = nearer;
  }
  return { up: mean(kept, sole), toesUp: mean(kept, toes), ankle: middle(kept.map((l) => l.ankle)), hinge: middle(kept.map((l) => l.hinge)) };
}

/** The foot with its sole as far under its joints as they stand over the floor; fore and aft as before. */
function fitted(foot: FootModel, { up, toesUp, ankle, hinge }: Standing, level: number): FootModel {
  const onPlane = (p: Vector, normal: Vector, depth: number): Vector => {
    const along = dot(p, normal);
    return [0, 1, 2].map((k) => p[k]! - (along + depth) * normal[k]!) as unknown as Vector;
  };
  return {
    ...foot,
    up,
    toesUp: foot.toes === foot.ankle ? up : toesUp,
    heel: onPlane(foot.heel, up, ankle - level),
    ball: onPlane(foot.ball, toesUp, hinge - level),
    tip: onPlane(foot.tip, toesUp, hinge - level),
  };
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
function unit(v: ArrayLike<number>): Vector {
  const l = Math.sqrt(dot(v, v));
  return [v[0]! / l, v[1]! / l, v[2]! / l];
}
const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!;
