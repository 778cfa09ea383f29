import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { isSplit, readValue } from '@/core/gait/access';
import { DELAY_RANGE, STEPS, PARAMETER_LIST, type Channel, type Group, type ParameterEntry } from '@/core/gait/parameters';
import { HELD, type GaitSpec } from '@/core/gait/spec';
import { Miniature } from '../channel/miniature';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import type { Clock } from '../stage/clock';
import { useDefaults } from './defaults';
import { setCurve, setParameter, setSplit, setWhole, type ChannelPart, type SideChoice } from './editing';

// Opened on demand: most strips are dragged, few are drawn.
const CarryChoice = dynamic(() => import('./carry').then((m) => m.CarryChoice));
const SoleStrips = dynamic(() => import('./sole-strips').then((m) => m.SoleStrips));
const CurveEditor = dynamic(() => import('../channel/curve-editor').then((m) => m.CurveEditor));

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

interface Playing {
  readonly clock: Clock;
  readonly duration: number;
}

/** A folding group of strips for each group of the parameter table; directions belong to their own station. */
export function ParameterGroups({ gaitId, clock, duration }: { gaitId: string } & Playing) {
  const gait = useGait(gaitId);
  const defaults = useDefaults(gait);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(['feet', 'hips']));
  return (
    <Box>
      {(Object.entries(TITLES) as [Group, string][]).map(([group, title]) => {
        const isOpen = open.has(group);
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
              <span aria-hidden>{isOpen ? '–' : '+'}</span>
            </ButtonBase>
            {isOpen && group === 'props' && <CarryChoice gaitId={gaitId} />}
            {isOpen &&
              PARAMETER_LIST.filter((e) => e.group === group && !ABOVE.has(e.path)).map((entry) => (
                <ParameterStrips key={entry.path} entry={entry} gaitId={gaitId} gait={gait} defaults={defaults} clock={clock} duration={duration} />
              ))}
            {isOpen && group === 'feet' && <SoleStrips />}
          </Box>
        );
      })}
    </Box>
  );
}

interface StripsProps extends Playing {
  readonly entry: ParameterEntry;
  readonly gaitId: string;
  readonly gait: GaitSpec;
  readonly defaults: GaitSpec;
}

/** The strips of one parameter: once for both sides, or left and right apart where it is split. */
export function ParameterStrips(props: StripsProps) {
  const { entry, gait, gaitId } = props;
  const store = useDocumentStore();
  const split = isSplit(gait, entry.path);
  const link = entry.parameter.perSide && <SideLink label={entry.parameter.label} split={split} onClick={() => setSplit(store, gaitId, entry, !split)} />;
  if (!split) return <SideStrips {...props} side="left" lead={link} mark="" />;
  return (
    <>
      <SideStrips {...props} side="left" lead={link} mark="L" />
      <SideStrips {...props} side="right" lead={<Box sx={{ width: 18, flexShrink: 0 }} />} mark="R" />
    </>
  );
}

/** One strip for a scalar; for a channel its amount with the curve, and offset and delay below. */
function SideStrips({
  entry,
  gaitId,
  gait,
  defaults,
  clock,
  duration,
  side,
  lead,
  mark: letter,
}: StripsProps & { side: SideChoice; lead: ReactNode; mark: '' | 'L' | 'R' }) {
  const store = useDocumentStore();
  const [drawing, setDrawing] = useState(false);
  const { path, parameter: p } = entry;
  const own = readValue(gait, entry, side),
    fallback = readValue(defaults, entry, side);
  const label = letter ? `${letter} ${p.label}` : p.label;
  const spoken = letter ? `${p.label}, ${side}` : p.label;
  const id = letter ? `${path}.${side}` : path;
  const front = (
    <>
      {lead}
      {letter && <SideLetter side={side} />}
    </>
  );
  if (p.kind === 'scalar')
    return (
      <ChannelStrip
        path={id}
        label={p.label}
        spoken={spoken}
        tooltip={p.tooltip}
        unit={p.unit}
        step={p.step}
        range={p.range}
        value={own as number}
        fallback={fallback as number}
        lead={front}
        onChange={(v, mark) => setParameter(store, gaitId, entry, null, v, mark && `${side}-${mark}`, side)}
      />
    );
  const value = own as Channel,
    plain = fallback as Channel;
  const part = (name: ChannelPart, partLabel: string, tooltip: string) => (
    <ChannelStrip
      path={`${id}.${name}`}
      label={partLabel}
      spoken={name === 'amount' ? spoken : `${spoken}, ${partLabel}`}
      tooltip={tooltip}
      unit={name === 'delay' ? 'phase' : p.unit}
      step={name === 'delay' ? STEPS.phase : p.step}
      range={name === 'delay' ? DELAY_RANGE : p[name]}
      value={value[name]}
      fallback={plain[name]}
      indent={name !== 'amount'}
      lead={name === 'amount' ? front : undefined}
      picture={
        name === 'amount' ? (
          <ButtonBase
            aria-label={`Curve of ${spoken}`}
            aria-expanded={drawing}
            onClick={() => setDrawing(!drawing)}
            sx={{ border: 1, borderColor: drawing ? 'primary.main' : 'divider' }}
          >
            <Miniature channel={value} waves={p.waves} clock={clock} duration={duration} />
          </ButtonBase>
        ) : undefined
      }
      onChange={(v, mark) => setParameter(store, gaitId, entry, name, v, mark && `${side}-${mark}`, side)}
    />
  );
  return (
    <>
      {part('amount', p.label, p.tooltip)}
      {drawing && (
        <CurveEditor
          name={spoken}
          channel={value}
          waves={p.waves}
          clock={clock}
          duration={duration}
          onKeys={(keys, mark) => setCurve(store, gaitId, entry, keys, mark, side)}
        />
      )}
      {part('offset', 'around', `${label}: the value it moves around.`)}
      {part('delay', 'earlier by', `${label}: part of the stride by which the wave comes earlier.`)}
      {drawing && (
        <Button onClick={() => setWhole(store, gaitId, entry, plain, side)} sx={{ fontSize: 12.5, py: 0 }}>
          Reset all of {spoken}
        </Button>
      )}
    </>
  );
}

/** The sign of a side: left round with an L, right square with an R. */
function SideLetter({ side }: { side: SideChoice }) {
  return (
    <Box
      component="span"
      aria-hidden
      sx={{
        width: 15,
        height: 15,
        flexShrink: 0,
        borderRadius: side === 'left' ? '50%' : 0,
        bgcolor: side === 'left' ? '#C9781E' : '#5B4BB7',
        color: '#fff',
        fontSize: 10,
        fontWeight: 700,
        textAlign: 'center',
        lineHeight: '15px',
      }}
    >
      {side === 'left' ? 'L' : 'R'}
    </Box>
  );
}

/** Two links of a chain, closed or open: left and right share one value, or each has its own. */
function SideLink({ label, split, onClick }: { label: string; split: boolean; onClick: () => void }) {
  return (
    <Tooltip title={split ? 'Join left and right again' : 'Give left and right values of their own'}>
      <ButtonBase
        aria-label={split ? `Join left and right ${label}` : `Split left and right ${label}`}
        aria-pressed={split}
        onClick={onClick}
        sx={{ width: 18, height: 18, flexShrink: 0, color: split ? 'primary.main' : 'text.secondary', opacity: split ? 1 : 0.55 }}
      >
        <svg width="16" height="10" viewBox="0 0 16 10" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden>
          <rect x="0.8" y="2" width={split ? 5.4 : 8} height="6" rx="3" />
          <rect x={split ? 9.8 : 7.2} y="2" width={split ? 5.4 : 8} height="6" rx={split ? 0.5 : 1} />
        </svg>
      </ButtonBase>
    </Tooltip>
  );
}
