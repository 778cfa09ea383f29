/** What travel a clip is given: as it is, one constant velocity, what its contacts ask for, that smoothed, none. */
export const TRAVEL_KINDS = ['asIs', 'constant', 'contacts', 'smoothed', 'none'] as const;
export type TravelKind = (typeof TRAVEL_KINDS)[number];

/** What of a standing foot is held still. */
export const HOLDS = ['both', 'place', 'heading'] as const;
export type Hold = (typeof HOLDS)[number];

/** The axes of a travel: along the heading, to its left, up, and the turn about the vertical. */
export const AXES = ['forward', 'sideways', 'height', 'turn'] as const;
export type Axis = (typeof AXES)[number];
export type Axes = Readonly<Record<Axis, boolean>>;
