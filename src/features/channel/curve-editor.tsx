'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import {
  compileCurve,
  curveValue,
  defaultKeys,
  flipKeys,
  KEY_GAP,
  KEY_SLOPE_RANGE,
  KEY_VALUE_RANGE,
  MOST_KEYS,
  repeatFirstHalf,
  reverseKeys,
  shiftKeys,
  TANGENTS,
  type CurveKey,
  type Tangent,
} from '@/core/gait/curve';
import type { Channel, ChannelParameter } from '@/core/gait/parameters';
import { wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';
import { freshMark } from '../document/history';
import { useSession } from '../stage/session';
import { followHalf, halvesOf, movedKeys, type Halves } from './curve-keys';
import { CurvePlot } from './curve-plot';
import { NumberField } from './number-field';
import { stepsOf } from './stepping';
import type { Shown } from './units';
import { shownValue } from './words';

interface Props {
  readonly name: string;
  readonly channel: Channel;
  readonly waves: ChannelParameter['waves'];
  /** Unit in which the channel's values are shown. */
  readonly shown: Shown;
  readonly clock: Clock;
  readonly duration: number;
  /** New keys, or null for the channel's plain shape; `mark` is the same during one drag. */
  readonly onKeys: (keys: readonly CurveKey[] | null, mark: string | null) => void;
}

const HEIGHT = { low: 132, tall: 300 } as const;
/** Steps of an arrow key: part of the stride, and value. */
const STEP = { at: 0.005, value: 0.02 } as const;
const HINT: Record<Tangent, string> = {
  smooth: 'Rounded, never past its keys',
  flat: 'Level at the key',
  linear: 'Straight to the next key',
  held: 'Held until just before the next key',
};
const HALVES: Record<Halves, string> = { same: 'halves alike', opposite: 'halves opposite', apart: 'halves apart' };

/** Keys of one channel over the stride: drag, type, add, remove, copy, paste, turn over, reset; several at once with Shift. */
export function CurveEditor({ name, channel, waves, shown, clock, duration, onKeys }: Props) {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set([0]));
  const [tall, setTall] = useState(false);
  const [unlocked, setUnlocked] = useState(false);
  const copiedCurve = useSession((s) => s.copiedCurve);
  const set = useSession((s) => s.set);
  const mark = useRef('');
  const begun = useRef<readonly CurveKey[]>([]);
  // The keys stand where they act: moved by the channel's delay.
  const delay = channel.delay;
  const keys = useMemo(() => shiftKeys(channel.curve ?? defaultKeys(waves), -delay).sort((a, b) => a.at - b.at), [channel.curve, waves, delay]);
  const own = channel.curve !== undefined;
  const pieces = useMemo(() => compileCurve(keys), [keys]);
  // Halves that are alike stay alike until they are unlocked.
  const halves: Halves = unlocked ? 'apart' : halvesOf(keys);
  const index = Math.min([...chosen][0] ?? 0, keys.length - 1);
  const key = keys[index]!;
  const held = new Set([...chosen].filter((i) => i < keys.length));
  const tell = (next: readonly CurveKey[], m: string | null = null) => onKeys(shiftKeys(next, delay), m);
  const change = (next: readonly CurveKey[], at: number, m: string | null = null) => tell(followHalf(next, halves, at), m);
  const edit = (by: Partial<CurveKey>, m: string | null = null) =>
    change(
      keys.map((k, i) => (held.has(i) ? { ...k, ...by } : k)),
      key.at,
      m,
    );
  const add = (at: number, value: number) => {
    if (keys.length >= (halves === 'apart' ? MOST_KEYS : MOST_KEYS / 2) || keys.some((k) => Math.abs(k.at - at) < 2 * KEY_GAP)) return;
    const next = followHalf(
      [...keys, { at, value, tangent: 'smooth' as const }].sort((a, b) => a.at - b.at),
      halves,
      at,
    );
    setChosen(new Set([next.findIndex((k) => Math.abs(k.at - at) < 1e-9)]));
    tell(next);
  };
  const remove = () => {
    const half = halves === 'apart' ? null : key.at < 0.5;
    const left = keys.filter((k, i) => !held.has(i) && (half === null || k.at < 0.5 === half));
    if (left.length === 0) return;
    setChosen(new Set([0]));
    change(left, half === false ? 0.5 : 0);
  };
  const move = (i: number, byAt: number, byValue: number, first: boolean) => {
    if (first) {
      mark.current = freshMark(`curve-${name}`);
      begun.current = keys;
    }
    change(movedKeys(begun.current, held.has(i) ? held : new Set([i]), byAt, byValue, halves), key.at, mark.current);
  };
  const choose = (i: number, more: boolean) =>
    setChosen((was) => {
      if (!more) return new Set([i]);
      const next = new Set(was);
      if (!next.delete(i)) next.add(i);
      return next.size > 0 ? next : was;
    });
  const onKey = (e: KeyboardEvent, i: number) => {
    const steps = stepsOf(e);
    const upward = e.key === 'ArrowUp' || e.key === 'ArrowDown';
    if (steps !== 0) change(movedKeys(keys, held.has(i) ? held : new Set([i]), upward ? 0 : steps * STEP.at, upward ? steps * STEP.value : 0, halves), key.at);
    else if (e.key === 'Delete' || e.key === 'Backspace') remove();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const placeAt = (at: number, value: number) => change(movedKeys(keys, new Set([index]), at - key.at, value - key.value, halves), key.at);
  const real = (v: number) => shownValue(shown, channel.offset + channel.amount * v);
  const slope = key.slope ?? (curveValue(pieces, key.at + 1e-4) - curveValue(pieces, key.at - 1e-4)) / 2e-4;
  const turns = key.tangent === 'smooth' || key.tangent === 'flat';

  const button = (label: string, title: string, act: () => void, disabled = false) => (
    <Button key={label} title={title} disabled={disabled} onClick={act} sx={{ minWidth: 0, px: 0.75, py: 0, fontSize: 12.5 }}>
      {label}
    </Button>
  );
  const whole = useRef<HTMLDivElement>(null);
  // Opened low down it comes into view, all of it.
  useEffect(() => {
    whole.current?.scrollIntoView({ block: 'nearest' });
  }, [tall]);
  return (
    <Box
      ref={whole}
      role="group"
      aria-label={`Curve of ${name}`}
      data-testid="curve-editor"
      sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5, '& .MuiButton-root, & .MuiToggleButton-root': { minHeight: 24 } }}
    >
      <CurvePlot
        name={name}
        keys={keys}
        chosen={held}
        own={own}
        height={tall ? HEIGHT.tall : HEIGHT.low}
        scale={[real(-1), real(0), real(1)]}
        clock={clock}
        duration={duration}
        onAdd={add}
        onChoose={choose}
        onMove={move}
        onSlope={(i, value, first) => {
          if (first) mark.current = freshMark(`slope-${name}`);
          change(
            keys.map((k, at) => (at === i ? { ...k, slope: value } : k)),
            keys[i]!.at,
            mark.current,
          );
        }}
        onKey={onKey}
      />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 0.5 }}>
        <Typography component="span" sx={{ fontSize: 12.5, whiteSpace: 'nowrap' }}>
          {held.size > 1 ? `${held.size} keys` : 'key'}
        </Typography>
        <NumberField
          label={`${name}: key at, percent of the stride`}
          value={key.at * 100}
          digits={1}
          step={0.5}
          min={0}
          max={99.99}
          onChange={(v) => placeAt(v / 100, key.value)}
        />
        <Typography component="span" sx={{ fontSize: 12 }}>
          %
        </Typography>
        <NumberField
          label={`${name}: value of the key`}
          value={key.value}
          digits={2}
          step={0.02}
          min={KEY_VALUE_RANGE[0]}
          max={KEY_VALUE_RANGE[1]}
          onChange={(v) => placeAt(key.at, v)}
        />
        <Typography component="span" data-testid="key-value" sx={{ fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap' }}>
          = {real(key.value)}
        </Typography>
        {turns && (
          <>
            <Typography component="span" sx={{ fontSize: 12, ml: 'auto' }}>
              slope
            </Typography>
            <NumberField
              label={`${name}: slope at the key, amounts a stride`}
              value={slope}
              digits={1}
              step={0.5}
              min={KEY_SLOPE_RANGE[0]}
              max={KEY_SLOPE_RANGE[1]}
              onChange={(v) => edit({ slope: v })}
            />
          </>
        )}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center' }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={key.slope === undefined ? key.tangent : null}
          aria-label={`${name}: how the curve leaves the key`}
          onChange={(_, t: Tangent | null) => edit({ tangent: t ?? key.tangent, slope: undefined })}
          sx={{ '& .MuiToggleButton-root': { py: 0, px: 0.75, fontSize: 12 } }}
        >
          {TANGENTS.map((t) => (
            <ToggleButton key={t} value={t} title={HINT[t]}>
              {t}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button
          aria-pressed={halves !== 'apart'}
          title={
            halves === 'apart' ? 'Each half of the stride has keys of its own' : 'What is done to one half is done to the other; click to let them go apart'
          }
          disabled={halves === 'apart' && halvesOf(keys) === 'apart'}
          onClick={() => setUnlocked(!unlocked)}
          sx={{ ml: 'auto', minWidth: 0, px: 0.75, py: 0, fontSize: 12.5 }}
        >
          {HALVES[halves]}
        </Button>
        {button(tall ? 'lower' : 'taller', 'Height of the curve', () => setTall(!tall))}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {button('add key', 'A new key at the playhead', () => {
          const at = Math.min(0.9999, wrapPhase(clock.time / duration));
          add(at, curveValue(pieces, at));
        })}
        {button('remove', 'Removes the chosen keys (Delete)', remove, keys.length < 2)}
        {button('all keys', 'Chooses every key; Shift and a click choose one more', () => setChosen(new Set(keys.keys())))}
        {button('copy', 'Copies the curve', () => set({ copiedCurve: keys }))}
        {button('paste', 'Pastes the copied curve over this one', () => copiedCurve && tell(copiedCurve), copiedCurve === null)}
        {button('upside down', 'Mirrors the curve up and down', () => tell(flipKeys(keys)))}
        {button('backwards', 'Mirrors the curve in time', () => tell(reverseKeys(keys)))}
        {button('2nd half: same', 'The second step does what the first does', () => tell(repeatFirstHalf(keys, false)))}
        {button('2nd half: opposite', 'The second step does the opposite of the first', () => tell(repeatFirstHalf(keys, true)))}
        {button('plain wave', 'Back to the channel’s own shape', () => onKeys(null, null), !own)}
      </Box>
    </Box>
  );
}
