import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { DELAY_RANGE, PARAMETER_LIST, type Channel, type Group, type ParameterEntry } from '@/core/gait/parameters';
import { HELD, type GaitSpec } from '@/core/gait/spec';
import { Miniature } from '../channel/miniature';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import { useDefaults } from './defaults';
import { setParameter } from './editing';

const TITLES: Partial<Record<Group, string>> = { timing: 'Limbs', feet: 'Feet', hips: 'Hips', legs: 'Knees', trunk: 'Trunk', arms: 'Arms', head: 'Head' };
const ABOVE = new Set<string>([...HELD, 'dutyFactor'].map((k) => `timing.${k}`));

/** A folding group of strips for each group of the parameter table; directions belong to their own station. */
export function ParameterGroups({ gaitId }: { gaitId: string }) {
  const gait = useGait(gaitId);
  const defaults = useDefaults(gait);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(['feet', 'hips']));
  return (
    <Box>
      {Object.entries(TITLES).map(([group, title]) => {
        const isOpen = open.has(group);
        const toggle = () => setOpen((was) => new Set(isOpen ? [...was].filter((g) => g !== group) : [...was, group]));
        return (
          <Box key={group} component="section" sx={{ mt: 1 }}>
            <ButtonBase
              onClick={toggle}
              aria-expanded={isOpen}
              sx={{ width: 1, justifyContent: 'space-between', borderBottom: '1.5px solid', borderColor: 'text.primary', py: 0.25 }}
            >
              <Typography component="h3" variant="h3">
                {title}
              </Typography>
              <span aria-hidden>{isOpen ? '–' : '+'}</span>
            </ButtonBase>
            {isOpen &&
              PARAMETER_LIST.filter((e) => e.group === group && !ABOVE.has(e.path)).map((entry) => (
                <Strips key={entry.path} entry={entry} gaitId={gaitId} gait={gait} defaults={defaults} />
              ))}
          </Box>
        );
      })}
    </Box>
  );
}

/** One strip for a scalar; for a channel its amount with the curve, and offset and delay below. */
function Strips({ entry, gaitId, gait, defaults }: { entry: ParameterEntry; gaitId: string; gait: GaitSpec; defaults: GaitSpec }) {
  const store = useDocumentStore();
  const { group, key, path, parameter: p } = entry;
  const read = (g: GaitSpec) => (g[group] as unknown as Record<string, number | Channel>)[key]!;
  if (p.kind === 'scalar')
    return (
      <ChannelStrip
        path={path}
        label={p.label}
        tooltip={p.tooltip}
        unit={p.unit}
        range={p.range}
        value={read(gait) as number}
        fallback={read(defaults) as number}
        onChange={(v, mark) => setParameter(store, gaitId, group, key, null, v, mark)}
      />
    );
  const value = read(gait) as Channel,
    fallback = read(defaults) as Channel;
  const part = (name: keyof Channel, label: string, tooltip: string) => (
    <ChannelStrip
      path={`${path}.${name}`}
      label={label}
      tooltip={tooltip}
      unit={name === 'delay' ? 'phase' : p.unit}
      range={name === 'delay' ? DELAY_RANGE : p[name]}
      value={value[name]}
      fallback={fallback[name]}
      indent={name !== 'amount'}
      picture={name === 'amount' ? <Miniature channel={value} waves={p.waves} /> : undefined}
      onChange={(v, mark) => setParameter(store, gaitId, group, key, name, v, mark)}
    />
  );
  return (
    <>
      {part('amount', p.label, p.tooltip)}
      {part('offset', 'around', `${p.label}: the value it moves around.`)}
      {part('delay', 'earlier by', `${p.label}: part of the stride by which the wave comes earlier.`)}
    </>
  );
}
