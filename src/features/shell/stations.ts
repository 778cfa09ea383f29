/** What the figure does at a station: the gait in use, the plan, a member of the set, or a clip that was brought in. */
export type StationMotion = 'cycle' | 'plan' | 'member' | 'clip';

/**
 * The stations that are open, in the order of the job: address, label, what the figure does there, and whether the footfall
 * chart runs under the walkway. The panel of each is in `station-panels.tsx`; a new station is an entry in both.
 */
export const STATIONS = [
  { id: 'cycle', label: 'Cycle', motion: 'cycle', footfall: true },
  { id: 'travel', label: 'Travel', motion: 'clip', footfall: false },
  { id: 'steps', label: 'Steps', motion: 'plan', footfall: false },
  { id: 'directions', label: 'Directions', motion: 'member', footfall: true },
  { id: 'hand-over', label: 'Hand-over', motion: 'cycle', footfall: true },
] as const satisfies readonly { id: string; label: string; motion: StationMotion; footfall: boolean }[];
export type Station = (typeof STATIONS)[number]['id'];
export type StationEntry = (typeof STATIONS)[number];

export const isStation = (s: string): s is Station => STATIONS.some((x) => x.id === s);

export const stationOf = (id: Station): StationEntry => STATIONS.find((x) => x.id === id)!;
