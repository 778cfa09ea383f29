import { useCallback } from 'react';
import { useSession, useSessionStore } from './session';

/** Pages of the stations' panels, as they are called; the first is open until another is. */
export const STATION_PAGES = {
  cycle: ['Channels', 'Styles', 'Loop', 'Compare'],
  travel: ['travel', 'feet', 'cut', 'layers', 'gait', 'joints', 'files'],
  steps: ['rules', 'course', 'ground', 'tracks', 'prints'],
} as const;

/** The page of a station's panel that is open, and a way to open another; it stays while one is at other stations. */
export function useOpenPage<S extends keyof typeof STATION_PAGES>(
  station: S,
): readonly [(typeof STATION_PAGES)[S][number], (page: (typeof STATION_PAGES)[S][number]) => void] {
  type P = (typeof STATION_PAGES)[S][number];
  const pages: readonly P[] = STATION_PAGES[station];
  const open = useSession((s) => s.pages[station]);
  const session = useSessionStore();
  const turn = useCallback((page: P) => session.setState((s) => ({ pages: { ...s.pages, [station]: page } })), [session, station]);
  return [pages.find((p) => p === open) ?? pages[0]!, turn];
}
