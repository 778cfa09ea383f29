import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { printsCsv, printsSvg } from '@/core/sheet/prints';
import { useWalk } from '../document/selectors';
import { saveAs } from '../library/actions';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession } from '../stage/session';
import { useStable, useStableActions } from '../stage/use-stable';
import { FootholdsTable } from './footholds-table';
import { usePrintActions } from './print-actions';
import { PrintEditor } from './print-editor';

/** Faults that are told in full. */
const MOST_TOLD = 6;

/** The prints in numbers: each one's place and times, what was changed by hand, what cannot be stepped. */
export function PrintsPage({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const { spec: plan } = useWalk();
  const actions = useStableActions(usePrintActions(motion));
  const chosen = useSession((s) => s.chosen);
  const set = useSession((s) => s.set);
  const { source } = motion;
  // Hundreds of rows follow once the walk stands still; while it is dragged the ribbon tells.
  const [still, setStill] = useState(source);
  if (motion.settled && still !== source) setStill(source);
  const holds = useMemo(() => still.footholds(0, still.duration).filter((h) => h.landing > 0), [still]);
  const choose = useStable((step: number) => set({ chosen: { kind: 'print', key: step } }));
  const { faults } = motion;
  const steps = useMemo(() => chosenPrints(chosen), [chosen]);
  const name = plan.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-') || 'walk';
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      {steps.length === 0 ? (
        <Typography sx={{ color: 'text.secondary' }}>
          Choose a print here, on the ribbon or on the walkway; drag it, turn it by its stalk, or move it with the arrow keys; Q and E turn it, Insert puts one
          before it, Delete leaves it out. With Shift several are chosen.
        </Typography>
      ) : (
        <PrintEditor steps={steps} actions={actions} />
      )}
      {faults.length > 0 && (
        <Box role="status" sx={{ color: 'error.main' }}>
          {faults.slice(0, MOST_TOLD).map((f, i) => (
            <Typography key={i} sx={{ fontSize: 13 }}>
              Step {f.step}, {f.side === 0 ? 'L' : 'R'}: {f.words}
            </Typography>
          ))}
          {faults.length > MOST_TOLD && <Typography sx={{ fontSize: 13 }}>and {faults.length - MOST_TOLD} more</Typography>}
        </Box>
      )}
      {plan.free && (
        <Typography>
          The prints are free of course, pace and rules: the figure walks them as they lie. Its course, kept behind them, can be taken up again.
        </Typography>
      )}
      <Box sx={{ '& .MuiButton-root': { minWidth: 0, px: 0.75 } }}>
        {plan.free ? (
          <Button onClick={actions.tie}>Tie to the course</Button>
        ) : (
          <>
            <Button disabled={motion.trouble !== null} title="From now on each lies where it lies, whatever becomes of the course." onClick={actions.free}>
              Free all
            </Button>
            <Button disabled={plan.edits.length === 0} onClick={actions.resetAll}>
              Reset all
            </Button>
          </>
        )}
        <Button onClick={() => saveAs(`${name}-prints.csv`, printsCsv(source), 'text/csv')}>Table (CSV)</Button>
        <Button onClick={() => saveAs(`${name}-prints.svg`, printsSvg(source), 'image/svg+xml')}>To scale (SVG)</Button>
      </Box>
      <FootholdsTable holds={holds} duration={still.duration} clock={clock} shot={plan.shot} chosen={steps[0] ?? null} onChoose={choose} />
    </Box>
  );
}
