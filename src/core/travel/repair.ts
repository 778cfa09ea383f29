import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { trimmed } from '../clip/edits';
import type { ClipFigure } from '../clip/figure';
import { inWorld } from '../clip/in-world';
import { lowPass } from '../math/low-pass';
import { angleBetween, slerp } from '../math/quaternion';
import { analyseClip } from './analysis';
import { footSeries, PLACES } from './foot-series';
import { firstFrame } from './rest-pose';
import type { RepairSpec } from './spec';

/** What mending changed: how many pictures of joints, and how far any joint was moved at most and on the whole (root mean square), m. */
export interface Mended {
  readonly what: 'restPose' | 'spikes' | 'jitter' | 'tilt' | 'floor';
  readonly count: number;
  readonly most: number;
  readonly mean: number;
}

/** A figure mended as a spec asks, before anything else is done to it, and what each step changed. */
export function mended(figure: ClipFigure, repair: RepairSpec): { figure: ClipFigure; done: readonly Mended[] } {
  const done: Mended[] = [];
  let now = figure;
  const take = (what: Mended['what'], clip: Clip, count: number, moved: readonly [most: number, mean: number] = difference(now.clip, clip)) => {
    now = { ...now, clip };
    done.push({ what, count, most: moved[0], mean: moved[1] });
  };
  if (repair.restPose && firstFrame(now.clip) === 1) take('restPose', trimmed(now.clip, 1, now.clip.frames - 1), 1, [0, 0]);
  if (repair.spikes) {
    const { clip, count } = withoutSpikes(now.clip);
    take('spikes', clip, count);
  }
  if (repair.jitterHz !== null) take('jitter', calmed(now.clip, repair.jitterHz), now.clip.frames);
  const slope = repair.tilt ? floorSlope(now) : null;
  if (slope) take('tilt', inWorld(now.clip, 1, levelling(slope)), now.clip.frames);
  if (repair.floor) take('floor', raised(now.clip, -analyseClip(now).floor), now.clip.frames);
  return { figure: now, done };
}

/** A joint that leaves what its neighbours in time make likely by more than this (rad, m), and by so many times what is usual there, is a spike. */
const SPIKE_RAD = 0.14;
const SPIKE_M = 0.03;
const SPIKE_TIMES = 6;
/** Longest spike, pictures; time (s) on either side that tells what is usual. */
const LONGEST = 3;
const USUAL_S = 0.3;

/** Takes out pictures in which a single joint, or the body's place, jumps away and back; between its neighbours instead. */
function withoutSpikes(clip: Clip): { clip: Clip; count: number } {
  const { skeleton, frames, rate } = clip;
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const window = Math.max(LONGEST + 2, Math.round(USUAL_S * rate));
  let count = 0;
  const between = new Float64Array(4);
  const run = (numbers: 3 | 4, o: number, least: number) => {
    const apart = (f: number, g: number) =>
      numbers === 4
        ? angleBetween(poses, f * size + o, poses, g * size + o)
        : Math.hypot(...[0, 1, 2].map((k) => poses[f * size + o + k]! - poses[g * size + o + k]!));
    const steps = new Float64Array(frames);
    for (let f = 1; f < frames; f++) steps[f] = apart(f - 1, f);
    for (let f = 1; f < frames - 1; f++) {
      if (steps[f]! < least) continue;
      // What is usual about here, this place itself left out.
      const around: number[] = [];
      for (let g = Math.max(1, f - window); g < Math.min(frames, f + window); g++) if (g < f || g > f + LONGEST) around.push(steps[g]!);
      const usual = around.sort((a, b) => a - b)[Math.floor(0.8 * around.length)] ?? 0;
      if (steps[f]! < SPIKE_TIMES * usual) continue;
      // It comes back within a few pictures to near where it left from.
      let back = -1;
      for (let g = f + 1; g <= Math.min(frames - 1, f + LONGEST) && back < 0; g++) if (apart(f - 1, g) < Math.max(least, (g - f + 1) * 2 * usual)) back = g;
      if (back < 0) continue;
      for (let g = f; g < back; g++) {
        const u = (g - f + 1) / (back - f + 1);
        const [a, b, at] = [(f - 1) * size + o, back * size + o, g * size + o];
        if (numbers === 4) {
          slerp(between, 0, poses, a, poses, b, u);
          poses.set(between, at);
        } else for (let k = 0; k < 3; k++) poses[at + k] = poses[a + k]! + (poses[b + k]! - poses[a + k]!) * u;
        count++;
      }
      for (let g = f; g <= back; g++) steps[g] = apart(g - 1, g);
    }
  };
  skeleton.moving.forEach((_, m) => run(3, m * 3, SPIKE_M));
  const quats = skeleton.moving.length * 3;
  for (let j = 0; j < skeleton.names.length; j++) run(4, quats + j * 4, SPIKE_RAD);
  return { clip: { ...clip, poses }, count };
}

/** The clip without what is quicker than a cut-off: a Butterworth low-pass of second order, there and back. */
function calmed(clip: Clip, cutoff: number): Clip {
  const { skeleton, frames, rate } = clip;
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const places = skeleton.moving.length * 3;
  const first = clip.loop ? 0 : firstFrame(clip);
  for (let k = 0; k < places; k++) lowPass(poses, first * size + k, size, frames - first, cutoff, rate);
  for (let j = 0; j < skeleton.names.length; j++) {
    const o = places + j * 4;
    // The same rotation has two signs: one after the other they are taken on one side.
    for (let f = first + 1; f < frames; f++) {
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += poses[f * size + o + k]! * poses[(f - 1) * size + o + k]!;
      if (dot < 0) for (let k = 0; k < 4; k++) poses[f * size + o + k] = -poses[f * size + o + k]!;
    }
    for (let k = 0; k < 4; k++) lowPass(poses, first * size + o + k, size, frames - first, cutoff, rate);
    for (let f = first; f < frames; f++) {
      const at = f * size + o;
      const l = Math.hypot(poses[at]!, poses[at + 1]!, poses[at + 2]!, poses[at + 3]!);
      for (let k = 0; k < 4; k++) poses[at + k] = poses[at + k]! / l;
    }
  }
  return { ...clip, poses };
}

/** Least spread (m) of standing places for a slope to be told, and the steepest (rise by run) that is a tilted floor. */
const SPREAD_M = 0.6;
const STEEPEST = 0.2;
/** Share of its pictures in which a foot is slowest: in walk and run alike it stands in them. */
const SLOWEST = 0.25;
/** A place lies in the floor within this, m; at least this share of all has to for it to be one. */
const IN_FLOOR_M = 0.015;
const MOST_IN_FLOOR = 0.6;
const PASSES = 12;

type Point = readonly [x: number, y: number, z: number];

/**
 * Slope (rise by run, along x and z) of the plane the balls of the feet are slowest in. It is told before contacts are, for which a floor has to be
 * level; by least squares, those farthest off left out again and again. Null where the places do not spread enough, or lie on no one plane.
 */
function floorSlope({ clip, feet }: ClipFigure): readonly [number, number] | null {
  const points = feet.flatMap((foot) => slowest(clip, foot));
  let kept: readonly Point[] = points;
  let plane = fitted(kept);
  for (let pass = 0; pass < PASSES; pass++) {
    const off = points.map((p) => Math.abs(above(plane, p)));
    const within = Math.max(IN_FLOOR_M, [...off].sort((a, b) => a - b)[Math.floor(0.8 * off.length)] ?? 0);
    const next = points.filter((_, i) => off[i]! <= within);
    if (next.length === kept.length && next.every((p, i) => p === kept[i])) break;
    kept = next;
    plane = fitted(kept);
  }
  const inFloor = points.filter((p) => Math.abs(above(plane, p)) < IN_FLOOR_M).length;
  const wide = Math.sqrt(kept.reduce((s, [x, , z]) => s + (x - plane.x) ** 2 + (z - plane.z) ** 2, 0) / kept.length);
  if (!(inFloor >= MOST_IN_FLOOR * points.length && wide >= SPREAD_M / 2)) return null;
  return Math.hypot(plane.sx, plane.sz) < STEEPEST ? [plane.sx, plane.sz] : null;
}

/** Places of a foot's ball in the pictures it is slowest in. */
function slowest(clip: Clip, foot: ClipFigure['feet'][number]): Point[] {
  const first = firstFrame(clip);
  const { places } = footSeries(clip, foot, first);
  const at = (f: number): Point => [places[f * PLACES + 6]!, places[f * PLACES + 7]!, places[f * PLACES + 8]!];
  const frames = Array.from({ length: Math.max(0, clip.frames - first - 2) }, (_, i) => first + 1 + i);
  const speed = new Map(frames.map((f) => [f, Math.hypot(...at(f + 1).map((v, k) => v - at(f - 1)[k]!))]));
  return [...frames]
    .sort((a, b) => speed.get(a)! - speed.get(b)!)
    .slice(0, Math.ceil(SLOWEST * frames.length))
    .map(at);
}

interface Plane {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly sx: number;
  readonly sz: number;
}

const above = (p: Plane, [x, y, z]: Point): number => y - p.y - p.sx * (x - p.x) - p.sz * (z - p.z);

/** Plane of least squares through points. */
function fitted(points: readonly Point[]): Plane {
  const mean = [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k]!, 0) / points.length) as unknown as Point;
  let [xx, xz, zz, xy, zy] = [0, 0, 0, 0, 0];
  for (const p of points) {
    const [x, y, z] = [p[0] - mean[0], p[1] - mean[1], p[2] - mean[2]];
    xx += x * x;
    xz += x * z;
    zz += z * z;
    xy += x * y;
    zy += z * y;
  }
  // Across the line they all stand on nothing is known: there it is taken as level.
  const ridge = 0.002 * (xx + zz) + 1e-12;
  const det = (xx + ridge) * (zz + ridge) - xz * xz;
  return { x: mean[0], y: mean[1], z: mean[2], sx: (xy * (zz + ridge) - zy * xz) / det, sz: (zy * (xx + ridge) - xy * xz) / det };
}

/** Rotation that brings a plane of this slope level. */
function levelling([sx, sz]: readonly [number, number]): Float64Array {
  // From the plane's normal (−sx, 1, −sz) to up, the shortest way.
  const l = Math.hypot(sx, 1, sz);
  const [nx, ny, nz] = [-sx / l, 1 / l, -sz / l];
  const q = [-nz, 0, nx, 1 + ny];
  const s = Math.hypot(...q);
  return Float64Array.from(q, (v) => v / s);
}

/** The clip with its roots raised. */
function raised(clip: Clip, by: number): Clip {
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const roots = [...skeleton.parents].flatMap((p, j) => (p < 0 ? [skeleton.moving.indexOf(j) * 3 + 1] : []));
  for (let f = 0; f < frames; f++) for (const o of roots) poses[f * size + o] = poses[f * size + o]! + by;
  return { ...clip, poses };
}

/** How far joints are apart in two clips of the same pictures: at most, and root mean square, m. */
function difference(a: Clip, b: Clip): readonly [number, number] {
  const [p, q] = [createWorldPose(a.skeleton), createWorldPose(b.skeleton)];
  const size = poseSize(a.skeleton);
  const joints = a.skeleton.names.length;
  let [most, sum] = [0, 0];
  for (let f = 0; f < a.frames; f++) {
    forwardKinematics(a.skeleton, a.poses, f * size, p);
    forwardKinematics(b.skeleton, b.poses, f * size, q);
    for (let j = 0; j < joints; j++) {
      let square = 0;
      for (let k = j * 3; k < j * 3 + 3; k++) square += (p.positions[k]! - q.positions[k]!) ** 2;
      sum += square;
      most = Math.max(most, square);
    }
  }
  return [Math.sqrt(most), Math.sqrt(sum / (joints * a.frames))];
}
