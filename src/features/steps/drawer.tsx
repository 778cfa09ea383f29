'use client';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Button from '@mui/material/Button';
import useMediaQuery from '@mui/material/useMediaQuery';
import { memo, useRef } from 'react';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { Ribbon } from './ribbon';
import { WalkChart } from './walk-chart';

/** Heights (px) of the drawer's picture: as it opens, and wide open; in low windows, as at 150 % zoom, the walkway keeps 240. */
const HEIGHTS = { low: 172, tall: 330 };
const IN_LOW_WINDOWS = { low: 104, tall: 220 };

/** Under the walkway: the walk from above, or along time. One playhead runs through both. */
export const WalkDrawer = memo(function WalkDrawer({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const drawer = useSession((s) => s.drawer);
  const tall = useSession((s) => s.drawerTall);
  const fit = useRef<() => void>(() => {});
  const fitChosen = useRef<() => void>(() => {});
  const heights = useMediaQuery('(max-height: 640px)') ? IN_LOW_WINDOWS : HEIGHTS;
  const height = tall ? heights.tall : heights.low;
  return (
    <Box component="section" aria-label="Walk from above and in time" sx={{ borderTop: 1, borderColor: 'divider', bgcolor: 'background.paper' }}>
      <DrawerHead onFit={useStable(() => fit.current())} onFitChosen={useStable(() => fitChosen.current())} />
      {drawer === 'ribbon' ? (
        <Ribbon motion={motion} clock={clock} height={height} fit={fit} fitChosen={fitChosen} />
      ) : (
        <WalkChart motion={motion} clock={clock} height={height} fit={fit} />
      )}
    </Box>
  );
});

/** What the drawer shows, and how high it is. */
const DrawerHead = memo(function DrawerHead({ onFit, onFitChosen }: { onFit: () => void; onFitChosen: () => void }) {
  const drawer = useSession((s) => s.drawer);
  const tall = useSession((s) => s.drawerTall);
  const chosen = useSession((s) => s.chosen !== null);
  const set = useSession((s) => s.set);
  return (
    <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center', justifyContent: 'flex-end', px: 1, height: 27, borderBottom: 1, borderColor: 'divider' }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={drawer}
        aria-label="Drawer"
        onChange={(_, v: 'ribbon' | 'chart' | null) => v && set({ drawer: v })}
        sx={{ '& .MuiToggleButton-root': { py: 0, px: 1 } }}
      >
        <ToggleButton value="ribbon">ribbon</ToggleButton>
        <ToggleButton value="chart">chart</ToggleButton>
      </ToggleButtonGroup>
      <Button onClick={() => onFit()} sx={{ minWidth: 0, py: 0 }}>
        whole walk
      </Button>
      <Button
        disabled={!chosen || drawer !== 'ribbon'}
        title="Shows what is chosen, and what lies about it"
        onClick={() => onFitChosen()}
        sx={{ minWidth: 0, py: 0 }}
      >
        what is chosen
      </Button>
      <Button onClick={() => set({ drawerTall: !tall })} sx={{ minWidth: 0, py: 0 }}>
        {tall ? 'lower' : 'taller'}
      </Button>
    </Box>
  );
});
