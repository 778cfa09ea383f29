'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import {
  compileCurve,
  curveValue,
  defaultKeys,
  flipKeys,
  KEY_GAP,
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
import { clamp, wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';
import { freshMark } from '../document/history';
import { useSession } from '../stage/session';
import { NumberField } from './number-field';

interface Props {
  readonly name: string;
  readonly channel: Channel;
  readonly waves: ChannelParameter['waves'];
  readonly clock: Clock;
  readonly duration: number;
  /** New keys, or null for the channel's plain shape; `mark` is the same during one drag. */
  readonly onKeys: (keys: readonly CurveKey[] | null, mark: string | null) => void;
}

const W = 372;
const H = 132;
const PAD = 8;
const TOP = 1.5;
const HINT: Record<Tangent, string> = {
  smooth: 'Rounded, never past its keys',
  flat: 'Level at the key',
  linear: 'Straight to the next key',
  held: 'Held until just before the next key',
};

const toX = (at: number): number => PAD + at * (W - 2 * PAD);
const toY = (value: number): number => H / 2 - (value / TOP) * (H / 2 - PAD);
const fromX = (x: number): number => clamp((x - PAD) / (W - 2 * PAD), 0, 0.9999);
const fromY = (y: number): number => clamp(((H / 2 - y) / (H / 2 - PAD)) * TOP, ...KEY_VALUE_RANGE);

/** Puts a key at a free place: between its neighbours, apart from both. */
function placed(keys: readonly CurveKey[], index: number, at: number, value: number): CurveKey[] {
  const before = index > 0 ? keys[index - 1]!.at + KEY_GAP : Math.max(0, keys[keys.length - 1]!.at + KEY_GAP - 1);
  const after = index < keys.length - 1 ? keys[index + 1]!.at - KEY_GAP : Math.min(0.9999, keys[0]!.at + 1 - KEY_GAP);
  const free = keys.length === 1 ? [0, 0.9999] : [before, Math.max(before, after)];
  return keys.map((k, i) => (i === index ? { ...k, at: clamp(at, free[0]!, free[1]!), value: clamp(value, ...KEY_VALUE_RANGE) } : k));
}

/** Keys of one channel over the stride: drag, type, add, remove, copy, paste, turn over, reset. */
export function CurveEditor({ name, channel, waves, clock, duration, onKeys }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const head = useRef<SVGLineElement>(null);
  const [chosen, setChosen] = useState(0);
  const copiedCurve = useSession((s) => s.copiedCurve);
  const set = useSession((s) => s.set);
  // The keys stand where they act: moved by the channel's delay.
  const delay = channel.delay;
  const keys = useMemo(() => shiftKeys(channel.curve ?? defaultKeys(waves), -delay).sort((a, b) => a.at - b.at), [channel.curve, waves, delay]);
  const own = channel.curve !== undefined;
  const tell = (next: readonly CurveKey[], mark: string | null = null) => onKeys(shiftKeys(next, delay), mark);
  const index = Math.min(chosen, keys.length - 1);
  const key = keys[index]!;
  const pieces = useMemo(() => compileCurve(keys), [keys]);
  const path = useMemo(
    () => Array.from({ length: 187 }, (_, i) => `${(PAD + (i / 186) * (W - 2 * PAD)).toFixed(1)},${toY(curveValue(pieces, i / 186)).toFixed(1)}`).join(' '),
    [pieces],
  );
  useEffect(
    () =>
      clock.subscribe((t) => {
        const x = toX(wrapPhase(t / duration)).toFixed(1);
        head.current?.setAttribute('x1', x);
        head.current?.setAttribute('x2', x);
      }),
    [clock, duration],
  );

  const place = (e: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    return { at: fromX(((e.clientX - box.left) / box.width) * W), value: fromY(((e.clientY - box.top) / box.height) * H) };
  };
  const add = (at: number, value: number) => {
    if (keys.length >= MOST_KEYS || keys.some((k) => Math.abs(k.at - at) < 2 * KEY_GAP)) return;
    const next = [...keys, { at, value, tangent: 'smooth' as const }].sort((a, b) => a.at - b.at);
    setChosen(next.findIndex((k) => k.at === at));
    tell(next);
  };
  const remove = (i: number) => keys.length > 1 && tell(keys.filter((_, k) => k !== i));
  const dragKey = (begin: PointerEvent, i: number) => {
    begin.preventDefault();
    (begin.currentTarget as SVGElement).focus({ preventScroll: true });
    (begin.currentTarget as SVGElement).focus();
    setChosen(i);
    const mark = freshMark(`curve-${name}`);
    const move = (e: globalThis.PointerEvent) => {
      const { at, value } = place(e);
      tell(placed(keys, i, at, value), mark);
    };
    const up = () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
  };
  const onKeyDown = (e: KeyboardEvent, i: number) => {
    const k = keys[i]!;
    const big = e.shiftKey ? 10 : 1;
    const step = { ArrowLeft: [-0.005, 0], ArrowRight: [0.005, 0], ArrowUp: [0, 0.02], ArrowDown: [0, -0.02] }[e.key];
    if (step) tell(placed(keys, i, k.at + step[0]! * big, k.value + step[1]! * big), `keys-${name}`);
    else if (e.key === 'Delete' || e.key === 'Backspace') remove(i);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const button = (label: string, title: string, act: () => void, disabled = false) => (
    <Button key={label} title={title} disabled={disabled} onClick={act} sx={{ minWidth: 0, px: 0.75, py: 0, fontSize: 12.5 }}>
      {label}
    </Button>
  );
  return (
    <Box role="group" aria-label={`Curve of ${name}`} data-testid="curve-editor" sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5 }}>
      <Box
        component="svg"
        ref={svg}
        viewBox={`0 0 ${W} ${H}`}
        onDoubleClick={(e: React.MouseEvent) => {
          const { at, value } = place(e);
          add(at, value);
        }}
        sx={{ width: 1, display: 'block', touchAction: 'none', userSelect: 'none', bgcolor: 'background.paper', color: 'text.primary' }}
      >
        {[0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875].map((p) => (
          <line key={p} x1={toX(p)} x2={toX(p)} y1={0} y2={H} stroke="currentColor" strokeOpacity={p % 0.5 === 0 ? 0.4 : 0.13} />
        ))}
        {[-1, 0, 1].map((v) => (
          <line key={v} x1={0} x2={W} y1={toY(v)} y2={toY(v)} stroke="currentColor" strokeOpacity={v === 0 ? 0.4 : 0.15} />
        ))}
        <text x={toX(0) + 3} y={H - 3} fontSize={9.5} fill="currentColor">
          L lands
        </text>
        <text x={toX(0.5) + 3} y={H - 3} fontSize={9.5} fill="currentColor">
          half a stride
        </text>
        <Box
          component="polyline"
          points={path}
          fill="none"
          sx={{ stroke: 'var(--mui-palette-primary-main)' }}
          strokeWidth={1.8}
          strokeDasharray={own ? undefined : '4 3'}
        />
        <line ref={head} y1={0} y2={H} stroke="currentColor" strokeWidth={1} />
        {keys.map((k, i) => (
          <Box
            key={i}
            component="circle"
            cx={toX(k.at)}
            cy={toY(k.value)}
            r={i === index ? 5.5 : 4}
            tabIndex={0}
            role="slider"
            aria-label={`Key ${i + 1} of ${name}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(k.at * 1000) / 10}
            aria-valuetext={`${(k.at * 100).toFixed(1)} percent, value ${k.value.toFixed(2)}, ${k.tangent}`}
            onFocus={() => setChosen(i)}
            onPointerDown={(e: PointerEvent) => dragKey(e, i)}
            onKeyDown={(e: KeyboardEvent) => onKeyDown(e, i)}
            sx={{
              cursor: 'grab',
              fill: i === index ? 'var(--mui-palette-primary-main)' : 'var(--mui-palette-background-paper)',
              stroke: 'var(--mui-palette-primary-main)',
              strokeWidth: 1.8,
            }}
          />
        ))}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 0.5 }}>
        <Typography component="span" sx={{ fontSize: 12.5 }}>
          key
        </Typography>
        <NumberField
          label={`${name}: key at, percent of the stride`}
          value={key.at * 100}
          digits={1}
          step={0.5}
          min={0}
          max={99.99}
          onChange={(v) => tell(placed(keys, index, v / 100, key.value))}
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
          onChange={(v) => tell(placed(keys, index, key.at, v))}
        />
        <ToggleButtonGroup
          exclusive
          size="small"
          value={key.tangent}
          aria-label={`${name}: how the curve leaves the key`}
          onChange={(_, t: Tangent | null) => t && tell(keys.map((k, i) => (i === index ? { ...k, tangent: t } : k)))}
          sx={{ ml: 'auto', '& .MuiToggleButton-root': { py: 0, px: 0.75, fontSize: 12 } }}
        >
          {TANGENTS.map((t) => (
            <ToggleButton key={t} value={t} title={HINT[t]}>
              {t}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {button('add key', 'A new key at the playhead', () => {
          const at = Math.min(0.9999, wrapPhase(clock.time / duration));
          add(at, curveValue(pieces, at));
        })}
        {button('remove', 'Removes the chosen key (Delete)', () => remove(index), keys.length < 2)}
        {button('copy', 'Copies the curve', () => set({ copiedCurve: keys }))}
        {button('paste', 'Lays the copied curve over this one', () => copiedCurve && tell(copiedCurve), copiedCurve === null)}
        {button('upside down', 'Mirrors the curve up and down', () => tell(flipKeys(keys)))}
        {button('backwards', 'Mirrors the curve in time', () => tell(reverseKeys(keys)))}
        {button('2nd half: same', 'The second step does what the first does', () => tell(repeatFirstHalf(keys, false)))}
        {button('2nd half: opposite', 'The second step does the opposite of the first', () => tell(repeatFirstHalf(keys, true)))}
        {button('plain wave', 'Back to the channel’s own shape', () => onKeys(null, null), !own)}
      </Box>
    </Box>
  );
}
