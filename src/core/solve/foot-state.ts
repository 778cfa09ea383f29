/** Numbers of a foot's state: ankle x, y, z (m, world), pitch, toe bend, heading, roll onto the outer edge (rad). */
export const FOOT = { x: 0, y: 1, z: 2, pitch: 3, bend: 4, heading: 5, roll: 6 } as const;
export const FOOT_SIZE = 7;
