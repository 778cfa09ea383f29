import { wrapAngle } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { bendCourse, type CoursePiece } from './bends';
import { TURN_M, type Course, type CourseTurn } from './course';
import { ropeCourse, type CoursePoint } from './rope';
import type { CourseKnot, CourseSpec } from './spec';

/** A corner up to this (rad) is walked over; at a sharper one the figure turns on the spot. */
const CORNER_RAD = (4 * Math.PI) / 180;
/** A knot this close (m) to the one before adds nothing. */
const NEAR_M = 0.01;

/** A part of a course with where it lies: `course` is told from the origin towards +Z where `placed`, else in the world. */
interface Part {
  readonly from: number;
  readonly length: number;
  /** Angle to add so that headings go on unwrapped. */
  readonly unwrap: number;
  readonly placed: readonly [x: number, z: number, heading: number] | null;
  readonly course: Course | null;
  /** Turn on the spot, rad. */
  readonly turn: number;
}

/**
 * The course through a spec's knots. Straight pieces and circles are exact, curvature ramps between them over `ramp` m;
 * smooth knots lie on one C2 curve that meets straight pieces in their direction, parted by a corner where it would come to a cusp. Where two pieces meet in a corner, or a
 * knot says so, the course turns on the spot. Throws RangeError where all knots lie on each other.
 */
export function buildCourse({ knots: asked }: CourseSpec, ramp: number): Course {
  const knots = asked.filter((k, i) => i === 0 || Math.hypot(k.x - asked[i - 1]!.x, k.z - asked[i - 1]!.z) > NEAR_M || (k.turnDeg ?? 0) !== 0);
  const parts: Part[] = [];
  const at = [0, 0, 0, 0];
  let [x, z, s] = [knots[0]!.x, knots[0]!.z, 0];
  let heading: number | null = null;
  const add = (part: Omit<Part, 'from' | 'unwrap'>, enters: number) => {
    const unwrap: number = heading === null ? 0 : heading + wrapAngle(enters - heading) - enters;
    const made: Part = { ...part, from: s, unwrap };
    parts.push(made);
    s += part.length;
    readPart(made, part.length, at);
    [x, z, heading] = [at[0]!, at[1]!, at[2]!];
  };
  const turn = (by: number) => {
    if (Math.abs(by) > 1e-9) add({ length: Math.abs(by) * TURN_M, placed: [x, z, heading ?? 0], course: null, turn: by }, heading ?? 0);
  };
  /** Turns into a direction where it makes a corner. */
  const corner = (towards: number) => {
    if (heading === null) heading = towards;
    const by = wrapAngle(towards - heading);
    if (Math.abs(by) > CORNER_RAD) turn(by);
  };
  if (knots[0]!.turnDeg) {
    const first = knots[1];
    heading = (first && chord(knots[0]!, first)) || 0;
    heading -= (knots[0]!.turnDeg * Math.PI) / 180;
    turn((knots[0]!.turnDeg * Math.PI) / 180);
  }
  let i = 1;
  while (i < knots.length) {
    let end = i;
    if (knots[i]!.by === 'smooth') {
      while (end + 1 < knots.length && knots[end + 1]!.by === 'smooth' && !knots[end]!.turnDeg) end++;
      const points = [{ x, z }, ...knots.slice(i, end + 1)].filter((p, k, all) => k === 0 || Math.hypot(p.x - all[k - 1]!.x, p.z - all[k - 1]!.z) > NEAR_M);
      const next = knots[end + 1];
      if (points.length > 1) {
        const arrives = next && next.by === 'straight' && !knots[end]!.turnDeg ? chord(knots[end]!, next) : null;
        for (const rope of ropesThrough(points, heading, arrives)) {
          rope.at(0, at, 0);
          corner(at[2]!);
          rope.at(0, at, 0);
          add({ length: rope.length, placed: null, course: rope, turn: 0 }, at[2]!);
        }
      }
    } else {
      const pieces: CoursePiece[] = [];
      let [px, pz] = [x, z];
      let h: number | null = heading;
      for (; end < knots.length; end++) {
        const knot = knots[end]!;
        if (knot.by === 'smooth') break;
        const way = Math.hypot(knot.x - px, knot.z - pz);
        const towards = Math.atan2(knot.x - px, knot.z - pz);
        if (way > NEAR_M) {
          const off: number = h === null ? 0 : wrapAngle(towards - h);
          const arc = knot.by === 'circle' && h !== null && Math.abs(off) > 1e-6;
          if (!arc && h !== null && Math.abs(off) > CORNER_RAD) {
            if (pieces.length > 0) break;
            corner(towards);
          }
          if (pieces.length === 0 && heading === null) heading = towards;
          if (arc) {
            const curvature = (2 * Math.sin(off)) / way;
            pieces.push({ length: Math.abs(off) < Math.PI - 1e-6 ? (2 * off) / curvature : way, curvature: Math.abs(curvature) > 1e-9 ? curvature : 0 });
            h = h! + 2 * off;
          } else {
            pieces.push({ length: way, curvature: 0 });
            h = towards;
          }
          [px, pz] = [knot.x, knot.z];
        }
        if (knot.turnDeg) {
          end++;
          break;
        }
      }
      end--;
      if (pieces.length > 0) {
        const bends = bendCourse(pieces, ramp);
        const enters = pieces[0]!.curvature === 0 ? Math.atan2(knots[i]!.x - x, knots[i]!.z - z) : heading!;
        add({ length: bends.length, placed: [x, z, enters], course: bends, turn: 0 }, enters);
      }
    }
    const turned = knots[end]!.turnDeg;
    if (turned) turn((turned * Math.PI) / 180);
    i = Math.max(i, end) + 1;
  }
  if (parts.length === 0) throw new RangeError('course: its knots lie on each other');
  return joinParts(parts, s);
}

/** A rope bent more tightly than this (m) has no way through it; looks for it lie so far (m) apart. */
const TIGHTEST_M = 0.12;
const LOOKS_M = 0.02;
const MOST_LOOKS = 4000;

/**
 * Smooth ways through points, one after the other: one where a rope goes through them all; where it would come to a cusp, it is
 * parted at the knot that is nearest, and the course has a corner there.
 */
function ropesThrough(points: readonly CoursePoint[], leaves: number | null, arrives: number | null): Course[] {
  const rope = ropeCourse(points, leaves, arrives);
  const tightest = cuspOf(rope);
  if (tightest === null) return [rope];
  if (points.length === 2) return leaves === null && arrives === null ? [rope] : ropesThrough(points, null, null);
  const at = [0, 0, 0, 0];
  rope.at(tightest, at, 0);
  const away = (p: CoursePoint) => Math.hypot(p.x - at[0]!, p.z - at[1]!);
  let nearest = 1;
  for (let i = 2; i + 1 < points.length; i++) if (away(points[i]!) < away(points[nearest]!)) nearest = i;
  return [...ropesThrough(points.slice(0, nearest + 1), leaves, null), ...ropesThrough(points.slice(nearest), null, arrives)];
}

/** Where along a rope it is bent most, if more tightly than a body can follow; null where it is not. */
function cuspOf(rope: Course): number | null {
  const count = Math.min(MOST_LOOKS, Math.ceil(rope.length / LOOKS_M));
  const at = [0, 0, 0, 0];
  let [most, where, before] = [1 / TIGHTEST_M, -1, NaN];
  for (let i = 0; i <= count; i++) {
    const s = (rope.length * i) / count;
    rope.at(s, at, 0);
    // A spike between two looks is told by how far they turn.
    const turned = (Math.abs(wrapAngle(at[2]! - before)) * count) / rope.length;
    const bent = Math.max(Math.abs(at[3]!), i > 0 ? turned : 0);
    if (bent > most) [most, where] = [bent, s];
    before = at[2]!;
  }
  return where < 0 ? null : where;
}

const chord = (a: CourseKnot, b: CourseKnot): number => Math.atan2(b.x - a.x, b.z - a.z);

/** Place, heading and curvature `along` m into a part. */
function readPart({ course, placed, unwrap, turn, length }: Part, along: number, out: number[]): void {
  if (!course) {
    const [x, z, heading] = placed!;
    const u = Math.min(Math.max(along / length, 0), 1);
    const over = along - u * length;
    const h = heading + unwrap + turn * u;
    out[0] = x + Math.sin(h) * over;
    out[1] = z + Math.cos(h) * over;
    out[2] = h;
    out[3] = over === 0 ? Math.sign(turn) / TURN_M : 0;
    return;
  }
  course.at(along, out, 0);
  if (placed) {
    const [x, z, heading] = placed;
    const s = Math.sin(heading),
      c = Math.cos(heading);
    const px = out[0]!,
      pz = out[1]!;
    out[0] = x + c * px + s * pz;
    out[1] = z - s * px + c * pz;
    out[2] = out[2]! + heading;
  }
  out[2] = out[2]! + unwrap;
}

function joinParts(parts: readonly Part[], length: number): Course {
  const starts = Float64Array.from(parts, (p) => p.from);
  const turns = parts.filter((p) => !p.course).map((p): CourseTurn => ({ from: p.from, to: p.from + p.length, angle: p.turn }));
  const found = [0, 0, 0, 0];
  return {
    length,
    turns,
    at(s, out, o) {
      const part = parts[s <= 0 ? 0 : seekIndex(starts, parts.length, s)]!;
      readPart(part, s - part.from, found);
      for (let k = 0; k < 4; k++) out[o + k] = found[k]!;
    },
  };
}
