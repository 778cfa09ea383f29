import Link from '@mui/material/Link';

/** Opens what the measured numbers mean, in a window of its own: the work stays as it is. */
export const MeasuresLink = () => (
  <Link href="/measures" target="_blank" rel="noopener" sx={{ fontSize: 12.5 }}>
    What these numbers are
  </Link>
);
