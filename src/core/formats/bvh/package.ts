/** A rotation or position channel of a BVH joint, as the format names it. */
export const BVH_CHANNELS = ['Xposition', 'Yposition', 'Zposition', 'Xrotation', 'Yrotation', 'Zrotation'] as const;
export type BvhChannel = (typeof BVH_CHANNELS)[number];

export interface BvhJoint {
  readonly name: string;
  /** Index of the parent, −1 for the root; parents come first. */
  readonly parent: number;
  readonly offset: readonly [number, number, number];
  readonly channels: readonly BvhChannel[];
  /** Offset of the End Site, if the joint has one. */
  readonly end: readonly [number, number, number] | null;
}

/** A BVH file without its spelling: lengths in the file's unit, angles in degrees, frame time in seconds. */
export interface BvhPackage {
  readonly joints: readonly BvhJoint[];
  readonly frameTime: number;
  readonly frames: number;
  /** frames × channels numbers, in the order of the joints. */
  readonly values: Float64Array;
  /** What is odd about the file and was read all the same, in words. */
  readonly oddities?: readonly string[];
}

export const channelCount = (joints: readonly BvhJoint[]): number => joints.reduce((n, j) => n + j.channels.length, 0);
