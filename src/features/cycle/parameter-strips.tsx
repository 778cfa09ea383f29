import ChevronRightIcon from '@mui/icons-material/ChevronRight';
import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import LinkIcon from '@mui/icons-material/Link';
import LinkOffIcon from '@mui/icons-material/LinkOff';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import dynamic from 'next/dynamic';
import { memo, useState, type ReactNode } from 'react';
import { isSplit, readValue } from '@/core/gait/access';
import { DELAY_RANGE, STEPS, type Channel, type ParameterEntry } from '@/core/gait/parameters';
import type { GaitSpec } from '@/core/gait/spec';
import { InCurveHost } from '../channel/curve-host';
import { Miniature } from '../channel/miniature';
import { ChannelStrip } from '../channel/strip';
import { shownUnit } from '../channel/units';
import { useDocumentStore } from '../document/context';
import { useGaitWatching } from '../document/selectors';
import type { Clock } from '../stage/clock';
import { defaultsOf, presetKeyOf } from './defaults';
import { setCurve, setParameter, setSplit, setWhole, SIDE_CHOICES, type ChannelPart, type SideChoice } from './editing';

// Opened on demand: most strips are dragged, few are drawn.
const CurveEditor = dynamic(() => import('../channel/curve-editor').then((m) => m.CurveEditor));

export interface Playing {
  readonly clock: Clock;
  readonly duration: number;
}

interface StripsProps extends Playing {
  readonly entry: ParameterEntry;
  readonly gaitId: string;
}

/** The strips of one parameter: once for both sides, or left and right apart where it is split. */
export const ParameterStrips = memo(function ParameterStrips(props: StripsProps) {
  const { entry, gaitId } = props;
  const gait = useGaitWatching(gaitId, (g) => [isSplit(g, entry.path), ...SIDE_CHOICES.map((side) => readValue(g, entry, side)), presetKeyOf(g), g.legLength]);
  const shown = { ...props, gait, defaults: defaultsOf(gait) };
  const store = useDocumentStore();
  const split = isSplit(gait, entry.path);
  const link = entry.parameter.perSide && <SideLink label={entry.parameter.label} split={split} onClick={() => setSplit(store, gaitId, entry, !split)} />;
  if (!split) return <SideStrips {...shown} side="left" lead={link} mark="" />;
  return (
    <>
      <SideStrips {...shown} side="left" lead={link} mark="L" />
      <SideStrips {...shown} side="right" lead={<Box sx={{ width: 18, flexShrink: 0 }} />} mark="R" />
    </>
  );
});

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
}: StripsProps & { gait: GaitSpec; defaults: GaitSpec; side: SideChoice; lead: ReactNode; mark: '' | 'L' | 'R' }) {
  const store = useDocumentStore();
  const [drawing, setDrawing] = useState(false);
  const [more, setMore] = useState(false);
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
  // What the wave moves around and how much earlier it comes fold away until they are used.
  const used = Math.abs(value.offset - plain.offset) > 1e-9 || Math.abs(value.delay - plain.delay) > 1e-9;
  const all = more || used || drawing;
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
      tail={
        name === 'amount' ? (
          <ButtonBase
            aria-label={`${all ? 'Less' : 'More'} of ${spoken}`}
            aria-expanded={all}
            disabled={used}
            onClick={() => setMore(!more)}
            sx={{ width: 18, height: 18, opacity: used ? 0.3 : 0.8 }}
          >
            {all ? <ExpandMoreIcon sx={{ fontSize: 16 }} /> : <ChevronRightIcon sx={{ fontSize: 16 }} />}
          </ButtonBase>
        ) : undefined
      }
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
        <InCurveHost name={spoken} onClose={() => setDrawing(false)}>
          <CurveEditor
            name={spoken}
            channel={value}
            waves={p.waves}
            shown={shownUnit(p.unit, path)}
            clock={clock}
            duration={duration}
            onKeys={(keys, mark) => setCurve(store, gaitId, entry, keys, mark, side)}
          />
        </InCurveHost>
      )}
      {all && part('offset', 'around', `${label}: the value it moves around.`)}
      {all && part('delay', 'earlier by', `${label}: part of the stride by which the wave comes earlier.`)}
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

/** A link of a chain, closed or open: left and right share one value, or each has its own. */
function SideLink({ label, split, onClick }: { label: string; split: boolean; onClick: () => void }) {
  return (
    <Tooltip title={split ? 'Join left and right again' : 'Give left and right values of their own'}>
      <ButtonBase
        aria-label={split ? `Join left and right ${label}` : `Split left and right ${label}`}
        aria-pressed={split}
        onClick={onClick}
        sx={{ width: 18, height: 18, flexShrink: 0, color: split ? 'primary.main' : 'text.secondary', opacity: split ? 1 : 0.55 }}
      >
        {split ? <LinkOffIcon sx={{ fontSize: 15 }} /> : <LinkIcon sx={{ fontSize: 15 }} />}
      </ButtonBase>
    </Tooltip>
  );
}
