import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useEngine } from '../stage/measure';
import { saveAs } from '../library/actions';
import { askAbout } from './ask-clip';
import type { ClipOnStage } from './use-clip';

/** A clip as files: on its own skeleton as it came, or its travel and contacts as a table. */
export function FilesPage({ clip }: { clip: ClipOnStage }) {
  const engine = useEngine();
  const [error, setError] = useState<string | null>(null);
  const own = /\.[^.]+$/.exec(clip.spec.file.name)?.[0].toLowerCase() ?? '';
  const write = (format: 'own' | 'csv', ending: string) => {
    setError(null);
    askAbout(engine, 'clip-file', 'clipFile', { spec: clip.spec, format }).then(
      ({ bytes, mime }) => saveAs(`${clip.spec.name}${ending}`, bytes as Uint8Array<ArrayBuffer>, mime),
      (e: unknown) => setError(e instanceof Error ? e.message : String(e)),
    );
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, justifyItems: 'start' }}>
      <Typography sx={{ fontSize: 13.5 }}>
        From {clip.spec.file.name}. Written on its own skeleton: names, hierarchy, offsets, channel orders, rate and unit as they came, and every channel that
        was not changed as the file has it.
      </Typography>
      <Button variant="outlined" disabled={!clip.answer} onClick={() => write('own', own)}>
        Save as {own.slice(1).toUpperCase()}
      </Button>
      <Button variant="outlined" disabled={!clip.answer} onClick={() => write('csv', '.csv')}>
        Save travel and contacts as CSV
      </Button>
      {error && <Alert severity="error">{error}</Alert>}
    </Box>
  );
}
