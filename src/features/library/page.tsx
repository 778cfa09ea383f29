'use client';
import Typography from '@mui/material/Typography';
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { StageMotion } from '../stage/motion';
import { GaitLibrary } from './library';
import { MacroList } from './macros';
import { MixControl } from './mix-control';
import { WalkRunControl } from './walk-run-control';

/** Everything that changes the gait as a whole: walk to run, mixing, macros, and the library of gaits. */
export function StylesPage({ gaitId, motion }: { gaitId: string; motion: StageMotion }) {
  return (
    <Box>
      <Section title="From walk to run">
        <WalkRunControl gaitId={gaitId} />
      </Section>
      <Section title="Mix with another gait">
        <MixControl gaitId={gaitId} />
      </Section>
      <Section title="Macros">
        <MacroList gaitId={gaitId} />
      </Section>
      <Section title="Gait library">
        <GaitLibrary gaitId={gaitId} body={motion.body} />
      </Section>
    </Box>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 1.25 }}>
      <Typography component="h3" variant="h3" sx={{ borderBottom: '1.5px solid', borderColor: 'text.primary' }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}
