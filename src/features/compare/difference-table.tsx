import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { Difference } from '@/core/gait/compare';
import { shownUnit } from '../channel/units';

/** The values in which the gait differs from a saved state. */
export function DifferenceTable({ differing, version }: { differing: readonly Difference[]; version: number }) {
  if (differing.length === 0) return <Typography sx={{ fontSize: 13, mt: 0.5 }}>The gait is as it was in state {version}.</Typography>;
  const show = (d: Difference, v: number | null) => {
    if (v === null) return '–';
    const unit = shownUnit(d.unit, d.path);
    return `${unit.toScreen(v).toFixed(unit.digits)} ${unit.label}`;
  };
  return (
    <Table size="small" sx={{ mt: 0.5 }} aria-label={`Differences from state ${version}`}>
      <TableHead>
        <TableRow>
          <TableCell>Value</TableCell>
          <TableCell align="right">state {version}</TableCell>
          <TableCell align="right">now</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {differing.map((d) => (
          <TableRow key={`${d.path} ${d.side ?? ''}`}>
            <TableCell>
              {d.side ? `${d.side === 'left' ? 'L' : 'R'} ` : ''}
              {d.label}
            </TableCell>
            <TableCell align="right">{show(d, d.before)}</TableCell>
            <TableCell align="right">{d.before === null ? 'redrawn' : show(d, d.after)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
