import dynamic from 'next/dynamic';
import type { ComponentType } from 'react';
import { CyclePanel } from '../cycle/panel';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import type { Station } from './stations';

export interface PanelProps {
  readonly clock: Clock;
  readonly motion: StageMotion;
}

/** The panel of each station. The first is there at once; the others come when they are opened. */
export const STATION_PANELS: { readonly [S in Station]: ComponentType<PanelProps> } = {
  cycle: CyclePanel,
  travel: dynamic<PanelProps>(() => import('../travel/panel').then((m) => m.TravelPanel)),
  steps: dynamic<PanelProps>(() => import('../steps/panel').then((m) => m.StepsPanel)),
  directions: dynamic<PanelProps>(() => import('../directions/panel').then((m) => m.DirectionsPanel)),
  'hand-over': dynamic<PanelProps>(() => import('../handover/panel').then((m) => m.HandoverPanel)),
};
