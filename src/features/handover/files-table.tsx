import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { PackResult } from './use-pack';

/** The files as written, each read back and measured, and the button that saves them. */
export function FilesTable({ result }: { result: PackResult }) {
  const notes = [...new Set(result.files.flatMap((f) => f.notes))];
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
              <TableCell align="right">Seam m</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {result.files.map((f) => (
              <TableRow key={f.name}>
                <TableCell sx={{ wordBreak: 'break-all', fontSize: 12 }}>{f.name}</TableCell>
                <TableCell align="right">{f.check.frames}</TableCell>
                <TableCell align="right">{f.check.slideMm.atFrames?.toFixed(3) ?? '–'}</TableCell>
                <TableCell align="right">{f.check.seam ? f.check.seam.positionM.toExponential(0) : 'no loop'}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      {notes.map((n) => (
        <Typography key={n} sx={{ mt: 0.5, fontSize: 12.5, color: 'text.secondary' }}>
          {n}
        </Typography>
      ))}
    </Box>
  );
}
