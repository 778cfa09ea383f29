'use client';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { FOCUS_KEYS, KEY_TABLE } from './key-table';

/** The sheet of keys. */
export function KeySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const groups: (readonly [string, readonly (readonly [string, string])[]])[] = [
    ...KEY_TABLE.map(([group, entries]) => [group, entries.map((e) => [e.shown, e.what] as const)] as const),
    ['In the panel', FOCUS_KEYS],
  ];
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="key-sheet" maxWidth="md">
      <DialogTitle id="key-sheet">Keys</DialogTitle>
      <DialogContent>
        <Box sx={{ columns: { xs: 1, sm: 2 }, columnGap: 4 }}>
          {groups.map(([group, rows]) => (
            <Box key={group} sx={{ breakInside: 'avoid', mb: 1.5 }}>
              <Typography component="h3" variant="h3">
                {group}
              </Typography>
              <Table size="small" aria-label={`Keys: ${group}`}>
                <TableBody>
                  {rows.map(([key, what]) => (
                    <TableRow key={key}>
                      <TableCell sx={{ fontWeight: 600, width: 130 }}>{key}</TableCell>
                      <TableCell>{what}</TableCell>
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            </Box>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
