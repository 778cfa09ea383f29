import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { memo, useMemo } from 'react';
import { defaultPlan, ENDS_RANGES, type PlanSpec } from '@/core/steps/plan';
import { STEP_COUNT_RANGE } from '@/core/steps/print-spec';
import { ChannelStrip } from '../channel/strip';
import { useDocument } from '../document/context';
import { planIdOf, useGaitFor, useNames, useWalkPart } from '../document/selectors';
import { GaitChoice } from '../library/gait-choice';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { Figures, FiguresGrid } from './cells';
import { onFrame, useWalkChange } from './editing';
import { LeadStart } from './lead-start';
import { StrideEnds } from './stride-ends';

const ENDS = [
  { key: 'lean', label: 'Start and stop lean', tooltip: 'How far the body leans for the speed it gains and loses, as a part of what balance asks for.' },
  { key: 'settle', label: 'Settling', tooltip: 'How much the body sways out after the stop and breathes while it stands; none at all leaves it still.' },
  { key: 'standing', label: 'Standing time', tooltip: 'How long the figure stands before its first step and after its last one, against the shortest time.' },
] as const;
/** Steps a slider goes to; more are typed. */
const SLIDES = [STEP_COUNT_RANGE[0], 200] as const;
const PROJECT_BODY = 'project';
const NOBODY = 'nobody';

/** The simplest start: how many steps, which foot first, which gait. Each part is rendered only when what it shows changes. */
export function RulesPage({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const plan = useWalkPart((w) => w);
  // What is told of the walk is told of the one that is shown: a newer one may be on its way.
  const told = motion.part.plans.plan ?? plan;
  const steps = useMemo(() => motion.source.footholds(0, motion.duration).reduce((most, h) => Math.max(most, h.step), 0), [motion]);
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Extent count={plan.steps} now={useStable(() => steps)} />
      <Who firstFoot={plan.firstFoot} gait={plan.gait} body={plan.body} />
      <Beside />
      <StrideEnds />
      <Ends lean={plan.lean} settle={plan.settle} standing={plan.standing} />
      <Shot shot={plan.shot} duration={motion.duration} />
      <LeadStart motion={useStable(() => motion)} canWalk={motion.trouble === null} clock={clock} />
      <Typography sx={{ color: 'text.secondary' }}>
        {motion.arriving ? (
          'The walk is being planned.'
        ) : (
          <>
            {told.opens && !told.free ? 'From stride' : 'From standing'} to {told.closes && !told.free ? 'stride' : 'standing'}: {steps} steps,{' '}
            {motion.duration.toFixed(2)} s over {motion.source.travelled(motion.duration).toFixed(2)} m from start to end. The body gets going and comes to rest
            as a pendulum over its feet does.
          </>
        )}
      </Typography>
    </Box>
  );
}

/** Where the walk ends: with its course, or after so many steps. `now` gives the steps it has at present. */
const Extent = memo(function Extent({ count, now }: { count: number | null; now: () => number }) {
  const change = useWalkChange();
  return (
    <>
      <FormControlLabel
        control={
          <Switch size="small" checked={count === null} onChange={(_, on) => change('where it ends', (p) => void (p.steps = on ? null : Math.max(2, now())))} />
        }
        label="To the end of the course"
      />
      {count !== null && (
        <ChannelStrip
          path="plan.steps"
          label="Number of steps"
          tooltip="Steps the figure makes, the last one closing its feet; it stands before and after. A hop lands both feet in one."
          unit="count"
          range={STEP_COUNT_RANGE}
          slides={SLIDES}
          value={count}
          fallback={defaultPlan().steps!}
          onChange={(v, mark) => change('steps', (p) => void (p.steps = v), mark)}
        />
      )}
    </>
  );
});

const COLUMNS = { display: 'grid', gridTemplateColumns: '110px 1fr', alignItems: 'center', gap: 1 } as const;

/** Who walks, how, and with which foot first. */
const Who = memo(function Who({ firstFoot, gait, body }: Pick<PlanSpec, 'firstFoot' | 'gait' | 'body'>) {
  const change = useWalkChange();
  const gaitId = useGaitFor(gait);
  const bodies = useNames('body');
  return (
    <Box sx={COLUMNS}>
      <Typography>First foot</Typography>
      <ToggleButtonGroup
        size="small"
        exclusive
        value={firstFoot}
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
      <GaitChoice label="Gait of the walk" value={gaitId} onChoose={(g) => change('gait', (p) => void (p.gait = g))} />
      <Typography>Body</Typography>
      <Select
        value={body !== null && bodies.some(([id]) => id === body) ? body : PROJECT_BODY}
        inputProps={{ 'aria-label': 'Body of the walk' }}
        onChange={(e) => change('body', (p) => void (p.body = e.target.value === PROJECT_BODY ? null : e.target.value))}
      >
        <MenuItem value={PROJECT_BODY}>as the project</MenuItem>
        {bodies.map(([id, name]) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
});

/** Another walk that is shown with it. */
const Beside = memo(function Beside() {
  const id = useDocument(planIdOf);
  const walks = useNames('plan');
  const beside = useSession((s) => s.beside);
  const set = useSession((s) => s.set);
  if (walks.length < 2) return null;
  return (
    <Box sx={COLUMNS}>
      <Typography>Beside it</Typography>
      <Select
        value={beside !== null && walks.some(([w]) => w === beside && w !== id) ? beside : NOBODY}
        inputProps={{ 'aria-label': 'Walk beside it' }}
        onChange={(e) => set({ beside: e.target.value === NOBODY ? null : e.target.value })}
      >
        <MenuItem value={NOBODY}>nobody</MenuItem>
        {walks
          .filter(([w]) => w !== id)
          .map(([w, name]) => (
            <MenuItem key={w} value={w}>
              {name}
            </MenuItem>
          ))}
      </Select>
    </Box>
  );
});

const Ends = memo(function Ends(values: Pick<PlanSpec, (typeof ENDS)[number]['key']>) {
  const change = useWalkChange();
  return (
    <Box>
      {ENDS.map(({ key, label, tooltip }) => (
        <ChannelStrip
          key={key}
          path={`plan.${key}`}
          label={label}
          tooltip={tooltip}
          unit="share"
          range={ENDS_RANGES[key]}
          value={values[key]}
          fallback={defaultPlan()[key]}
          onChange={(v, mark) => change(label.toLowerCase(), (p) => void (p[key] = v), mark)}
        />
      ))}
    </Box>
  );
});

/** What of the walk is handed over. */
const Shot = memo(function Shot({ shot, duration }: { shot: PlanSpec['shot']; duration: number }) {
  const change = useWalkChange();
  const fps = useSession((s) => s.fps);
  return (
    <Box>
      <Typography variant="h3" title="What of the walk is handed over, and what its first frame is called. A shot may end in mid-stride.">
        Shot
      </Typography>
      <FiguresGrid>
        <Figures
          name="First frame"
          label="first"
          unit="fr"
          digits={0}
          step={1}
          value={shot.firstFrame}
          range={[-100_000, 100_000]}
          onChange={(v) => change('first frame', (p) => void (p.shot.firstFrame = Math.round(v)))}
        />
        <Figures
          name="Shot from"
          label="from"
          unit="s"
          step={1 / fps}
          digits={3}
          value={shot.from ?? 0}
          range={[0, duration]}
          onChange={(v) => change('where the shot begins', (p) => void (p.shot.from = v > 0 ? onFrame(v, fps) : null))}
        />
        <Figures
          name="Shot to"
          label="to"
          unit="s"
          step={1 / fps}
          digits={3}
          value={Math.min(shot.to ?? duration, duration)}
          range={[0, duration]}
          onChange={(v) => change('where the shot ends', (p) => void (p.shot.to = v < duration ? onFrame(v, fps) : null))}
        />
      </FiguresGrid>
    </Box>
  );
});
