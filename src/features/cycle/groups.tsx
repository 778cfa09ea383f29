import AddIcon from '@mui/icons-material/Add';
import RemoveIcon from '@mui/icons-material/Remove';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import FormControlLabel from '@mui/material/FormControlLabel';
import InputBase from '@mui/material/InputBase';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { memo, useState } from 'react';
import { isSplit, readValue } from '@/core/gait/access';
import { PARAMETER_LIST, type Group, type ParameterEntry } from '@/core/gait/parameters';
import { HELD, type GaitSpec } from '@/core/gait/spec';
import { useGaitWatching } from '../document/selectors';
import { defaultsOf } from './defaults';
import { SIDE_CHOICES, type SideChoice } from './editing';
import { ParameterStrips, type Playing } from './parameter-strips';

// Opened on demand.
const CarryChoice = dynamic(() => import('./carry').then((m) => m.CarryChoice));
const SoleStrips = dynamic(() => import('./sole-strips').then((m) => m.SoleStrips));

const TITLES: Partial<Record<Group, string>> = {
  timing: 'Limbs',
  feet: 'Feet',
  hips: 'Hips',
  legs: 'Knees',
  trunk: 'Trunk',
  arms: 'Arms',
  head: 'Head',
  follow: 'Follow-through',
  props: 'Props',
};
const ABOVE = new Set<string>([...HELD, 'dutyFactor'].map((k) => `timing.${k}`));

/** Whether a parameter answers the words typed into the search box. */
function answers({ path, parameter: p }: ParameterEntry, title: string, words: string): boolean {
  const text = `${title} ${p.label} ${p.tooltip} ${path}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
}

/** Whether a parameter, on either side, is other than its default. */
function departs(entry: ParameterEntry, gait: GaitSpec, defaults: GaitSpec): boolean {
  if (isSplit(gait, entry.path) !== isSplit(defaults, entry.path)) return true;
  const text = (of: GaitSpec, side: SideChoice) => JSON.stringify(readValue(of, entry, side));
  return SIDE_CHOICES.some((side) => text(gait, side) !== text(defaults, side));
}

/** Paths of all that departs. */
const departing = (gait: GaitSpec): string[] => PARAMETER_LIST.filter((e) => departs(e, gait, defaultsOf(gait))).map((e) => e.path);

/** A folding group of strips for each group of the parameter table, searched and narrowed; directions belong to their own station. */
export const ParameterGroups = memo(function ParameterGroups({ gaitId, clock, duration }: { gaitId: string } & Playing) {
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(['feet', 'hips']));
  const [words, setWords] = useState('');
  const [changed, setChanged] = useState(false);
  const narrowed = words.trim() !== '' || changed;
  const gait = useGaitWatching(gaitId, (g) => (changed ? departing(g) : null));
  const kept = changed ? new Set(departing(gait)) : null;
  const groups = (Object.entries(TITLES) as [Group, string][]).map(([group, title]) => {
    const entries = PARAMETER_LIST.filter((e) => e.group === group && !ABOVE.has(e.path)).filter(
      (e) => answers(e, title, words.trim()) && (!kept || kept.has(e.path)),
    );
    return { group, title, entries };
  });
  const shown = groups.filter((g) => !narrowed || g.entries.length > 0);
  return (
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, py: 0.25 }}>
        <InputBase
          value={words}
          onChange={(e) => setWords(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setWords('')}
          placeholder="Find a value"
          inputProps={{ 'aria-label': 'Find a value' }}
          sx={{ flex: 1, fontSize: 13, borderBottom: 1, borderColor: 'divider' }}
        />
        <FormControlLabel
          label="changed only"
          control={<Switch size="small" checked={changed} onChange={(_, on) => setChanged(on)} />}
          sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
        />
      </Box>
      {shown.length === 0 && (
        <Typography sx={{ fontSize: 13, color: 'text.secondary', mt: 1 }}>
          {changed ? 'Nothing here departs from the preset.' : 'No value fits these words.'}
        </Typography>
      )}
      {shown.map(({ group, title, entries }) => {
        const isOpen = narrowed || open.has(group);
        const toggle = () => setOpen((was) => new Set(isOpen ? [...was].filter((g) => g !== group) : [...was, group]));
        return (
          <Box key={group} component="section" aria-label={title} sx={{ mt: 1 }}>
            <ButtonBase
              onClick={toggle}
              aria-expanded={isOpen}
              sx={{ width: 1, justifyContent: 'space-between', borderBottom: '1.5px solid', borderColor: 'text.primary', py: 0.25 }}
            >
              <Typography component="h3" variant="h3">
                {title}
              </Typography>
              {isOpen ? <RemoveIcon sx={{ fontSize: 16 }} /> : <AddIcon sx={{ fontSize: 16 }} />}
            </ButtonBase>
            {isOpen && !narrowed && group === 'props' && <CarryChoice gaitId={gaitId} />}
            {isOpen && entries.map((entry) => <ParameterStrips key={entry.path} entry={entry} gaitId={gaitId} clock={clock} duration={duration} />)}
            {isOpen && !narrowed && group === 'feet' && <SoleStrips />}
          </Box>
        );
      })}
    </Box>
  );
});
