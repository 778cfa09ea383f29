import type { ViewName } from '../stage/session';

/** Where the camera stands against the figure, m, and the height it looks at. The free view stays where it is. */
export const VIEWS: { readonly [K in ViewName]: { readonly from: readonly [number, number, number]; readonly target: number } | null } = {
  free: null,
  // Seen from its right, a figure walking ahead goes from left to right of the picture.
  side: { from: [-4.4, 0.95, 0], target: 0.88 },
  front: { from: [0, 1.05, 4.6], target: 0.9 },
  top: { from: [-0.01, 6, 0], target: 0.2 },
};
