'use client';
import Box from '@mui/material/Box';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import dynamic from 'next/dynamic';
import { usePathname, useRouter } from 'next/navigation';
import type { Item } from '@/core/project/kinds';
import { DocumentProvider, useDocument, useDocumentStore } from '../document/context';
import { Clock } from '../stage/clock';
import { SessionProvider, useSession, useSessionStore } from '../stage/session';
import { EngineProvider } from '../stage/measure';
import { useStageMotion, type StageMotion } from '../stage/motion';
import type { WalkwayHands } from '../walkway/hands';
import { Walkway } from '../walkway/walkway';
import { useKeys } from './keys';
import { Notice } from './notice';
import { BrokenItems, type Broken } from './broken-items';
import { SaveTrouble } from './trouble';
import { freshItems, versionsOf } from './fresh-items';
import { SlideGauge } from './slide-gauge';
import { STATION_PANELS } from './station-panels';
import { SayLine } from '../say/say-line';
import { isStation, stationOf, type Station } from './stations';
import { TopBar } from './top-bar';
import { Transport } from './transport';

const FootfallChart = dynamic(() => import('../footfall/chart').then((m) => m.FootfallChart), { loading: () => <Box sx={{ height: 62 }} /> });
const WalkDrawer = dynamic(() => import('../steps/drawer').then((m) => m.WalkDrawer), { loading: () => <Box sx={{ height: 200 }} /> });
const ClipChart = dynamic(() => import('../travel/clip-chart').then((m) => m.ClipChart), { loading: () => <Box sx={{ height: 140 }} /> });
const ClipHands = dynamic(() => import('../travel/clip-hands').then((m) => m.ClipHands));
const ClipGauge = dynamic(() => import('../travel/clip-gauge').then((m) => m.ClipGauge));
const WalkHands = dynamic(() => import('../steps/walkway-hands').then((m) => m.WalkHands));
const LeadBar = dynamic(() => import('../steps/lead-bar').then((m) => m.LeadBar), { loading: () => <Box sx={{ height: 62 }} /> });
const KeySheet = dynamic(() => import('./key-sheet').then((m) => m.KeySheet));

/** One project's workspace: the walkway stays while the stations change beside it. */
export function Workspace({ items, broken = [] }: { items: readonly Item[]; broken?: readonly Broken[] }) {
  const [latest, setLatest] = useState(items);
  useEffect(() => {
    // Going back to this page may show it as it was kept by the browser; what is saved is what counts.
    void freshItems(items).then((fresh) => fresh && setLatest(fresh));
  }, [items]);
  return (
    <SessionProvider>
      <DocumentProvider key={versionsOf(latest)} items={latest}>
        <EngineProvider>
          <BrokenItems broken={broken} />
          <Stations />
        </EngineProvider>
      </DocumentProvider>
    </SessionProvider>
  );
}

/** A changed stride time keeps the phase of a cycle where it is: the figure goes on from the same pose. */
function useSteadyPhase(clock: Clock, motion: StageMotion): void {
  const before = useRef(motion);
  useLayoutEffect(() => {
    const was = before.current;
    if (was.endless && motion.endless && was.duration !== motion.duration) clock.set((clock.time / was.duration) * motion.duration);
    before.current = motion;
  }, [clock, motion]);
}

/** Width (px) of the station's panel. */
const PANEL_WIDTH = 400;
/** Windows too narrow for walkway and panel side by side, as 1280 pixels at 150 % are. */
const NARROW = '@media (max-width: 979px)';

function Stations() {
  const last = usePathname().split('/').pop() ?? '';
  const station: Station = isStation(last) ? last : 'cycle';
  const store = useDocumentStore();
  const session = useSessionStore();
  const [clock] = useState(() => new Clock(session));
  const [keysOpen, setKeysOpen] = useState(false);
  const motion = useStageMotion(station, clock);
  const chart = useSession((s) => s.footfallChart);
  const [panel, setPanel] = useState(false);
  const hands = useRef<WalkwayHands | null>(null);
  const aside = useRef<HTMLElement>(null);
  const page = useSession((s) => s.pages[station]);
  // Another page is read from its top.
  useLayoutEffect(() => {
    if (aside.current) aside.current.scrollTop = 0;
  }, [station, page]);
  const Panel = STATION_PANELS[station];
  const router = useRouter();
  const projectId = useDocument((s) => s.projectId);
  const [saying, setSaying] = useState(false);
  const context = useMemo(
    () => ({ clock, motion, showSheet: () => setKeysOpen(true), open: (to: string) => router.push(`/p/${projectId}/${to}`) }),
    [clock, motion, router, projectId],
  );
  // What is typed right behind the key is meant for the line: it has to be there at once.
  const say = useCallback(() => flushSync(() => setSaying(true)), []);
  useKeys(store, { ...context, say });
  // Another station shows another motion: it starts at its beginning.
  useEffect(() => clock.set(0), [clock, station]);
  useSteadyPhase(clock, motion);
  return (
    <Box sx={{ height: '100dvh', display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)' }}>
      <TopBar
        station={station}
        gauge={motion.led ? <span /> : motion.clip ? <ClipGauge clip={motion.clip} /> : <SlideGauge motion={motion} clock={clock} />}
        onKeys={() => setKeysOpen(true)}
        onSay={say}
        panel={panel}
        onPanel={() => setPanel(!panel)}
      />
      <SaveTrouble />
      <Notice />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: `minmax(0, 1fr) ${PANEL_WIDTH}px`,
          minHeight: 0,
          position: 'relative',
          [NARROW]: { gridTemplateColumns: 'minmax(0, 1fr)' },
        }}
      >
        <Box
          component="main"
          sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gridTemplateRows: 'minmax(0, 1fr) auto auto', minHeight: 0, minWidth: 0 }}
        >
          <Walkway motion={motion} clock={clock} hands={hands} />
          {stationOf(station).motion === 'plan' && <WalkHands motion={motion} hands={hands} />}
          {motion.clip && !motion.clip.arriving && <ClipHands motion={motion} clip={motion.clip} clock={clock} hands={hands} />}
          {chart && stationOf(station).footfall && motion.endless ? (
            <FootfallChart gait={motion.gait} clock={clock} duration={motion.duration} />
          ) : chart && stationOf(station).motion === 'plan' && !motion.led ? (
            <WalkDrawer motion={motion} clock={clock} />
          ) : chart && motion.clip?.answer && !motion.clip.arriving ? (
            <ClipChart clip={motion.clip} clock={clock} duration={motion.duration} />
          ) : (
            <span />
          )}
          {motion.led ? <LeadBar clock={clock} /> : <Transport motion={motion} clock={clock} />}
        </Box>
        <Box
          component="aside"
          ref={aside}
          aria-label="Station"
          tabIndex={0}
          sx={{
            overflowY: 'auto',
            borderLeft: 1,
            borderColor: 'divider',
            p: 1.5,
            bgcolor: 'background.default',
            // Where there is no room beside the walkway the panel lies over it, when it is wanted.
            [NARROW]: { position: 'absolute', top: 0, right: 0, bottom: 0, width: `min(${PANEL_WIDTH}px, 100%)`, zIndex: 4, display: panel ? 'block' : 'none' },
          }}
        >
          <Panel clock={clock} motion={motion} />
        </Box>
      </Box>
      {saying && <SayLine context={context} onClose={() => setSaying(false)} />}
      {keysOpen && <KeySheet open onClose={() => setKeysOpen(false)} />}
    </Box>
  );
}
