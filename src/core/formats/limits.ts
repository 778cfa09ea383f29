/** Limits of every reader; each message names the one it refuses by. */
export const READ_LIMITS = { bytes: 64 * 1024 * 1024, joints: 1024, frames: 200_000, depth: 256 } as const;

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
