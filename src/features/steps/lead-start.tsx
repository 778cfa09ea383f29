import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo, useMemo, useState } from 'react';
import { specOf, useDocumentStore } from '../document/context';
import { planIdOf, useNames, useSpecs } from '../document/selectors';
import type { Clock } from '../stage/clock';
import { useEngine } from '../stage/measure';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { fastGaits, Leading } from './leading';

interface Props {
  /** The walk that is shown. */
  readonly motion: () => StageMotion;
  readonly canWalk: boolean;
  readonly clock: Clock;
}

/** The figure led by hand: slowly in the walk's gait, fast in another one. */
export const LeadStart = memo(function LeadStart({ motion: shown, canWalk, clock }: Props) {
  const store = useDocumentStore();
  const gaits = useSpecs('gait');
  const names = useNames('gait');
  const engine = useEngine();
  const set = useSession((s) => s.set);
  const [chosen, setChosen] = useState<string | null>(null);
  const fast = useMemo(() => fastGaits(gaits), [gaits]);
  const fastId = chosen !== null && fast.includes(chosen) ? chosen : fast[0];
  const start = () => {
    const motion = shown();
    const plan = specOf(store.getState(), 'plan', planIdOf(store.getState()));
    const fail = (words: string) => set({ led: null, notice: { text: words, undo: false } });
    try {
      const led = new Leading(
        motion,
        clock,
        engine,
        plan,
        fastId === undefined ? { id: plan.gait, gait: motion.gait } : { id: fastId, gait: gaits[fastId]! },
        fail,
      );
      clock.set(0);
      set({ led, playing: true, rate: 1, treadmill: false, chosen: null });
      // The keys are the figure's now.
      (document.activeElement as HTMLElement | null)?.blur();
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      fail(error.message.replace(/^\w+: /, ''));
    }
  };
  return (
    <Box>
      <Typography variant="h3" title="The figure follows the pointer over this walk’s ground, from where it is now. What it walks can be kept as a walk.">
        By hand
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr auto', alignItems: 'center', gap: 1 }}>
        <Typography>Run gait</Typography>
        <Select value={fastId ?? ''} displayEmpty inputProps={{ 'aria-label': 'Gait of a fast lead' }} onChange={(e) => setChosen(e.target.value)}>
          {fast.length === 0 && <MenuItem value="">its own gait</MenuItem>}
          {names
            .filter(([id]) => fast.includes(id))
            .map(([id, name]) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
        </Select>
        <Button variant="outlined" disabled={!canWalk} onClick={start}>
          Lead it
        </Button>
      </Box>
    </Box>
  );
});
