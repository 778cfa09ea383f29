import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, useState, type PointerEvent as ReactPointer, type RefObject } from 'react';
import { clamp } from '@/core/math/scalar';
import { SWINGING } from '@/core/gait/without-channel';
import { TRACK_RANGES, type PlanSpec, type TrackName, type TrackSpec } from '@/core/steps/plan';
import { freshMark } from '../document/history';
import { useNames, useWalk } from '../document/selectors';
import { followPointer } from '../footfall/follow';
import { useWidth } from '../footfall/width';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { useTimes } from '../stage/times';
import { CHART_INK } from './ink';
import { onFrame, useWalkChange } from './editing';
import { apartOf, courseOf, LOOKS, trackLine } from './walk-chart-data';
import { Post, RowWords, Scale, Seconds, SLIDE_ROW, Slides } from './walk-chart-parts';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
  readonly height: number;
  readonly fit: RefObject<() => void>;
}

/** Tracks that have a row. */
const LANES = ['pace', 'place', 'amount', 'belt', 'clock'] as const;
const LANE_WORDS: Record<TrackName, string> = { pace: 'pace m/s', place: 'place m', amount: 'amount ×', belt: 'floor m/s', clock: 'warp ×' };

/** A track as a row: how it is called and what it is drawn within. `of` finds it in a plan. */
interface Lane {
  readonly name: string;
  readonly words: string;
  readonly track: TrackSpec;
  readonly within: readonly [number, number];
  readonly of: (plan: PlanSpec) => TrackSpec | null | undefined;
}

function lanesOf(plan: PlanSpec): Lane[] {
  const lane = (name: string, words: string, kind: TrackName, of: Lane['of']): Lane[] => {
    const track = of(plan);
    if (!track) return [];
    const values = track.keys.map((k) => k.value);
    const [least, most] = TRACK_RANGES[kind];
    return [{ name, words, track, of, within: [Math.max(least, Math.min(0, ...values)), Math.min(most, Math.max(1.5, ...values.map((v) => v * 1.2)))] }];
  };
  return [
    ...LANES.flatMap((name) => lane(name, LANE_WORDS[name], name, (p) => p[name])),
    ...plan.channels.flatMap(({ channel }) =>
      lane(channel, CHANNEL_WORDS.get(channel)!, 'amount', (p) => p.channels.find((c) => c.channel === channel)?.amount),
    ),
  ];
}
const CHANNEL_WORDS = new Map(SWINGING.map((e) => [e.path, e.parameter.label]));
const LEFT = 64;
const RIGHT = 12;
const HEAD = 26;
const BAR = 13;
const ROW = 18;
const CURVE = 40;
const SPEED = 26;
/** Shortest time (s) that fills the chart. */
const LEAST_S = 0.4;

/** The footfall chart of a whole walk: a bar a contact, distance and speed along it, and the tracks with their keys. */
export function WalkChart({ motion, clock, height, fit }: Props) {
  const { spec: plan } = useWalk();
  const change = useWalkChange();
  const gaits = useNames('gait');
  const chosen = useSession((s) => s.chosen);
  const set = useSession((s) => s.set);
  const fps = useSession((s) => s.fps);
  const times = useTimes();
  const frame = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLSpanElement>(null);
  const W = useWidth(frame);
  const { source, duration } = motion;
  const [span, setSpan] = useState<readonly [number, number] | null>(null);
  const [from, to] = span ?? [0, duration];
  const held = useRef({ from, to, duration, W });
  useEffect(() => {
    held.current = { from, to, duration, W };
  });
  useEffect(() => {
    fit.current = () => setSpan(null);
  }, [fit]);
  const x = (t: number) => LEFT + ((t - from) / (to - from)) * (W - LEFT - RIGHT);
  const { way, speed } = useMemo(() => courseOf(source), [source]);
  const apart = useMemo(() => apartOf(motion), [motion]);
  const holds = useMemo(() => source.footholds(0, duration), [source, duration]);
  useEffect(
    () =>
      clock.subscribe((t) => {
        const now = held.current;
        const at = LEFT + ((Math.min(t, now.duration) - now.from) / (now.to - now.from)) * (now.W - LEFT - RIGHT);
        if (head.current) {
          head.current.style.transform = `translateX(${at.toFixed(1)}px)`;
          head.current.style.visibility = at < LEFT - 1 ? 'hidden' : 'visible';
        }
      }),
    [clock, from, to, W, duration],
  );
  useEffect(() => {
    const node = frame.current!;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      const now = held.current;
      const u = clamp((e.clientX - node.getBoundingClientRect().left - LEFT) / (now.W - LEFT - RIGHT), 0, 1);
      const long = clamp((now.to - now.from) * Math.exp(e.deltaY * 0.0016), LEAST_S, now.duration);
      const at = now.from + u * (now.to - now.from);
      const begin = clamp(at - u * long + (e.deltaX / now.W) * long, 0, now.duration - long);
      setSpan([begin, begin + long]);
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, []);
  const timeOf = (e: { clientX: number }) =>
    clamp(from + ((e.clientX - frame.current!.getBoundingClientRect().left - LEFT) / (W - LEFT - RIGHT)) * (to - from), 0, duration);
  const scrub = (e: ReactPointer) => {
    clock.set(timeOf(e));
    followPointer((event) => clock.set(timeOf(event)));
  };
  /** Time at which so much has been walked, and what has been walked at a time. */
  const timeAt = (distance: number) => {
    const i = way.findIndex((w) => w >= distance);
    if (i <= 0) return i < 0 ? duration : 0;
    return ((i - 1 + (distance - way[i - 1]!) / Math.max(1e-9, way[i]! - way[i - 1]!)) / LOOKS) * duration;
  };
  const walkedAt = (t: number) => {
    const place = clamp((t / duration) * LOOKS, 0, LOOKS);
    const i = Math.min(LOOKS - 1, Math.floor(place));
    return way[i]! + (way[i + 1]! - way[i]!) * (place - i);
  };
  const measured = useSession((s) => s.slides);
  const slides = measured?.part === motion.part ? measured.each : null;
  const tracks = useMemo(() => lanesOf(plan), [plan]);
  const top = {
    left: HEAD,
    right: HEAD + ROW,
    slide: HEAD + 2 * ROW,
    speed: HEAD + 2 * ROW + 2 * SLIDE_ROW + 6,
    gaits: HEAD + 2 * ROW + 2 * SLIDE_ROW + SPEED + 8,
  };
  const firstTrack = top.gaits + (plan.gaits.length > 0 || plan.halts.length > 0 ? ROW : 0);
  const lastTrack = firstTrack + tracks.length * (CURVE - 4);
  const all = Math.max(height, lastTrack + (apart ? CURVE : 0) + 20);
  const fastest = Math.max(0.5, ...speed) * 1.1;
  const speedLine = Array.from(speed, (v, i) => `${x((duration * i) / LOOKS).toFixed(1)},${(top.speed + SPEED - (v / fastest) * SPEED).toFixed(1)}`).join(' ');
  const grabKey = ({ name, track, within: [lo, hi], of }: Lane, i: number, lane: number, e: ReactPointer) => {
    e.stopPropagation();
    const mark = freshMark(`key ${name}`);
    followPointer((event) => {
      const t = timeOf(event);
      const at = track.over === 'time' ? t : walkedAt(t);
      const bounds = frame.current!.getBoundingClientRect();
      const value = lo + clamp(1 - (event.clientY - bounds.top + frame.current!.scrollTop - lane) / (CURVE - 14), 0, 1) * (hi - lo);
      change(
        `key of ${name}`,
        (p) => {
          const keys = of(p)?.keys;
          if (!keys?.[i]) return;
          const least = i > 0 ? keys[i - 1]!.at + 0.01 : 0,
            most = keys[i + 1] ? keys[i + 1]!.at - 0.01 : 10_000;
          keys[i].at = clamp(track.over === 'time' ? onFrame(at, fps) : Math.round(at * 100) / 100, least, most);
          keys[i].value = Math.round(value * 100) / 100;
        },
        mark,
      );
    });
  };
  return (
    <Box
      ref={frame}
      data-testid="walk-chart"
      role="img"
      aria-label={`Footfall chart of the walk: ${holds.length} contacts in ${duration.toFixed(2)} seconds over ${way[LOOKS]!.toFixed(2)} metres`}
      onPointerDown={scrub}
      sx={{
        position: 'relative',
        height,
        overflowX: 'hidden',
        overflowY: 'auto',
        cursor: 'ew-resize',
        touchAction: 'none',
        userSelect: 'none',
        ...CHART_INK,
      }}
    >
      <svg width={W} height={all} aria-hidden style={{ display: 'block' }}>
        <defs>
          <clipPath id="walk-chart-clip">
            <rect x={LEFT} y={0} width={Math.max(1, W - LEFT - RIGHT)} height={all} />
          </clipPath>
        </defs>
        <RowWords
          rows={[
            ['L', top.left + 11],
            ['R', top.right + 11],
            ['slide mm', top.slide + 11],
            ['speed', top.speed + 12],
            ['m/s', top.speed + 24],
          ]}
        />
        <Scale range={[0, fastest / 1.1]} y={(v) => top.speed + SPEED - (v / fastest) * SPEED} left={LEFT} right={W - RIGHT} />
        <g clipPath="url(#walk-chart-clip)">
          <Seconds from={from} to={to} x={x} height={all} />
          {holds.map((h, i) => {
            const a = x(Math.max(0, h.landing)),
              b = x(Math.min(duration, h.leaving));
            if (b < LEFT || a > W) return null;
            const on = chosen?.kind === 'print' && chosen.key === h.step && h.step > 0;
            return (
              <g key={i}>
                <rect
                  data-contact={h.side === 0 ? 'left' : 'right'}
                  x={a}
                  width={Math.max(1, b - a)}
                  y={h.side === 0 ? top.left : top.right}
                  height={BAR}
                  rx={h.side === 0 ? BAR / 2 : 0}
                  fill={h.side === 0 ? 'var(--left)' : 'var(--right)'}
                  stroke={on ? 'currentColor' : 'none'}
                  strokeWidth={2}
                  onPointerDown={() => h.step > 0 && set({ chosen: { kind: 'print', key: h.step } })}
                />
                {b - a > 40 && (
                  <text
                    x={(a + b) / 2}
                    y={(h.side === 0 ? top.left : top.right) + 10}
                    fontSize={9.5}
                    textAnchor="middle"
                    fill="var(--paper)"
                    pointerEvents="none"
                  >
                    {walkedAt((Math.max(0, h.landing) + Math.min(duration, h.leaving)) / 2).toFixed(2)} m
                  </text>
                )}
              </g>
            );
          })}
          {slides && <Slides slides={slides} x={x} top={top.slide} />}
          <polyline points={speedLine} fill="none" stroke="var(--sea)" strokeWidth={1.8} />
          {plan.halts.map((h, i) => (
            <text key={`h${i}`} x={x(timeAt(h.at))} y={top.gaits + 12} fontSize={10.5} fill="currentColor">
              rests {times.words(h.rest)}
            </text>
          ))}
          {plan.gaits.map((k, i) => {
            const a = x(timeAt(k.at)),
              b = x(timeAt(k.at + k.stretch));
            return (
              <g key={`g${i}`}>
                <path d={`M${a} ${top.gaits + 15}L${b} ${top.gaits + 15}L${b} ${top.gaits + 3}Z`} fill="var(--sea)" fillOpacity={0.55} />
                <text x={b + 4} y={top.gaits + 13} fontSize={10.5} fill="currentColor">
                  {gaits.find(([id]) => id === k.gait)?.[1] ?? 'its own gait'}
                </text>
              </g>
            );
          })}
          {apart && (
            <polyline
              points={Array.from(apart.gaps, (g, i) => `${x((duration * i) / LOOKS).toFixed(1)},${(lastTrack + 30 - clamp(g, -0.3, 2) * 12).toFixed(1)}`).join(
                ' ',
              )}
              fill="none"
              stroke="currentColor"
              strokeWidth={1.6}
            />
          )}
          {tracks.map((row, n) => {
            const { name, track } = row;
            const lane = firstTrack + n * (CURVE - 4) + 4;
            const [lo, hi] = row.within;
            const y = (v: number) => lane + (1 - (v - lo) / (hi - lo)) * (CURVE - 14);
            return (
              <g key={name}>
                <polyline points={trackLine(track, duration, walkedAt, x, y)} fill="none" stroke="currentColor" strokeOpacity={0.75} strokeWidth={1.4} />
                {track.keys.map((k, i) => {
                  const px = x(track.over === 'time' ? k.at : timeAt(k.at));
                  return (
                    <Post
                      key={i}
                      px={px}
                      py={y(k.value)}
                      base={lane + CURVE - 14}
                      next={k.next}
                      name={`${name} ${i}`}
                      onGrab={(e) => grabKey(row, i, lane, e)}
                    />
                  );
                })}
              </g>
            );
          })}
        </g>
        {apart && (
          <text x={8} y={lastTrack + 14} fontSize={11} fill="currentColor">
            apart
          </text>
        )}
        {apart && (
          <text x={8} y={lastTrack + 28} fontSize={11} fill={apart.least < 0 ? 'var(--fault)' : 'currentColor'} data-testid="apart">
            {Math.round(apart.least * 1000)
              .toString()
              .replace('-', '−')}{' '}
            mm
          </text>
        )}
        {tracks.map(({ name, words }, n) => (
          <text key={name} x={8} y={firstTrack + n * (CURVE - 4) + 20} fontSize={11} fill="currentColor">
            {words}
          </text>
        ))}
      </svg>
      <Box
        component="span"
        ref={head}
        sx={{ position: 'absolute', left: -0.8, top: 0, width: 1.6, height: all, bgcolor: 'currentColor', willChange: 'transform', pointerEvents: 'none' }}
      />
    </Box>
  );
}
