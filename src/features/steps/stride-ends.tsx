import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import type { PlanSpec } from '@/core/steps/plan';
import { useNames, useWalkPart } from '../document/selectors';
import { Figures } from './cells';
import { useWalkChange } from './editing';

const STANDING = 'standing';
const OWN = '';
const ENDS = [
  { key: 'opens', label: 'Begins' },
  { key: 'closes', label: 'Ends' },
] as const;

/** Whether the walk begins and ends standing, or in full stride at a picture of a gait's cycle. */
export const StrideEnds = memo(function StrideEnds() {
  const opens = useWalkPart((w) => w.opens);
  const closes = useWalkPart((w) => w.closes);
  return (
    <Box title="In stride, the first or last frame is one of a gait’s cycle, in pose and speed: the walk goes on from there, or into it. 0 % is the left foot’s landing.">
      {ENDS.map((end) => (
        <End key={end.key} end={end.key} label={end.label} value={end.key === 'opens' ? opens : closes} />
      ))}
    </Box>
  );
});

function End({ end, label, value }: { end: 'opens' | 'closes'; label: string; value: PlanSpec['opens'] }) {
  const change = useWalkChange();
  const gaits = useNames('gait');
  const known = value?.gait !== null && gaits.some(([id]) => id === value?.gait);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr auto', alignItems: 'center', gap: 1, mb: 0.5 }}>
      <Typography>{label}</Typography>
      <Select
        value={value === null ? STANDING : known ? value.gait! : OWN}
        displayEmpty
        inputProps={{ 'aria-label': `${label} in` }}
        onChange={(e) =>
          change(`how it ${label.toLowerCase()}`, (p) => {
            const to = e.target.value;
            p[end] = to === STANDING ? null : { gait: to === OWN ? null : to, phase: value?.phase ?? 0 };
          })
        }
      >
        <MenuItem value={STANDING}>standing</MenuItem>
        <MenuItem value={OWN}>in stride, its own gait</MenuItem>
        {gaits.map(([id, name]) => (
          <MenuItem key={id} value={id}>
            in stride, {name}
          </MenuItem>
        ))}
      </Select>
      {value && (
        <Figures
          name={`${label} at phase`}
          label=""
          unit="%"
          digits={0}
          step={5}
          value={value.phase * 100}
          range={[0, 100]}
          onChange={(v) =>
            change(`how it ${label.toLowerCase()}`, (p) => {
              const to = p[end];
              if (to) to.phase = v / 100;
            })
          }
        />
      )}
    </Box>
  );
}
