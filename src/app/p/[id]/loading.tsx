import Typography from '@mui/material/Typography';

export default function Loading() {
  return <Typography sx={{ p: 4 }}>Opening the project…</Typography>;
}
