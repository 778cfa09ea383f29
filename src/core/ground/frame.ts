/** Where a feature lies: its place and the sine and cosine of its heading. */
export interface FeatureFrame {
  readonly x: number;
  readonly z: number;
  readonly sin: number;
  readonly cos: number;
}

export const frameOf = ({ x, z, headingDeg }: { readonly x: number; readonly z: number; readonly headingDeg: number }): FeatureFrame => {
  const h = (headingDeg * Math.PI) / 180;
  return { x, z, sin: Math.sin(h), cos: Math.cos(h) };
};

/** How far (m) a place lies along a feature's heading, and to its left. */
export const alongOf = (f: FeatureFrame, x: number, z: number): number => (x - f.x) * f.sin + (z - f.z) * f.cos;
export const asideOf = (f: FeatureFrame, x: number, z: number): number => (x - f.x) * f.cos - (z - f.z) * f.sin;

/** A place told along a feature and to its left, in the world. */
export const placeIn = (f: FeatureFrame, along: number, aside: number): { readonly x: number; readonly z: number } => ({
  x: f.x + f.sin * along + f.cos * aside,
  z: f.z + f.cos * along - f.sin * aside,
});
