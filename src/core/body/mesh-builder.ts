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
/** Joints a ring hangs on, with shares that add up to 1. */
export type Hanging = readonly (readonly [joint: number, share: number])[];

/** One elliptical cross-section: centre and the two half axes as vectors. */
export interface Ring {
  readonly center: Vector3;
  readonly u: Vector3;
  readonly v: Vector3;
  readonly hang: Hanging;
}

/** Collects lofted tubes into one mesh. */
export class MeshBuilder {
  private positions: number[] = [];
  private colors: number[] = [];
  private joints: number[] = [];
  private weights: number[] = [];
  private indices: number[] = [];

  /** A closed tube through the rings, which follow u × v (outward faces need the rings to run along u × v). */
  loft(rings: readonly Ring[], segments: number, color: Vector3): void {
    const base = this.positions.length / 3;
    const first = rings[0]!,
      last = rings[rings.length - 1]!;
    this.vertex(first.center, first.hang, color);
    for (const ring of rings)
      for (let s = 0; s < segments; s++) {
        const a = (2 * Math.PI * s) / segments,
          c = Math.cos(a),
          d = Math.sin(a);
        this.vertex([0, 1, 2].map((k) => ring.center[k]! + ring.u[k]! * c + ring.v[k]! * d) as unknown as Vector3, ring.hang, color);
      }
    this.vertex(last.center, last.hang, color);
    const at = (r: number, s: number) => base + 1 + r * segments + (s % segments);
    const end = base + 1 + rings.length * segments;
    for (let s = 0; s < segments; s++) {
      this.indices.push(base, at(0, s + 1), at(0, s), end, at(rings.length - 1, s), at(rings.length - 1, s + 1));
      for (let r = 0; r + 1 < rings.length; r++) this.indices.push(at(r, s), at(r, s + 1), at(r + 1, s + 1), at(r, s), at(r + 1, s + 1), at(r + 1, s));
    }
  }

  private vertex(p: Vector3, hang: Hanging, color: Vector3): void {
    this.positions.push(...p);
    this.colors.push(...color);
    for (let i = 0; i < 4; i++) {
      this.joints.push(hang[i]?.[1] ? hang[i]![0] : 0);
      this.weights.push(hang[i]?.[1] ?? 0);
    }
  }

  build(): SkinnedMesh {
    const positions = Float32Array.from(this.positions);
    const indices = Uint32Array.from(this.indices);
    return {
      positions,
      indices,
      normals: smoothNormals(positions, indices),
      colors: Float32Array.from(this.colors),
      joints: Uint16Array.from(this.joints),
      weights: Float32Array.from(this.weights),
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
