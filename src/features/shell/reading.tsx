import type { SxProps, Theme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';

/** The frame of a slide gauge: its edge says whether feet hold. */
export const gaugeSx = (mm: number | null, held: boolean, stale: boolean): SxProps<Theme> => ({
  display: 'flex',
  alignItems: 'baseline',
  gap: 0.75,
  px: 1.25,
  py: 0.25,
  border: 1,
  borderColor: held ? 'success.main' : mm === null ? 'divider' : 'error.main',
  // Paler would be harder to read; what is being measured anew has a broken edge.
  borderStyle: stale ? 'dashed' : 'solid',
});

/** A measured slide with its unit and what it means. */
export function Reading({ mm, held, words }: { mm: number | null; held: boolean; words: string }) {
  return (
    <>
      <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
        slide
      </Typography>
      <Typography component="span" sx={{ fontSize: 20, fontWeight: 600, color: held ? 'success.main' : mm === null ? 'text.primary' : 'error.main' }}>
        {mm === null ? '–' : mm.toFixed(1)}
      </Typography>
      <Typography component="span" sx={{ fontSize: 12 }}>
        mm
      </Typography>
      <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
        {words}
      </Typography>
    </>
  );
}
