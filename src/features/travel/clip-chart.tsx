import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useMemo, useRef, useState, type MouseEvent as ReactMouse, type PointerEvent as ReactPointer } from 'react';
import { clamp } from '@/core/math/scalar';
import type { ClipContact } from '@/core/clip/clip';
import { freshMark } from '../document/history';
import { useTimeSpan } from '../footfall/time-span';
import { followPointer } from '../footfall/follow';
import { useWidth } from '../footfall/width';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { CHART_INK } from '../steps/ink';
import { RowWords, Scale, Seconds } from '../steps/walk-chart-parts';
import { CLIP_LINES, LINE_UNITS, LINE_WORDS, linesOf, type ClipLine } from './clip-lines';
import { useClipChange } from './editing';
import { LAYER_ROW, LayerRows } from './layer-rows';
import { clipPhase } from '@/core/travel/clip-phase';
import { LoopBrackets } from './loop-brackets';
import type { ClipOnStage } from './use-clip';

const SIDES = { left: 64, right: 12 };
const TOP = { left: 20, right: 40, slide: 60, speed: 96 };
const BAR = 14;
const SLIDE = 30;
const SPEED = 34;
const HEIGHT = 140;
/** Layers that have a row. */
const LAYERS_SHOWN = 4;
/** Part of its row that a line takes at most. */
const LINE_ROOM = 0.92;
/** A contact put in by hand lasts so long, s. */
const NEW_S = 0.3;
/** Slide (mm) that is drawn as high as its row. */
const SLIDE_FULL_MM = 60;
/** Slide (mm) up to which a foot counts as held. */
const HELD_MM = 0.5;

/** The footfall chart of a clip: a bar a contact, dragged by its ends; the slide of each, before and after; the speed. */
export function ClipChart({ clip, clock, duration }: { clip: ClipOnStage; clock: Clock; duration: number }) {
  const frame = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLSpanElement>(null);
  const W = useWidth(frame);
  const change = useClipChange(clip.id);
  const { from, to, x, timeAt } = useTimeSpan(frame, head, clock, duration, W, SIDES, clip.answer?.clip.loop);
  const { answer } = clip;
  const loops = useSession((s) => s.loops);
  const loopAt = useSession((s) => s.loopAt);
  const [line, setLine] = useState<ClipLine>('speed');
  const drawn = useMemo(() => (answer ? linesOf(line, answer) : null), [answer, line]);
  const phase = useMemo(() => (answer ? clipPhase(answer.clip, answer.held) : null), [answer]);
  const rate = answer?.clip.rate ?? 1;
  const { layers } = clip.spec;
  const layerAt = useSession((s) => s.layer) ?? layers.length - 1;
  const height = HEIGHT + Math.min(LAYERS_SHOWN, layers.length) * LAYER_ROW;
  const contacts = clip.spec.travel.contacts ?? answer?.contacts ?? [];
  // A loop's contact may end in the next round: it is drawn in this one, too.
  const rounds = answer?.clip.loop ? [-duration, 0] : [0];
  const put = (next: readonly ClipContact[], label: string, mark: string | null = null) =>
    change(label, (c) => void (c.travel.contacts = [...next].sort((a, b) => a.from - b.from).map((k) => ({ ...k }))), mark);
  const grab = (index: number, end: 'from' | 'to', e: ReactPointer) => {
    e.stopPropagation();
    const start = [...contacts];
    const own = start[index]!;
    const mark = freshMark(`contact ${index}`);
    followPointer((event) => {
      const frameAt = Math.round(timeAt(event) * rate);
      const same = start.filter((c, i) => c.foot === own.foot && i !== index);
      const least = end === 'to' ? own.from + 1 : Math.max(0, ...same.filter((c) => c.to < own.from).map((c) => c.to + 1)),
        most = end === 'from' ? own.to - 1 : Math.min((answer?.clip.frames ?? 1) - 1, ...same.filter((c) => c.from > own.to).map((c) => c.from - 1));
      put(
        start.map((c, i) => (i === index ? { ...c, [end]: clamp(frameAt, least, most) } : c)),
        'end of a contact',
        mark,
      );
    });
  };
  const putIn = (foot: 'left' | 'right', e: ReactMouse) => {
    const at = Math.round(timeAt(e) * rate);
    const half = Math.max(1, Math.round((NEW_S * rate) / 2));
    const same = contacts.filter((c) => c.foot === foot);
    const a = Math.max(0, at - half, ...same.filter((c) => c.to < at).map((c) => c.to + 1)),
      b = Math.min((answer?.clip.frames ?? 1) - 1, at + half, ...same.filter((c) => c.from > at).map((c) => c.from - 1));
    if (b > a) put([...contacts, { foot, from: a, to: b }], 'add a contact');
  };
  return (
    <Box sx={{ position: 'relative' }}>
      <Box
        ref={frame}
        data-testid="clip-chart"
        role="img"
        aria-label={`Footfall chart of the clip: ${contacts.length} contacts in ${duration.toFixed(2)} seconds`}
        onPointerDown={(e) => {
          clock.set(timeAt(e));
          followPointer((event) => clock.set(timeAt(event)));
        }}
        sx={{
          position: 'relative',
          height,
          overflow: 'hidden',
          cursor: 'ew-resize',
          touchAction: 'none',
          userSelect: 'none',
          borderTop: 1,
          borderColor: 'divider',
          ...CHART_INK,
        }}
      >
        <svg width={W} height={height} style={{ display: 'block' }}>
          <defs>
            <clipPath id="clip-chart-clip">
              <rect x={SIDES.left} y={0} width={Math.max(1, W - SIDES.left - SIDES.right)} height={height} />
            </clipPath>
          </defs>
          <RowWords
            rows={[
              ['L', TOP.left + 12],
              ['R', TOP.right + 12],
              ['slide mm', TOP.slide + 18],
              [LINE_UNITS[line], TOP.speed + 30],
            ]}
          />
          {layers.slice(0, LAYERS_SHOWN).map((l, i) => (
            <text key={i} x={8} y={HEIGHT + i * LAYER_ROW + 6} fontSize={11} fill="currentColor">
              {l.name.slice(0, 9)}
            </text>
          ))}
          {drawn && <Scale range={drawn.range} y={(v) => lineY(v, drawn.range)} left={SIDES.left} right={W - SIDES.right} />}
          <g clipPath="url(#clip-chart-clip)">
            <Seconds from={from} to={to} x={x} height={height} />
            {(['left', 'right'] as const).map((foot) => (
              <rect
                key={foot}
                data-row={foot}
                x={SIDES.left}
                y={TOP[foot] - 2}
                width={Math.max(1, W - SIDES.left - SIDES.right)}
                height={BAR + 4}
                fill="transparent"
                onDoubleClick={(e) => putIn(foot, e)}
              />
            ))}
            {contacts
              .flatMap((c, i) => rounds.map((round) => [c, i, round] as const))
              .map(([c, i, round]) => {
                const [a, b] = [x(c.from / rate + round), x((c.to + 1) / rate + round)];
                if (b < SIDES.left || a > W) return null;
                return (
                  <g key={`${c.foot}${i} ${round}`}>
                    <rect
                      data-contact={c.foot}
                      x={a}
                      width={Math.max(1.5, b - a)}
                      y={TOP[c.foot]}
                      height={BAR}
                      rx={c.foot === 'left' ? BAR / 2 : 0}
                      fill={c.foot === 'left' ? 'var(--left)' : 'var(--right)'}
                      onDoubleClick={(e) => {
                        e.stopPropagation();
                        put(
                          contacts.filter((_, k) => k !== i),
                          'remove a contact',
                        );
                      }}
                    />
                    {b - a > 12 &&
                      (['from', 'to'] as const).map((end) => (
                        <rect
                          key={end}
                          data-end={`${c.foot} ${end}`}
                          x={(end === 'from' ? a : b) - 4}
                          y={TOP[c.foot] - 2}
                          width={8}
                          height={BAR + 4}
                          fill="transparent"
                          cursor="col-resize"
                          onPointerDown={(e) => grab(i, end, e)}
                        />
                      ))}
                  </g>
                );
              })}
            {answer?.before.map(({ contact, atFramesMm }, i) => {
              const at = x(middleOf(contact, rate, answer.clip));
              return (
                <line
                  key={`b${i}`}
                  x1={at}
                  x2={at}
                  y1={TOP.slide + SLIDE}
                  y2={TOP.slide + SLIDE - barHeight(atFramesMm / 1000)}
                  stroke="currentColor"
                  strokeOpacity={clip.spec.travel.lock ? 0.3 : 0.8}
                  strokeWidth={3}
                />
              );
            })}
            {clip.spec.travel.lock &&
              answer?.after.map(({ contact, atFramesMm }, i) => {
                const at = x(middleOf(contact, rate, answer.clip));
                return (
                  <line
                    key={`a${i}`}
                    x1={at}
                    x2={at}
                    y1={TOP.slide + SLIDE}
                    y2={TOP.slide + SLIDE - Math.max(1.5, barHeight(atFramesMm / 1000))}
                    stroke={(atFramesMm / 1000) * 1000 > HELD_MM ? 'var(--fault)' : 'var(--sea)'}
                    strokeWidth={3}
                  />
                );
              })}
            <LayerRows layers={layers.slice(0, LAYERS_SHOWN)} at={layerAt} top={HEIGHT - 4} from={from} to={to} x={x} phase={phase} />
            {loops && clip.spec.edits.loop === null && <LoopBrackets loops={loops} at={loopAt} rate={rate} x={x} />}
            {drawn?.lines.map(({ of, values }) => (
              <polyline
                key={of}
                data-line={`${line} ${of}`}
                points={values.map((v, i) => `${x(drawn.times[i]!).toFixed(1)},${lineY(v, drawn.range).toFixed(1)}`).join(' ')}
                fill="none"
                stroke={of === 'body' ? 'var(--sea)' : `var(--${of})`}
                strokeWidth={1.6}
                pointerEvents="none"
              />
            ))}
          </g>
        </svg>
        <Box
          component="span"
          ref={head}
          sx={{ position: 'absolute', left: -0.8, top: 0, width: 1.6, height, bgcolor: 'currentColor', willChange: 'transform', pointerEvents: 'none' }}
        />
      </Box>
      <Select
        variant="standard"
        value={line}
        inputProps={{ 'aria-label': 'What the line shows' }}
        onChange={(e) => setLine(e.target.value)}
        onPointerDown={(e) => e.stopPropagation()}
        sx={{ position: 'absolute', left: 8, top: TOP.speed - 3, width: SIDES.left - 12, fontSize: 11, '& .MuiSelect-select': { p: 0, pr: '14px !important' } }}
      >
        {CLIP_LINES.map((l) => (
          <MenuItem key={l} value={l} dense>
            {LINE_WORDS[l]}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}

/** Time (s) of a contact's middle, within the clip. */
const middleOf = ({ from, to }: ClipContact, rate: number, { loop, frames }: { loop: boolean; frames: number }): number => {
  const middle = (from + to) / 2;
  return (loop ? middle % frames : middle) / rate;
};

const lineY = (v: number, [low, high]: readonly [number, number]): number => TOP.speed + SPEED - ((v - low) / (high - low)) * SPEED * LINE_ROOM;

const barHeight = (metres: number): number => SLIDE * Math.min(1, (metres * 1000) / SLIDE_FULL_MM);
