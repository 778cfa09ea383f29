/**
 * Segment lengths as parts of stature.
 * Source: Drillis & Contini (1966) as reproduced in D. A. Winter, Biomechanics and Motor Control of Human Movement
 * (values from memory of it). Those marked * are not in that table: they place joints the table does not name.
 */
export const PROPORTIONS = {
  shoulderHeight: 0.818,
  chinHeight: 0.87,
  shoulderBreadth: 0.259, // joint to joint
  hipJointBreadth: 0.1, // * hip joint centres lie closer together than the hip breadth of 0.191
  ankleHeight: 0.039,
  thigh: 0.245,
  shank: 0.246,
  footLength: 0.152,
  footBreadth: 0.055,
  upperArm: 0.186,
  forearm: 0.146,
  hand: 0.108,
  toeJointHeight: 0.011, // * height of the toe hinge above the sole
  heelShare: 0.24, // * share of the foot's length behind the ankle
  ballShare: 0.7, // * share of the foot's length from heel to toe hinge
} as const;
export type Proportion = keyof typeof PROPORTIONS;
export type Proportions = Readonly<Record<Proportion, number>>;
