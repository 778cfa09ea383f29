/**
 * Numbers of a foot's state while it swings: ankle x, y, z (m, world), pitch and toe bend (rad), heading (rad) and slope of
 * its sole's frame, roll onto the outer edge (rad).
 */
export const FOOT = { x: 0, y: 1, z: 2, pitch: 3, bend: 4, heading: 5, slopeX: 6, slopeZ: 7, roll: 8 } as const;
export const FOOT_SIZE = 9;
