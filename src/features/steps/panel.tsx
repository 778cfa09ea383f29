'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useRef } from 'react';
import { useWalkPart } from '../document/selectors';
import { useSession } from '../stage/session';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { STATION_PAGES, useOpenPage } from '../stage/pages';
import { LedPanel } from './led-panel';
import { CoursePage } from './course-page';
import { GroundPage } from './ground-page';
import { PrintsPage } from './prints-page';
import { RulesPage } from './rules-page';
import { TracksPage } from './tracks-page';
import { WalkList } from './walk-list';

const PAGES = STATION_PAGES.steps;
type Page = (typeof PAGES)[number];
/** Page on which a thing chosen on the ribbon is told in numbers. */
const PAGE_OF = { knot: 'course', feature: 'ground', print: 'prints' } as const;

/** The Steps station: a walk laid out by rules, by its course and ground, in time, and print by print. */
export const StepsPanel = memo(function StepsPanel({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const free = useWalkPart((w) => w.free !== null);
  const chosen = useSession((s) => s.chosen);
  const [page, setPage] = useOpenPage('steps');
  const followed = useRef(chosen);
  useEffect(() => {
    // What is chosen on the ribbon comes up here.
    if (chosen && chosen !== followed.current) setPage(PAGE_OF[chosen.kind]);
    followed.current = chosen;
  }, [chosen, setPage]);
  if (motion.led) return <LedPanel />;
  return (
    <Box sx={{ display: 'grid', gap: 1.25, gridTemplateColumns: 'minmax(0, 1fr)' }}>
      <Typography variant="h2">Walk</Typography>
      <WalkList />
      {motion.trouble && (
        <Alert severity="warning" sx={{ py: 0 }}>
          This cannot be walked: {motion.trouble}. A few steps straight on are shown instead.
        </Alert>
      )}
      {free && page !== 'prints' && page !== 'ground' && (
        <Alert severity="info" sx={{ py: 0 }}>
          The prints of this walk are free: what is set here waits until they are tied to the course again (page prints).
        </Alert>
      )}
      <PageTabs page={page} onPage={setPage} />
      {page === 'rules' && <RulesPage motion={motion} clock={clock} />}
      {page === 'course' && <CoursePage motion={motion} />}
      {page === 'ground' && <GroundPage />}
      {page === 'tracks' && <TracksPage />}
      {page === 'prints' && <PrintsPage motion={motion} clock={clock} />}
    </Box>
  );
});

/** Tabs look at where they lie whenever they are rendered: only when another page is opened. */
const PageTabs = memo(function PageTabs({ page, onPage }: { page: Page; onPage: (page: Page) => void }) {
  return (
    <Tabs
      value={page}
      onChange={(_, v: Page) => onPage(v)}
      aria-label="Walk"
      variant="fullWidth"
      sx={{ minHeight: 32, '& .MuiTab-root': { minHeight: 32, minWidth: 0, px: 0.5 } }}
    >
      {PAGES.map((p) => (
        <Tab key={p} value={p} label={p} id={`walk-${p}`} />
      ))}
    </Tabs>
  );
});
