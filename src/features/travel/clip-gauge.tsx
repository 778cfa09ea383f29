'use client';
import Box from '@mui/material/Box';
import { gaugeSx, Reading } from '../shell/reading';
import { worstSlide } from '@/core/travel/slide';
import type { ClipOnStage } from './use-clip';

/** Slide (mm) up to which a recorded foot counts as held. */
const HELD_MM = 0.5;

/** The measured slide of a clip's standing feet, as it comes out. */
export function ClipGauge({ clip }: { clip: ClipOnStage }) {
  const mm = clip.answer ? worstSlide(clip.answer.after) : null;
  const held = mm !== null && mm <= HELD_MM;
  const drags = clip.answer?.drags.length ?? 0;
  const dragged = drags === 0 ? '' : `, ${drags} dragged`;
  const words = clip.error ? 'not measured' : mm === null ? (clip.answer ? 'no foot stands' : 'reading') : held ? `feet hold${dragged}` : 'feet slide';
  return (
    <Box
      data-testid="slide-gauge"
      role="status"
      aria-busy={clip.stale}
      title="Slide of the standing feet of this clip, at its frames; each contact is listed on the page feet"
      sx={gaugeSx(mm, held && drags === 0, clip.stale)}
    >
      <Reading mm={mm} held={held && drags === 0} words={words} />
    </Box>
  );
}
