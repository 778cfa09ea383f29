import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { memo } from 'react';
import { toDegrees, wrapAngle } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { frameShown } from '@/core/steps/frame-numbers';
import type { PlanSpec } from '@/core/steps/plan';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';

interface Props {
  readonly holds: readonly Foothold[];
  /** Length of the plan, s. */
  readonly duration: number;
  readonly clock: Clock;
  /** How the walk's frames are numbered. */
  readonly shot: PlanSpec['shot'];
  /** Step whose print is chosen, and who is told of another. */
  readonly chosen: number | null;
  readonly onChoose: (step: number) => void;
}

/** Rows that are written out; a long walk is looked at on the chart. */
const MOST_ROWS = 400;

/** Footholds of a walk in time; a click chooses the print and goes to its landing. At most so many rows are there at once. Rows are plain elements: there may be hundreds. */
export const FootholdsTable = memo(function FootholdsTable({ holds, duration, clock, shot, chosen, onChoose }: Props) {
  const fps = useSession((s) => s.fps);
  return (
    <Box
      sx={{
        // What is left of the panel under the print that is edited, and never less than a dozen rows.
        maxHeight: 'max(330px, calc(100dvh - 470px))',
        overflow: 'auto',
        borderTop: '1.5px solid',
        borderColor: 'text.primary',
        '& th': { px: 0.5, fontSize: 12.5, whiteSpace: 'nowrap' },
        '& td': { px: 0.5, py: '5px', typography: 'body2', textAlign: 'right', borderBottom: '1px solid', borderColor: 'divider' },
        '& td:nth-of-type(2)': { textAlign: 'left' },
        '& tbody tr': { cursor: 'pointer', '&:hover': { bgcolor: 'action.hover' } },
      }}
      tabIndex={0}
      role="region"
      aria-label="Footholds"
    >
      <Table size="small" stickyHeader>
        <TableHead>
          <TableRow>
            {['Step', 'Foot', 'Ahead m', 'Left m', 'Heads °', 'Lands s', 'Frame', 'Leaves s'].map((h) => (
              <TableCell key={h} align={h === 'Foot' ? 'left' : 'right'}>
                {h}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {holds.slice(0, MOST_ROWS).map((h, i) => (
            <tr
              key={i}
              aria-selected={h.step === chosen}
              style={h.step === chosen ? { background: 'color-mix(in srgb, var(--mui-palette-primary-main) 16%, transparent)' } : undefined}
              onClick={() => {
                onChoose(h.step);
                clock.set(h.landing);
              }}
            >
              <td>{h.step}</td>
              <td title={h.side === 0 ? 'left' : 'right'}>{h.side === 0 ? 'L' : 'R'}</td>
              <td>{h.z.toFixed(3)}</td>
              <td>{h.x.toFixed(3)}</td>
              <td>{toDegrees(wrapAngle(h.heading)).toFixed(0)}</td>
              <td>{h.landing.toFixed(2)}</td>
              <td>{frameShown(shot, fps, h.landing)}</td>
              <td>{h.leaving > duration ? 'stays' : h.leaving.toFixed(2)}</td>
            </tr>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
});
