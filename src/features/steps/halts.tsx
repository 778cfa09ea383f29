import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { memo } from 'react';
import { LONGEST, REST_RANGE, type PlanSpec } from '@/core/steps/plan';
import { Figures, rowSx } from './cells';
import { useWalkChange } from './editing';
import { Head } from './track-keys';

/** Rests on the way. */
export const Halts = memo(function Halts({ halts }: { halts: PlanSpec['halts'] }) {
  const change = useWalkChange();
  return (
    <Box>
      <Head label="Rests" about="The figure closes its feet at a distance along the course, stands, and goes on.">
        <Button onClick={() => change('add a rest', (p) => void p.halts.push({ at: (p.halts[p.halts.length - 1]?.at ?? 0) + 3, rest: 2 }))}>Add a rest</Button>
      </Head>
      {halts.map((halt, i) => (
        <Box key={i} data-halt={i} sx={{ ...rowSx(false), display: 'flex', gap: 1 }}>
          <Figures
            name={`Rest ${i + 1} at`}
            label="at"
            value={halt.at}
            range={[i > 0 ? halts[i - 1]!.at + 0.01 : 0, halts[i + 1] ? halts[i + 1]!.at - 0.01 : LONGEST.distance]}
            step={0.25}
            onChange={(v) => change('move a rest', (p) => void (p.halts[i]!.at = v))}
          />
          <Figures
            name={`Rest ${i + 1} for`}
            label="for"
            unit="s"
            value={halt.rest}
            range={REST_RANGE}
            step={0.1}
            onChange={(v) => change('length of a rest', (p) => void (p.halts[i]!.rest = v))}
          />
          <Button aria-label={`Remove rest ${i + 1}`} onClick={() => change('remove a rest', (p) => void p.halts.splice(i, 1))} sx={{ minWidth: 0 }}>
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
});
