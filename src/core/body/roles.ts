/** Joint roles of the VRM 1.0 humanoid (open standard, VRM Consortium), with our `root` above `hips`. Order = joint index. */
export const ROLES = [
  'root',
  'hips',
  'spine',
  'chest',
  'upperChest',
  'neck',
  'head',
  'leftShoulder',
  'leftUpperArm',
  'leftLowerArm',
  'leftHand',
  'rightShoulder',
  'rightUpperArm',
  'rightLowerArm',
  'rightHand',
  'leftUpperLeg',
  'leftLowerLeg',
  'leftFoot',
  'leftToes',
  'rightUpperLeg',
  'rightLowerLeg',
  'rightFoot',
  'rightToes',
] as const;
export type Role = (typeof ROLES)[number];

/** Index of each role in every Nimbret skeleton, pose and clip. */
export const JOINT = Object.fromEntries(ROLES.map((role, i) => [role, i])) as Readonly<Record<Role, number>>;

export const JOINT_COUNT = ROLES.length;
/** First joint of each limb, by side (0 = left, 1 = right); the rest of the limb follows in order. */
export const SHOULDER = [JOINT.leftShoulder, JOINT.rightShoulder] as const;
export const UPPER_LEG = [JOINT.leftUpperLeg, JOINT.rightUpperLeg] as const;

export const LEFT = 0;
export const RIGHT = 1;
export type Side = 0 | 1;
export const SIDES = [LEFT, RIGHT] as const;
export const SIDE_NAMES = ['left', 'right'] as const;
export type SideName = (typeof SIDE_NAMES)[number];
