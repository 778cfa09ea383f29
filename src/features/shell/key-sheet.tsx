'use client';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play or pause'],
  [', and .', 'One frame back, one frame on'],
  ['[ and ]', 'Previous, next landing or lift-off'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'Undo, redo'],
  ['Delete', 'Remove the key of a curve in focus'],
  ['Arrow keys', 'Step the value in focus; with Shift by ten'],
  ['?', 'This sheet'],
];

/** The sheet of keys. */
export function KeySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="key-sheet">
      <DialogTitle id="key-sheet">Keys</DialogTitle>
      <DialogContent>
        <Table size="small">
          <TableBody>
            {KEYS.map(([key, what]) => (
              <TableRow key={key}>
                <TableCell sx={{ fontWeight: 600 }}>{key}</TableCell>
                <TableCell>{what}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </DialogContent>
    </Dialog>
  );
}
