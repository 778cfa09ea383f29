'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { startTransition } from 'react';

/** Shown where a page could not be made; trying again asks the server anew. */
export default function ErrorPage({ reset }: { reset: () => void }) {
  const router = useRouter();
  const again = () =>
    startTransition(() => {
      router.refresh();
      reset();
    });
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', mt: 12, px: 2 }}>
      <Typography variant="h1">The page could not be shown</Typography>
      <Typography sx={{ my: 2 }}>
        Most often the database does not answer. Nothing was changed and everything saved before is kept. Start it with ./nimbret demo, then try again.
      </Typography>
      <Button variant="contained" onClick={again}>
        Try again
      </Button>
    </Box>
  );
}
