'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Typography from '@mui/material/Typography';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { STATION_PAGES, useOpenPage } from '../stage/pages';
import { ClipList } from './clip-list';
import { CutPage } from './cut-page';
import { FeetPage } from './feet-page';
import { FilesPage } from './files-page';
import { GaitPage } from './gait-page';
import { JointsPage } from './joints-page';
import { LayersPage } from './layers-page';
import { TravelPage } from './travel-page';

const PAGES = STATION_PAGES.travel;

/** The Travel station: clips brought in, their root motion, their feet, and whose joint is which. */
export function TravelPanel({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const [page, setPage] = useOpenPage('travel');
  const { clip } = motion;
  const pages = clip !== null && !clip.arriving;
  return (
    <Box sx={{ display: 'grid', gap: 1.25, gridTemplateColumns: 'minmax(0, 1fr)' }}>
      <Typography variant="h2">Clips</Typography>
      <ClipList clip={clip} />
      {clip?.error && (
        <Alert severity="error" sx={{ py: 0 }}>
          This clip cannot be shown: {clip.error}. It is kept as it came; give it roles and units, or remove it.
        </Alert>
      )}
      {clip?.arriving && <Typography sx={{ fontSize: 13.5 }}>{clip.spec.name} can be looked at while its file is being kept.</Typography>}
      {pages && (
        <Tabs
          value={page}
          onChange={(_, v: (typeof PAGES)[number]) => setPage(v)}
          aria-label="Clip"
          variant="fullWidth"
          sx={{ minHeight: 32, '& .MuiTab-root': { minHeight: 32, minWidth: 0, px: 0.5 } }}
        >
          {PAGES.map((p) => (
            <Tab key={p} value={p} label={p} id={`clip-${p}`} />
          ))}
        </Tabs>
      )}
      {pages && page === 'travel' && <TravelPage clip={clip} />}
      {pages && page === 'feet' && <FeetPage clip={clip} clock={clock} />}
      {pages && page === 'cut' && <CutPage clip={clip} clock={clock} />}
      {pages && page === 'layers' && <LayersPage clip={clip} clock={clock} />}
      {pages && page === 'gait' && <GaitPage clip={clip} />}
      {pages && page === 'joints' && <JointsPage clip={clip} />}
      {pages && page === 'files' && <FilesPage clip={clip} />}
    </Box>
  );
}
