import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { plausibility, type JointComparison, type ValueComparison } from '@/core/measure/plausibility';
import { useAfterPaint } from '../stage/after-paint';
import type { StageMotion } from '../stage/motion';
import { JointChart } from './joint-chart';

/** The gait over the published curves and values of its kind: what departs and by how much. Style is allowed. */
export function PlausibilityPanel({ motion }: { motion: StageMotion }) {
  const found = useAfterPaint(motion.source, plausibility);
  if (!found) return <Box data-testid="plausibility" aria-busy sx={{ minHeight: 600 }} />;
  const departing = found.values.filter((v) => v.departs !== 0);
  return (
    <Box data-testid="plausibility">
      <Typography sx={{ fontSize: 13, mt: 0.5 }}>
        {found.kind === 'walk'
          ? 'Over the curves of level walking at free speed (mean and about one deviation between people).'
          : 'Joint angles of this run; no published curves of running are at hand, its values are below.'}{' '}
        {departing.length === 0 ? 'Every value lies where people’s do.' : `${departing.length} of ${found.values.length} values depart. Style is allowed.`}
      </Typography>
      {found.joints.map((j) => (
        <Box key={j.joint} sx={{ mt: 0.5 }}>
          <Typography sx={{ fontSize: 13 }} data-joint={j.joint}>
            <b>{j.joint}</b>
            {j.rms !== null && `: ${j.rms.toFixed(1)}° from the mean (RMS)${worstOf(j)}`}
          </Typography>
          <JointChart comparison={j} />
        </Box>
      ))}
      <ValueTable values={found.values} />
    </Box>
  );
}

const worstOf = ({ worst }: JointComparison): string =>
  worst ? `; most at ${worst.percent} % of the stride, ${worst.degrees > 0 ? '+' : '−'}${Math.abs(worst.degrees).toFixed(0)}°` : '';

function ValueTable({ values }: { values: readonly ValueComparison[] }) {
  return (
    <Table size="small" aria-label="Values beside published ones" sx={{ mt: 1 }}>
      <TableHead>
        <TableRow>
          <TableCell>Value</TableCell>
          <TableCell align="right">here</TableCell>
          <TableCell align="right">published</TableCell>
          <TableCell align="right">departs</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {values.map((v) => (
          <TableRow key={v.label} title={v.source}>
            <TableCell>{v.label}</TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              {v.value.toFixed(v.digits)} {v.unit}
            </TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              {v.low.toFixed(v.digits)}–{v.high.toFixed(v.digits)}
            </TableCell>
            <TableCell
              align="right"
              sx={{ whiteSpace: 'nowrap', color: v.departs === 0 ? 'success.main' : 'text.primary', fontWeight: v.departs === 0 ? 400 : 600 }}
            >
              {v.departs === 0 ? 'no' : `${v.departs > 0 ? '+' : '−'}${Math.abs(v.departs).toFixed(v.digits)}`}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
