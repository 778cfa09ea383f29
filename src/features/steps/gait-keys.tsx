import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { memo } from 'react';
import { LONGEST, type PlanSpec } from '@/core/steps/plan';
import { useDocument } from '../document/context';
import { gaitFor } from '../document/selectors';
import { GaitChoice } from '../library/gait-choice';
import { Figures, rowSx } from './cells';
import { addGaitKey, useWalkChange } from './editing';
import { Head } from './track-keys';

/** Gaits the walk goes over into on its way. */
export const GaitKeys = memo(function GaitKeys({ gaits, gait }: Pick<PlanSpec, 'gaits' | 'gait'>) {
  const change = useWalkChange();
  const own = useDocument((s) => gaitFor(s, gait));
  const add = () => change('add a gait', (p) => addGaitKey(p, own));
  return (
    <Box>
      <Head label="Gaits" about="From one gait into another within the walk, at a distance along the course.">
        <Button onClick={add}>Add a gait</Button>
      </Head>
      {gaits.map((key, i) => (
        <Box key={i} data-gait-key={i} sx={{ ...rowSx(false), display: 'flex', flexWrap: 'wrap', gap: 0.5, alignItems: 'center' }}>
          <GaitValue
            value={key.gait}
            label={`Gait ${i + 1} of the walk`}
            onChoose={(g) => change('gait along the course', (p) => void (p.gaits[i]!.gait = g))}
          />
          <Figures
            name={`Gait ${i + 1} from`}
            label="from"
            value={key.at}
            range={[i > 0 ? gaits[i - 1]!.at + 0.01 : 0, gaits[i + 1] ? gaits[i + 1]!.at - 0.01 : LONGEST.distance]}
            step={0.25}
            onChange={(v) => change('gait along the course', (p) => void (p.gaits[i]!.at = v))}
          />
          <Figures
            name={`Gait ${i + 1} over`}
            label="over"
            value={key.stretch}
            range={[0, 50]}
            step={0.25}
            onChange={(v) => change('gait along the course', (p) => void (p.gaits[i]!.stretch = v))}
          />
          <Button aria-label={`Remove gait ${i + 1}`} onClick={() => change('remove a gait', (p) => void p.gaits.splice(i, 1))} sx={{ minWidth: 0 }}>
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
});

function GaitValue({ value, label, onChoose }: { value: string; label: string; onChoose: (id: string) => void }) {
  const known = useDocument((s) => gaitFor(s, value));
  return <GaitChoice label={label} value={known} onChoose={onChoose} />;
}
