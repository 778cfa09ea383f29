/** The stations that are open, in the order of the job, with their address and label. */
export const STATIONS = [
  { id: 'cycle', label: 'Cycle' },
  { id: 'steps', label: 'Steps' },
  { id: 'directions', label: 'Directions' },
  { id: 'hand-over', label: 'Hand-over' },
] as const;
export type Station = (typeof STATIONS)[number]['id'];

export const isStation = (s: string): s is Station => STATIONS.some((x) => x.id === s);
