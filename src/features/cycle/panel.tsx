'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { memo, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import { idsOf, specOf, useDocument, useDocumentStore } from '../document/context';
import { bodyIdOf, gaitIdOf, useBody } from '../document/selectors';
import { addGait, freeName } from '../library/actions';
import { GaitChoice } from '../library/gait-choice';
import { NameInPlace } from '../library/name-in-place';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { STATION_PAGES, useOpenPage } from '../stage/pages';
import { ChannelsPage } from './channels-page';
import { useSession } from '../stage/session';
import { chooseBody, chooseGait, replaceGait } from './editing';

// The channels are there at once; the other pages come when they are opened.
const StylesPage = dynamic(() => import('../library/page').then((m) => m.StylesPage));
const LoopPage = dynamic(() => import('./loop-page').then((m) => m.LoopPage));
const ComparePage = dynamic(() => import('../compare/page').then((m) => m.ComparePage));

const PAGES = STATION_PAGES.cycle;
type Page = (typeof PAGES)[number];

/** The Cycle station: body and gait, and pages for its channels, its styles, its loop and how it compares. */
export function CyclePanel({ clock, motion }: { clock: Clock; motion: StageMotion }) {
  const gaitId = useDocument(gaitIdOf);
  const [page, setPage] = useOpenPage('cycle');
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: 1, '@media (max-height: 719px)': { height: 'auto' } }}>
      <WhoAndWhat gaitId={gaitId} />
      <PageChoice page={page} onPage={setPage} />
      <Box role="region" aria-label={page} sx={page === 'Channels' ? { display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 } : {}}>
        {page === 'Channels' && <ChannelsPage gaitId={gaitId} clock={clock} motion={motion} />}
        {page === 'Styles' && <StylesPage gaitId={gaitId} motion={motion} />}
        {page === 'Loop' && <LoopPage gaitId={gaitId} clock={clock} motion={motion} />}
        {page === 'Compare' && <ComparePage gaitId={gaitId} motion={motion} />}
      </Box>
    </Box>
  );
}

const PageChoice = memo(function PageChoice({ page, onPage }: { page: Page; onPage: (page: Page) => void }) {
  return (
    <ToggleButtonGroup
      exclusive
      fullWidth
      size="small"
      value={page}
      aria-label="Pages of the cycle"
      onChange={(_, next: Page | null) => next && onPage(next)}
      sx={{ mt: 1, '& .MuiToggleButton-root': { py: 0.25, fontSize: 14 } }}
    >
      {PAGES.map((p) => (
        <ToggleButton key={p} value={p}>
          {p}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
});

/** Gaits offered at once; all others are on the Styles page. */
const QUICK = ['walk', 'run', 'sneak'];

const WhoAndWhat = memo(function WhoAndWhat({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const bodies = useDocument(useShallow((s) => idsOf(s, 'body').map((id) => specOf(s, 'body', id))));
  const bodyIds = useDocument(useShallow((s) => idsOf(s, 'body')));
  const bodyId = useDocument(bodyIdOf);
  const body = useBody();
  const set = useSession((s) => s.set);
  const [naming, setNaming] = useState(false);
  const gaitNames = () => idsOf(store.getState(), 'gait').map((id) => specOf(store.getState(), 'gait', id).name);
  const startAgain = (preset: (typeof PRESETS)[number]) => {
    const made = fitGait(preset.make(), body.legLength);
    replaceGait(store, gaitId, made);
    set({ notice: { text: `The values of “${specOf(store.getState(), 'gait', gaitId).name}” were replaced by those of ${made.name}.`, undo: true } });
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1 }}>
      <Select aria-label="Body" value={bodyId} onChange={(e) => chooseBody(store, e.target.value)} inputProps={{ 'aria-label': 'Body' }}>
        {bodyIds.map((id, i) => (
          <MenuItem key={id} value={id}>
            {bodies[i]!.name}, {bodies[i]!.stature.toFixed(2)} m
          </MenuItem>
        ))}
      </Select>
      <GaitChoice label="Gait" value={gaitId} onChoose={(id) => chooseGait(store, id)} />
      <Button title="Keeps it as it is now as a gait of its own, and goes on with that" onClick={() => setNaming(!naming)} sx={{ minWidth: 0 }}>
        Save as…
      </Button>
      {naming && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <NameInPlace
            label="Name of the new gait"
            start={freeName(specOf(store.getState(), 'gait', gaitId).name, gaitNames())}
            doIt="Save"
            onDone={(name) => {
              addGait(store, { ...specOf(store.getState(), 'gait', gaitId), name });
              setNaming(false);
            }}
            onGiveUp={() => setNaming(false)}
          />
        </Box>
      )}
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography component="span" sx={{ color: 'text.secondary' }}>
          Replace current values by
        </Typography>
        {PRESETS.filter((p) => QUICK.includes(p.key)).map((p) => (
          <Button key={p.key} variant="outlined" title={p.about} onClick={() => startAgain(p)}>
            {p.make().name}
          </Button>
        ))}
      </Box>
    </Box>
  );
});
