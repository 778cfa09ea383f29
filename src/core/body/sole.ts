/**
 * The underside of a foot, metres, in the plane of the foot: forward distance from the ankle and height above the sole.
 */
export interface Sole {
  readonly ankleHeight: number;
  /** Distance of the heel point behind the ankle, positive. */
  readonly heelBack: number;
  /** Distance of the ball point (under the toe hinge) ahead of the ankle. */
  readonly ballAhead: number;
  readonly tipAhead: number;
  readonly toeJointHeight: number;
  readonly breadth: number;
}
