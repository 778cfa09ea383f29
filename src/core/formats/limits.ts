/** Limits of every reader; each message names the one it refuses by. */
export const READ_LIMITS = {
  bytes: 64 * 1024 * 1024,
  /** Bytes, and joints × frames, of a BVH, which holds one clip and nothing else. */
  bvhBytes: 128 * 1024 * 1024,
  bvhJointFrames: 6_500_000,
  /** Bytes of a GLB's JSON part. */
  jsonBytes: 16 * 1024 * 1024,
  joints: 1024,
  frames: 200_000,
  /** Joints × frames of one clip, and of all clips of a file. */
  jointFrames: 2_500_000,
  allJointFrames: 4_000_000,
  animations: 256,
  depth: 256,
  /** Entries of any list of a glTF document, values of one accessor, bytes of all accessors. */
  entries: 20_000,
  values: 16_000_000,
  accessorBytes: 256 * 1024 * 1024,
  /** Farthest (m, or units of the file) anything may be, and the most a scale may be. */
  metres: 1e6,
  /** Pictures a second. */
  rate: 1000,
  /** Vertices of a skin that are measured. */
  vertices: 200_000,
} as const;

/** Throws FormatFault where a number of a result is not finite; `what` names the result. */
export function assertFinite(value: unknown, what: string): void {
  if (typeof value === 'number' && !Number.isFinite(value)) throw new FormatFault(`its numbers run out of bounds: no value comes of it`, what);
  if (value !== null && typeof value === 'object') for (const [key, v] of Object.entries(value)) assertFinite(v, `${what}.${key}`);
}

/** What is wrong with a file, in the file's own terms: line (text formats) or path (JSON), and the allowed range. */
export class FormatFault extends Error {
  override readonly name = 'FormatFault';
  constructor(
    message: string,
    readonly where: string | null = null,
  ) {
    super(where === null ? message : `${where}: ${message}`);
  }
}
