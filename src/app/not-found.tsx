import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import Link from 'next/link';

export default function NotFound() {
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', mt: 12, px: 2 }}>
      <Typography variant="h1">Nothing stands here</Typography>
      <Typography sx={{ my: 2 }}>
        This project or station does not exist. A deleted project can be brought back from the list right after deleting it.
      </Typography>
      <Link href="/">All projects</Link>
    </Box>
  );
}
