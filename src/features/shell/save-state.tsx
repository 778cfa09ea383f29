import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import Alert from '@mui/material/Alert';
import { useDocument } from '../document/context';

const WORDS = {
  saved: 'saved',
  saving: 'saving…',
  waiting: 'not saved yet',
  offline: 'offline, kept here',
  conflict: 'changed elsewhere',
  refused: 'not saved',
} as const;

/** Where the work stands: saved, on its way, or kept here until the server is back. */
export function SaveMark() {
  const save = useDocument((s) => s.save);
  const bad = 'message' in save;
  return (
    <Typography
      component="span"
      role="status"
      data-testid="save-state"
      data-state={save.kind}
      sx={{ fontSize: 12.5, width: 108, color: bad ? 'error.main' : 'text.secondary' }}
    >
      {WORDS[save.kind]}
    </Typography>
  );
}

/** What happened, what was kept and what to do, when saving does not go on by itself. */
export function SaveTrouble() {
  const save = useDocument((s) => s.save);
  if (!('message' in save)) return null;
  return (
    <Box sx={{ position: 'absolute', top: 60, left: 12, right: 420, zIndex: 5 }}>
      <Alert
        severity={save.kind === 'offline' ? 'warning' : 'error'}
        action={
          save.kind === 'conflict' ? (
            <Button color="inherit" onClick={() => location.reload()}>
              Reload
            </Button>
          ) : undefined
        }
      >
        {save.message}
      </Alert>
    </Box>
  );
}
