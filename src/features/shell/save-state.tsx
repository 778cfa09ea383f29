import Typography from '@mui/material/Typography';
import { useDocument } from '../document/context';

const WORDS = {
  saved: 'saved',
  saving: 'saving…',
  waiting: 'not saved yet',
  offline: 'offline, kept here',
  refused: 'not saved',
  gone: 'project deleted',
  conflict: 'changed elsewhere',
} as const;

/** Where the work stands: saved, on its way, kept here until the server is back, or waiting for a decision. */
export function SaveMark() {
  const kind = useDocument((s) => (s.save.kind === 'saved' && Object.keys(s.conflicts).length > 0 ? 'conflict' : s.save.kind));
  const bad = kind !== 'saved' && kind !== 'saving' && kind !== 'waiting';
  return (
    <Typography
      component="span"
      role="status"
      data-testid="save-state"
      data-state={kind}
      noWrap
      sx={{ fontSize: 12.5, width: 108, color: bad ? 'error.main' : 'text.secondary' }}
    >
      {WORDS[kind]}
    </Typography>
  );
}
