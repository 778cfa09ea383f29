'use client';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { StageMotion } from '../stage/motion';
import { PlausibilityPanel } from './plausibility-panel';
import { SavedStates } from './saved-states';

/** The gait against its own saved states, and against what is published for its kind. */
export function ComparePage({ gaitId, motion }: { gaitId: string; motion: StageMotion }) {
  return (
    <Box>
      <Typography component="h3" variant="h3" sx={{ borderBottom: '1.5px solid', borderColor: 'text.primary', mt: 1.25 }}>
        Saved states
      </Typography>
      <SavedStates gaitId={gaitId} />
      <Typography component="h3" variant="h3" sx={{ borderBottom: '1.5px solid', borderColor: 'text.primary', mt: 1.5 }}>
        Plausibility
      </Typography>
      <PlausibilityPanel motion={motion} />
    </Box>
  );
}
