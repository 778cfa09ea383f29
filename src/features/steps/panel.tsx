'use client';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { defaultPlan, ENDS_RANGES, STEP_COUNT_RANGE, type PlanSpec } from '@/core/steps/plan';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useGaitFor, useSole } from '../document/selectors';
import { editItem } from '../document/store';
import { GaitChoice } from '../library/gait-choice';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { FootholdsTable } from './footholds-table';

const ENDS = [
  { key: 'lean', label: 'Start and stop lean', tooltip: 'How far the body leans for the speed it gains and loses, as a part of what balance asks for.' },
  { key: 'settle', label: 'Settling', tooltip: 'How much the body sways out after the stop and breathes while it stands; none at all leaves it still.' },
  { key: 'standing', label: 'Standing time', tooltip: 'How long the figure stands before its first step and after its last one, against the shortest time.' },
] as const;

/** The Steps station: a straight plan from standing to standing, and its footholds in time. */
export function StepsPanel({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const store = useDocumentStore();
  const { id, spec: plan } = useSole('plan');
  const gaitId = useGaitFor(plan.gait);
  const change = (label: string, recipe: (p: PlanSpec) => void, mark: string | null = null) => editItem<'plan'>(store, id, label, recipe, mark);
  const { source } = motion;
  const holds = useMemo(() => source.footholds(0, source.duration).filter((h) => h.landing > 0), [source]);
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Typography variant="h2">Straight plan</Typography>
      <ChannelStrip
        path="plan.steps"
        label="Number of steps"
        tooltip="Steps the figure makes, the last one closing its feet; it stands before and after. A hop lands both feet in one."
        unit="count"
        range={STEP_COUNT_RANGE}
        value={plan.steps}
        fallback={defaultPlan().steps}
        onChange={(v, mark) => change('steps', (p) => void (p.steps = v), mark)}
      />
      <Box>
        {ENDS.map(({ key, label, tooltip }) => (
          <ChannelStrip
            key={key}
            path={`plan.${key}`}
            label={label}
            tooltip={tooltip}
            unit="share"
            range={ENDS_RANGES[key]}
            value={plan[key]}
            fallback={defaultPlan()[key]}
            onChange={(v, mark) => change(label.toLowerCase(), (p) => void (p[key] = v), mark)}
          />
        ))}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', alignItems: 'center', gap: 1 }}>
        <Typography>First foot</Typography>
        <ToggleButtonGroup
          size="small"
          exclusive
          value={plan.firstFoot}
          aria-label="First foot"
          onChange={(_, v: 'left' | 'right' | null) => v && change('first foot', (p) => void (p.firstFoot = v))}
        >
          <ToggleButton value="left" sx={{ borderRadius: 4, px: 2 }}>
            L left
          </ToggleButton>
          <ToggleButton value="right" sx={{ px: 2 }}>
            R right
          </ToggleButton>
        </ToggleButtonGroup>
        <Typography>Gait</Typography>
        <GaitChoice label="Gait of the plan" value={gaitId} onChoose={(g) => change('gait', (p) => void (p.gait = g))} />
      </Box>
      <Typography sx={{ color: 'text.secondary' }}>
        From standing to standing: {motion.duration.toFixed(2)} s over {(holds[holds.length - 1]?.z ?? 0).toFixed(2)} m. The body gets going and comes to rest
        as a pendulum over its feet does.
      </Typography>
      <FootholdsTable holds={holds} duration={source.duration} clock={clock} />
    </Box>
  );
}
