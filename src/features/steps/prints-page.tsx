import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { printsCsv, printsSvg } from '@/core/sheet/prints';
import { printFaults } from '@/core/steps/faults';
import { EDIT_RANGES } from '@/core/steps/print-spec';
import { useWalk } from '../document/selectors';
import { saveAs } from '../library/actions';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { Figures, FiguresGrid } from './cells';
import { editOf, useWalkChange } from './editing';
import { FootholdsTable } from './footholds-table';

/** The prints in numbers: each one's place and times, what was moved by hand, what cannot be stepped. */
export function PrintsPage({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const { spec: plan } = useWalk();
  const change = useWalkChange();
  const chosen = useSession((s) => s.chosen);
  const set = useSession((s) => s.set);
  const { source } = motion;
  const holds = useMemo(() => source.footholds(0, source.duration).filter((h) => h.landing > 0), [source]);
  const faults = useMemo(() => printFaults(source), [source]);
  const step = chosen?.kind === 'print' ? chosen.key : null;
  const more = chosen?.kind === 'print' ? (chosen.more ?? []) : [];
  const edit = plan.edits.find((e) => e.step === step) ?? { along: 0, aside: 0, turnDeg: 0 };
  const name = plan.name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-') || 'walk';
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      {step === null ? (
        <Typography sx={{ color: 'text.secondary' }}>
          Choose a print here or on the ribbon; drag it there, turn it by its stalk, or move it with the arrow keys; Q and E turn it. With Shift several are
          chosen.
        </Typography>
      ) : (
        <Box>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Typography sx={{ fontWeight: 600, flex: 1 }}>
              Print of step {step}
              {more.length > 0 && ` and ${more.length} more`}
            </Typography>
            {more.length > 0 && (
              <Button
                title="Left for right: the chosen prints are moved and turned the other way."
                onClick={() =>
                  change('mirror prints', (p) => {
                    for (const e of p.edits) if (e.step === step || more.includes(e.step)) [e.aside, e.turnDeg] = [-e.aside, -e.turnDeg];
                  })
                }
              >
                Mirror
              </Button>
            )}
            <Button
              disabled={!plan.edits.some((e) => e.step === step || more.includes(e.step))}
              onClick={() => change('reset a print', (p) => void (p.edits = p.edits.filter((e) => e.step !== step && !more.includes(e.step))))}
            >
              Reset it
            </Button>
          </Box>
          <FiguresGrid>
            {(
              [
                ['along', 'along', 'm', 0.01],
                ['aside', 'left', 'm', 0.01],
                ['turnDeg', 'turned', '°', 1],
              ] as const
            ).map(([field, label, unit, by]) => (
              <Figures
                key={field}
                name={`Print ${step} ${label}`}
                label={label}
                unit={unit}
                value={edit[field]}
                range={EDIT_RANGES[field]}
                step={by}
                digits={unit === '°' ? 0 : 3}
                onChange={(v) => change('move a print', (p) => void (editOf(p, step)[field] = v))}
              />
            ))}
          </FiguresGrid>
        </Box>
      )}
      {faults.length > 0 && (
        <Box role="status" sx={{ color: 'error.main' }}>
          {faults.slice(0, 6).map((f, i) => (
            <Typography key={i} sx={{ fontSize: 13 }}>
              Step {f.step}, {f.side === 0 ? 'L' : 'R'}: {f.words}
            </Typography>
          ))}
          {faults.length > 6 && <Typography sx={{ fontSize: 13 }}>and {faults.length - 6} more</Typography>}
        </Box>
      )}
      <Box>
        <Button disabled={plan.edits.length === 0} onClick={() => change('reset all prints', (p) => void (p.edits = []))}>
          Reset all
        </Button>
        <Button onClick={() => saveAs(`${name}-prints.csv`, printsCsv(source), 'text/csv')}>Table (CSV)</Button>
        <Button onClick={() => saveAs(`${name}-prints.svg`, printsSvg(source), 'image/svg+xml')}>To scale (SVG)</Button>
      </Box>
      <FootholdsTable holds={holds} duration={source.duration} clock={clock} chosen={step} onChoose={(s) => set({ chosen: { kind: 'print', key: s } })} />
    </Box>
  );
}
