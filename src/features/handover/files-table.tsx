import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { CheckResult } from '@/core/check/check';
import { wholeFrames } from '@/core/gait/timing';
import { extent } from '@/core/math/scalar';
import { setTimingValue } from '../cycle/editing';
import { useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import type { PackResult } from './use-pack';

/** The files as written, each read back and measured, and the button that saves them. */
export function FilesTable({ result, gaitId }: { result: PackResult; gaitId: string }) {
  const faults = faultsOf(result);
  return (
    <Box data-testid="files">
      <Button variant="contained" color="success" component="a" href={result.url} download={result.name}>
        Save {result.name} ({(result.size / 1024).toFixed(0)} kB)
      </Button>
      <Box
        sx={{ mt: 1, maxHeight: 250, overflow: 'auto', borderTop: '1.5px solid', borderColor: 'text.primary' }}
        tabIndex={0}
        role="region"
        aria-label="Files as written"
      >
        <Table size="small" stickyHeader>
          <TableHead>
            <TableRow>
              <TableCell>File</TableCell>
              <TableCell align="right">Frames</TableCell>
              <TableCell align="right">Slide mm</TableCell>
              <TableCell align="right">Loop</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {result.files.map((f) => (
              <TableRow key={f.name}>
                <TableCell sx={{ wordBreak: 'break-all', fontSize: 12 }}>{f.name}</TableCell>
                <TableCell align="right">{f.check.frames}</TableCell>
                <TableCell align="right">{f.check.slideMm.atFrames?.toFixed(3) ?? '–'}</TableCell>
                <TableCell align="right">{seamWords(f.check)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      <Rounding result={result} gaitId={gaitId} />
      {faults.map(([words, names]) => (
        <Alert key={words} severity="warning" sx={{ mt: 0.5, py: 0, wordBreak: 'break-word' }} title={names.join(', ')}>
          {names[0]}
          {names.length > 1 && ` and ${names.length - 1} more`}: {words}
        </Alert>
      ))}
    </Box>
  );
}

/** What is wrong, in words, each once, with the files it is wrong with. */
function faultsOf({ files }: PackResult): [words: string, names: string[]][] {
  const found = new Map<string, string[]>();
  for (const { name, notes } of files) for (const { kind, words } of notes) if (kind === 'fault') found.set(words, [...(found.get(words) ?? []), name]);
  return [...found];
}

/** Whether a loop closes, in plain words. */
function seamWords({ seam }: CheckResult): string {
  if (!seam) return 'no loop';
  return seam.positionM <= CLOSES_M ? 'closes' : `jumps ${(seam.positionM * 1000).toFixed(2)} mm`;
}

/** Largest step (m) over a seam that still counts as closed, as `./nimbret check` has it. */
const CLOSES_M = 1e-6;

/** One line for what whole frames did to the speeds, with the mend beside it. */
function Rounding({ result, gaitId }: { result: PackResult; gaitId: string }) {
  const store = useDocumentStore();
  const gait = useGait(gaitId);
  const rounded = result.files.flatMap((f) => f.notes.filter((n) => n.kind === 'rounding').map((n) => n.by ?? 0));
  if (rounded.length === 0) return null;
  const [least, most] = extent(rounded);
  const part = (by: number) => `${(Math.abs(by) * 100).toFixed(1)} %`;
  const how = least * most > 0 && part(least) !== part(most) ? `${part(least)} to ${part(most)}` : part(Math.abs(least) > Math.abs(most) ? least : most);
  const way = most <= 0 ? 'slower' : least >= 0 ? 'faster' : 'off';
  const { strideTime } = wholeFrames(gait.timing, result.files[0]!.check.rate);
  return (
    <Typography data-testid="rounding" sx={{ mt: 0.5, fontSize: 12.5, color: 'text.secondary' }}>
      {rounded.length === 1 ? 'One file' : `${rounded.length} files`}: {how} {way} by whole frames.{' '}
      {Math.abs(strideTime - gait.timing.strideTime) > 1e-9 && (
        <Button
          title="Moves the stride time of the gait to a whole number of frames at this rate, so that files and figure agree"
          onClick={() => setTimingValue(store, gaitId, 'strideTime', strideTime, null)}
          sx={{ py: 0, fontSize: 12.5 }}
        >
          Make the gait {strideTime.toFixed(3)} s a stride
        </Button>
      )}
    </Typography>
  );
}
