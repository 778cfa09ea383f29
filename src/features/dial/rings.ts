export type Limb = 'leftLeg' | 'rightLeg' | 'leftArm' | 'rightArm';

/** Size of the dial in its own units and on the screen (CSS pixels), and its middle. */
export const SIZE = 232;
export const SHOWN = 204;
export const CENTRE = SIZE / 2;

/** A ring of the dial. */
export interface DialRing {
  readonly limb: Limb;
  readonly label: string;
  readonly letter: string;
  readonly radius: number;
  readonly side: 'left' | 'right';
  readonly leg: boolean;
}

export const RINGS: readonly DialRing[] = [
  { limb: 'leftLeg', label: 'Left leg', letter: 'L', radius: 77, side: 'left', leg: true },
  { limb: 'rightLeg', label: 'Right leg', letter: 'R', radius: 60, side: 'right', leg: true },
  { limb: 'leftArm', label: 'Left arm', letter: 'l', radius: 44, side: 'left', leg: false },
  { limb: 'rightArm', label: 'Right arm', letter: 'r', radius: 31, side: 'right', leg: false },
];

/** The arm that swings with a leg. */
export const OPPOSITE_ARM: Readonly<Partial<Record<Limb, Limb>>> = { leftLeg: 'rightArm', rightLeg: 'leftArm' };
