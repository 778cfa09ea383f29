import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import { PLACE_LIMIT_M } from '@/core/course/spec';
import { frameAt, timeOfFrame } from '@/core/steps/frame-numbers';
import { EDIT_RANGES, plainPrintEdit, type PrintEditSpec } from '@/core/steps/print-spec';
import { LONGEST, type PlanSpec } from '@/core/steps/plan';
import { useNames, useWalk } from '../document/selectors';
import { useSession } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { Figures, FiguresGrid } from './cells';
import type { PrintNumber, usePrintActions } from './print-actions';

type Actions = ReturnType<typeof usePrintActions>;
interface Props {
  /** Chosen steps, the one that is told first. */
  readonly steps: readonly number[];
  readonly actions: Actions;
}

const NUMBERS: readonly { field: PrintNumber; label: string; unit: string; by: number; digits: number }[] = [
  { field: 'along', label: 'along', unit: 'm', by: 0.01, digits: 3 },
  { field: 'aside', label: 'left', unit: 'm', by: 0.01, digits: 3 },
  { field: 'turnDeg', label: 'turned', unit: '°', by: 1, digits: 0 },
  { field: 'later', label: 'later', unit: 's', by: 0.01, digits: 2 },
  { field: 'longer', label: 'longer', unit: 's', by: 0.05, digits: 2 },
  { field: 'tempo', label: 'duration', unit: '×', by: 0.05, digits: 2 },
];
const PLACES = [-PLACE_LIMIT_M, PLACE_LIMIT_M] as const;
const HEADINGS = [-3600, 3600] as const;
const AS_THE_WALK = '';
/** Two buttons make steps quicker and slower by so much. */
const QUICKER = 0.9;

/** All about the prints that are chosen: place, times, gait, and what can be done to them. */
export function PrintEditor({ steps, actions }: Props) {
  const { spec: plan } = useWalk();
  const step = steps[0]!;
  const edit = plan.edits.find((e) => e.step === step) ?? plainPrintEdit(step);
  const free = plan.free?.prints[step - 1];
  const chooseGait = useStable((gait: string | null) => actions.setGait(steps, gait));
  if (plan.free && !free) return null;
  return (
    <Box>
      <Typography sx={{ fontWeight: 600 }}>
        Print of step {step}
        {steps.length > 1 && ` and ${steps.length - 1} more`}
        {edit.added && !free && ', put in'}
        {edit.leftOut > 0 && !free && `, ${edit.leftOut} left out before it`}
      </Typography>
      <Doings
        steps={steps}
        actions={actions}
        free={plan.free !== null}
        edited={plan.edits.some((e) => steps.includes(e.step))}
        paste={actions.paste !== null}
      />
      {free ? (
        <FreeNumbers step={step} actions={actions} plan={plan} />
      ) : (
        <FiguresGrid>
          {NUMBERS.map(({ field, label, unit, by, digits }) => (
            <Figures
              key={field}
              name={`Print ${step} ${label}`}
              label={label}
              unit={unit}
              value={edit[field]}
              range={EDIT_RANGES[field]}
              step={by}
              digits={digits}
              onChange={(v) => actions.setNumber(steps, field, v)}
            />
          ))}
        </FiguresGrid>
      )}
      <OwnGait step={step} value={free ? free.gait : edit.gait} onChoose={chooseGait} />
      {!free && <Mark step={step} held={edit.held} actions={actions} shot={plan.shot} />}
    </Box>
  );
}

const Doings = memo(function Doings({ steps, actions, free, edited, paste }: Props & { free: boolean; edited: boolean; paste: boolean }) {
  const step = steps[0]!;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', '& .MuiButton-root': { minWidth: 0, px: 0.75 } }}>
      <Button disabled={free} title="A print is put in before this one; the feet change from there on." onClick={() => actions.add(step)}>
        Add before
      </Button>
      <Button disabled={free} title="The steps around it share the distance." onClick={() => actions.leaveOut(steps)}>
        Leave out
      </Button>
      <Button title="The steps to these prints take a tenth less." onClick={() => actions.scaleTimes(steps, QUICKER)}>
        Quicker
      </Button>
      <Button title="The steps to these prints take a tenth longer." onClick={() => actions.scaleTimes(steps, 1 / QUICKER)}>
        Slower
      </Button>
      <Button disabled={free || !edited} title="Left for right: moved and turned the other way." onClick={() => actions.mirror(steps)}>
        Mirror
      </Button>
      <Button disabled={free || !edited} title="To be put on the prints of this or another walk." onClick={() => actions.copy(steps)}>
        Copy
      </Button>
      <Button disabled={free || !paste} onClick={() => actions.paste?.(step)}>
        Paste
      </Button>
      <Button disabled={free || !edited} onClick={() => actions.reset(steps)}>
        Reset it
      </Button>
    </Box>
  );
});

function FreeNumbers({ step, actions, plan }: { step: number; actions: Actions; plan: PlanSpec }) {
  const print = plan.free!.prints[step - 1]!;
  const last = step === plan.free!.prints.length;
  return (
    <>
      <FiguresGrid>
        <Figures
          name={`Print ${step} ahead`}
          label="ahead"
          digits={3}
          step={0.01}
          value={print.z}
          range={PLACES}
          onChange={(v) => actions.setFree(step, (p) => void (p.z = v))}
        />
        <Figures
          name={`Print ${step} left`}
          label="left"
          digits={3}
          step={0.01}
          value={print.x}
          range={PLACES}
          onChange={(v) => actions.setFree(step, (p) => void (p.x = v))}
        />
        <Figures
          name={`Print ${step} heading`}
          label="heads"
          unit="°"
          digits={0}
          step={1}
          value={print.headingDeg}
          range={HEADINGS}
          onChange={(v) => actions.setFree(step, (p) => void (p.headingDeg = v))}
        />
        <Figures
          name={`Print ${step} lands`}
          label="lands"
          unit="s"
          step={0.01}
          value={print.lands}
          range={[0, LONGEST.time]}
          onChange={(v) => actions.landAt(step, v)}
        />
      </FiguresGrid>
      <FormControlLabel
        control={
          <Switch
            size="small"
            checked={print.rests}
            disabled={last}
            onChange={(_, on) =>
              actions.setFree(step, (p) => {
                p.rests = on;
              })
            }
          />
        }
        label="Rests behind it"
      />
    </>
  );
}

const OwnGait = memo(function OwnGait({ step, value, onChoose }: { step: number; value: string | null; onChoose: (gait: string | null) => void }) {
  const gaits = useNames('gait');
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', alignItems: 'center', gap: 1, mt: 0.5 }}>
      <Typography>Its gait</Typography>
      <Select
        value={gaits.some(([id]) => id === value) ? value! : AS_THE_WALK}
        displayEmpty
        inputProps={{ 'aria-label': `Gait of step ${step}` }}
        onChange={(e) => onChoose(e.target.value === AS_THE_WALK ? null : e.target.value)}
      >
        <MenuItem value={AS_THE_WALK}>as the walk</MenuItem>
        {gaits.map(([id, name]) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
});

/** A mark to hit: where, and at which frame. */
const Mark = memo(function Mark({ step, held, actions, shot }: { step: number; held: PrintEditSpec['held']; actions: Actions; shot: PlanSpec['shot'] }) {
  const fps = useSession((s) => s.fps);
  return (
    <Box>
      <FormControlLabel
        control={<Switch size="small" checked={held !== null} onChange={(_, on) => (on ? actions.hold(step) : actions.release(step))} />}
        label="Mark to hit: held here, whatever the course does"
      />
      {held && (
        <FiguresGrid>
          <Figures
            name={`Mark ${step} ahead`}
            label="ahead"
            digits={3}
            step={0.01}
            value={held.z}
            range={PLACES}
            onChange={(z) => actions.setHeld(step, { z })}
          />
          <Figures
            name={`Mark ${step} left`}
            label="left"
            digits={3}
            step={0.01}
            value={held.x}
            range={PLACES}
            onChange={(x) => actions.setHeld(step, { x })}
          />
          <Figures
            name={`Mark ${step} heading`}
            label="heads"
            unit="°"
            digits={0}
            step={1}
            value={held.headingDeg ?? 0}
            range={HEADINGS}
            onChange={(headingDeg) => actions.setHeld(step, { headingDeg })}
          />
          {held.time !== null && (
            <>
              <Figures
                name={`Mark ${step} frame`}
                label="frame"
                unit="fr"
                digits={1}
                step={1}
                value={frameAt(shot, fps, held.time)}
                range={[frameAt(shot, fps, 0), frameAt(shot, fps, LONGEST.time)]}
                onChange={(frame) => actions.setHeld(step, { time: timeOfFrame(shot, fps, frame) })}
              />
              <Figures
                name={`Mark ${step} time`}
                label="time"
                unit="s"
                step={1 / fps}
                digits={3}
                value={held.time}
                range={[0, LONGEST.time]}
                onChange={(time) => actions.setHeld(step, { time })}
              />
            </>
          )}
        </FiguresGrid>
      )}
    </Box>
  );
});
