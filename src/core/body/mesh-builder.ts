/** A skinned triangle mesh in its rest pose, metres; four joints a vertex. Colours are linear RGB, 0..1. */
export interface SkinnedMesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly colors: Float32Array;
  readonly joints: Uint16Array;
  readonly weights: Float32Array;
  readonly indices: Uint32Array;
}

export type Vector3 = readonly [number, number, number];
/** Joints a vertex hangs on, with shares that add up to 1. */
export type Hanging = readonly (readonly [joint: number, share: number])[];
/** Vertices of a closed line in order, by index. */
export type Loop = readonly number[];

/** One elliptical cross-section: centre and the two half axes as vectors. */
export interface Ellipse {
  readonly center: Vector3;
  readonly u: Vector3;
  readonly v: Vector3;
}

/** A vertex before it is in a mesh. */
export interface Point {
  readonly at: Vector3;
  readonly hang: Hanging;
  readonly color: Vector3;
}

/** Points of an ellipse from u towards v. */
export function ellipsePoints({ center, u, v }: Ellipse, count: number): Vector3[] {
  return Array.from({ length: count }, (_, s) => {
    const a = (2 * Math.PI * s) / count,
      c = Math.cos(a),
      d = Math.sin(a);
    return [0, 1, 2].map((k) => center[k]! + u[k]! * c + v[k]! * d) as unknown as Vector3;
  });
}

/** Collects vertices and the faces between them into one mesh. Loops follow each other along u × v, so that faces look outward. */
export class MeshBuilder {
  private positions: number[] = [];
  private colors: number[] = [];
  private joints: number[] = [];
  private weights: number[] = [];
  private indices: number[] = [];

  vertex({ at, hang, color }: Point): number {
    this.positions.push(...at);
    this.colors.push(...color);
    const most = [...hang]
      .filter(([, share]) => share > 0)
      .sort((a, b) => b[1] - a[1])
      .slice(0, 4);
    const sum = most.reduce((s, [, share]) => s + share, 0);
    for (let i = 0; i < 4; i++) {
      this.joints.push(most[i]?.[0] ?? 0);
      this.weights.push(most[i] ? most[i][1] / sum : 0);
    }
    return this.positions.length / 3 - 1;
  }

  loop(points: readonly Point[]): Loop {
    return points.map((p) => this.vertex(p));
  }

  /** Faces between two loops of as many vertices, from column `from` over `count` columns (all the way round by default). */
  bridge(a: Loop, b: Loop, from = 0, count = a.length): void {
    const n = a.length;
    for (let i = from; i < from + count; i++) {
      const [p, q, r, s] = [a[i % n]!, a[(i + 1) % n]!, b[(i + 1) % n]!, b[i % n]!];
      this.indices.push(p, q, r, p, r, s);
    }
  }

  /** Closes a loop with a fan to one point: at the end of a tube, or with `start` at its beginning. */
  cap(loop: Loop, point: Point, start = false): void {
    const middle = this.vertex(point);
    loop.forEach((v, i) => {
      const next = loop[(i + 1) % loop.length]!;
      this.indices.push(middle, ...(start ? [next, v] : [v, next]));
    });
  }

  /** A closed tube through rings of points. */
  tube(rings: readonly (readonly Point[])[], first: Point, last: Point): void {
    const loops = rings.map((r) => this.loop(r));
    this.cap(loops[0]!, first, true);
    for (let r = 0; r + 1 < loops.length; r++) this.bridge(loops[r]!, loops[r + 1]!);
    this.cap(loops[loops.length - 1]!, last);
  }

  /** Place (m) of a vertex. */
  placeOf(vertex: number): Vector3 {
    return [this.positions[vertex * 3]!, this.positions[vertex * 3 + 1]!, this.positions[vertex * 3 + 2]!];
  }

  /** The mesh, without the vertices that no face came to use. */
  build(): SkinnedMesh {
    const used = [...new Set(this.indices)].sort((a, b) => a - b);
    const place = new Map(used.map((v, i) => [v, i]));
    const kept = (values: readonly number[], size: number) => used.flatMap((v) => values.slice(v * size, (v + 1) * size));
    const positions = Float32Array.from(kept(this.positions, 3));
    const indices = Uint32Array.from(this.indices, (v) => place.get(v)!);
    return {
      positions,
      indices,
      normals: smoothNormals(positions, indices),
      colors: Float32Array.from(kept(this.colors, 3)),
      joints: Uint16Array.from(kept(this.joints, 4)),
      weights: Float32Array.from(kept(this.weights, 4)),
    };
  }
}

/** Normals as the area-weighted mean of the faces around each vertex. */
function smoothNormals(p: Float32Array, indices: Uint32Array): Float32Array {
  const n = new Float32Array(p.length);
  for (let i = 0; i < indices.length; i += 3) {
    const a = indices[i]! * 3,
      b = indices[i + 1]! * 3,
      c = indices[i + 2]! * 3;
    const e = [0, 1, 2].map((k) => p[b + k]! - p[a + k]!),
      f = [0, 1, 2].map((k) => p[c + k]! - p[a + k]!);
    const face = [e[1]! * f[2]! - e[2]! * f[1]!, e[2]! * f[0]! - e[0]! * f[2]!, e[0]! * f[1]! - e[1]! * f[0]!];
    for (const v of [a, b, c]) for (let k = 0; k < 3; k++) n[v + k] = n[v + k]! + face[k]!;
  }
  for (let i = 0; i < n.length; i += 3) {
    const length = Math.hypot(n[i]!, n[i + 1]!, n[i + 2]!);
    if (length > 0) for (let k = 0; k < 3; k++) n[i + k] = n[i + k]! / length;
    else n[i + 1] = 1;
  }
  return n;
}
