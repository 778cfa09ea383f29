import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

/** What there is to know while a figure is led. */
export const LedPanel = () => (
  <Box sx={{ display: 'grid', gap: 1.25 }}>
    <Typography variant="h2">Led by hand</Typography>
    <Typography>
      Point on the walkway: the figure goes there and follows the pointer. Near is slow, far is fast; close to it, it stands. A drag turns the view as ever.
    </Typography>
    <Typography>With the arrow keys it goes where the view looks, back or to a side; with Shift it runs. Escape lets it stand.</Typography>
    <Typography sx={{ color: 'text.secondary' }}>
      Each step is decided before its foot leaves and never changed after that. What was walked can be kept below as a walk with free prints.
    </Typography>
  </Box>
);
