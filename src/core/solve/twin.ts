/** Something that may hold for something else as well; `mirrored` if left and right change places. */
export interface Twin<T> {
  readonly of: T;
  readonly mirrored: boolean;
}
