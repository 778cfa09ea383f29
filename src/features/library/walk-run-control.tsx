import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import { useMemo } from 'react';
import { alongWalkRun, walkRunPlace, WALK_RUN_RANGE } from '@/core/gait/walk-run';
import { NumberField } from '../channel/number-field';
import { useBaseline } from '../cycle/baseline';
import { useGait } from '../document/selectors';

const MARKS = [
  { value: 0, label: 'walk' },
  { value: 1, label: 'run' },
  { value: 2, label: 'sprint' },
];

/** One control from a walk to a run and beyond; what sets the gait apart from plain ones stays. */
export function WalkRunControl({ gaitId }: { gaitId: string }) {
  const gait = useGait(gaitId);
  const place = useMemo(() => walkRunPlace(gait), [gait]);
  const control = useBaseline(gaitId, gait, place);
  const move = (v: number) => control.apply(v, 'walk to run', (base, start) => alongWalkRun(base, start, v));
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 3.5, px: 1.5, '& .MuiSlider-markLabel': { fontSize: 12 } }}>
      <Slider
        size="small"
        aria-label="From walk to run"
        min={WALK_RUN_RANGE[0]}
        max={WALK_RUN_RANGE[1]}
        step={0.01}
        marks={MARKS}
        value={control.value}
        onChange={(_, v) => move(v as number)}
      />
      <NumberField
        label="From walk to run, number"
        value={control.value}
        digits={2}
        step={0.05}
        min={WALK_RUN_RANGE[0]}
        max={WALK_RUN_RANGE[1]}
        onChange={move}
      />
    </Box>
  );
}
