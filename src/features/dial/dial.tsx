'use client';
import Box from '@mui/material/Box';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { GaitSpec } from '@/core/gait/spec';
import { clamp, wrapPhase } from '@/core/math/scalar';
import { freshMark } from '../document/history';
import type { Clock } from '../stage/clock';
import type { KeyMoment } from '@/core/measure/key-moments';
import { contactPhases } from '@/core/gait/contact-phases';
import { sidedGait } from '@/core/gait/sides';
import { dialArc, dialPoint, phaseAt } from './geometry';

type Limb = 'leftLeg' | 'rightLeg' | 'leftArm' | 'rightArm';

interface Props {
  readonly gait: GaitSpec;
  readonly clock: Clock;
  readonly duration: number;
  /** Contact, down, passing and up of both steps, where the motion has them. */
  readonly moments: readonly KeyMoment[];
  readonly onPhase: (limb: Limb, phase: number, mark: string) => void;
  readonly onDuty: (side: 'left' | 'right', duty: number, mark: string) => void;
  /** Called when a mark is taken; the function it returns moves it. Null where the mark cannot be moved. */
  readonly onMoment: (moment: KeyMoment) => ((phase: number, mark: string) => void) | null;
}

const SIZE = 232;
const C = SIZE / 2;
const RINGS: readonly { limb: Limb; label: string; letter: string; radius: number; side: 'left' | 'right'; leg: boolean }[] = [
  { limb: 'leftLeg', label: 'Left leg', letter: 'L', radius: 78, side: 'left', leg: true },
  { limb: 'rightLeg', label: 'Right leg', letter: 'R', radius: 62, side: 'right', leg: true },
  { limb: 'leftArm', label: 'Left arm', letter: 'l', radius: 46, side: 'left', leg: false },
  { limb: 'rightArm', label: 'Right arm', letter: 'r', radius: 34, side: 'right', leg: false },
];
const DUTY_RANGE = [0.15, 0.85] as const;

/** Step of an arrow key, part of the stride; 0 for any other key. The key is used up. */
function stepOf(e: KeyboardEvent): number {
  const step = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 0.01 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -0.01 : 0;
  if (step !== 0) {
    e.preventDefault();
    e.stopPropagation();
  }
  return step;
}

/**
 * The cycle as a clock. One ring a limb: the arc is the time on the ground, for arms the forward half. Drag an arc round
 * for its phase, a leg's arc end for the time on the ground, a mark on the rim for its moment, the hand to scrub.
 */
export function FootfallDial({ gait, clock, duration, moments, onPhase, onDuty, onMoment }: Props) {
  const { sides } = sidedGait(gait);
  const svg = useRef<SVGSVGElement>(null);
  const hand = useRef<SVGGElement>(null);

  useEffect(
    () => clock.subscribe((t) => hand.current?.setAttribute('transform', `rotate(${(wrapPhase(t / duration) * 360).toFixed(2)} ${C} ${C})`)),
    [clock, duration],
  );

  const drag = (begin: PointerEvent, move: (phase: number, mark: string, from: number) => void, name: string) => {
    begin.preventDefault();
    (begin.currentTarget as SVGElement).focus({ preventScroll: true });
    const box = svg.current!.getBoundingClientRect();
    const phaseOf = (e: { clientX: number; clientY: number }) =>
      phaseAt(((e.clientX - box.left) / box.width) * SIZE, ((e.clientY - box.top) / box.height) * SIZE, C);
    const from = phaseOf(begin);
    const mark = freshMark(name);
    const onMove = (e: globalThis.PointerEvent) => move(phaseOf(e), mark, from);
    const onUp = () => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
  };
  const scrub = (phase: number) => {
    const turn = Math.floor(clock.time / duration);
    clock.set((turn + phase) * duration);
  };
  const snap = (phase: number) => wrapPhase(Math.round(phase * 200) / 200);

  const onLimbKey = (e: KeyboardEvent, limb: Limb) => {
    const step = stepOf(e);
    if (step !== 0) onPhase(limb, snap(gait.timing[limb] + step), `key-${limb}`);
  };
  const onDutyKey = (e: KeyboardEvent, side: 'left' | 'right') => {
    const step = stepOf(e);
    if (step !== 0) onDuty(side, clamp(dutyOf(side) + step, ...DUTY_RANGE), `key-duty-${side}`);
  };
  const dutyOf = (side: 'left' | 'right') => sides[side === 'left' ? 0 : 1].timing.dutyFactor;
  const onMomentKey = (e: KeyboardEvent, moment: KeyMoment) => {
    const step = stepOf(e);
    if (step !== 0) onMoment(moment)?.(wrapPhase(moment.phase + step), `key-${moment.side}-${moment.name}`);
  };

  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="group"
      aria-label="Footfall dial"
      data-testid="dial"
      sx={{
        width: SIZE,
        height: SIZE,
        touchAction: 'none',
        userSelect: 'none',
        color: 'text.primary',
        '--left': '#C9781E',
        '--right': '#5B4BB7',
        '[data-scheme="dark"] &': { '--left': '#E39A48', '--right': '#A497F2' },
      }}
    >
      <circle cx={C} cy={C} r={94} fill="none" stroke="currentColor" strokeOpacity={0.35} />
      {moments.map((moment) => {
        const { phase, name, side } = moment;
        const [x0, y0] = dialPoint(phase, 88, C),
          [x1, y1] = dialPoint(phase, 98, C),
          [tx, ty] = dialPoint(phase, 107, C);
        const turn = phase * 360;
        return (
          <g
            key={`${side} ${name}`}
            tabIndex={0}
            role="slider"
            aria-label={`${side === 'left' ? 'Left' : 'Right'} ${name}`}
            aria-valuemin={0}
            aria-valuemax={1}
            aria-valuenow={Number(phase.toFixed(3))}
            style={{ cursor: 'grab' }}
            onKeyDown={(e) => onMomentKey(e, moment)}
            onPointerDown={(e) => {
              const move = onMoment(moment);
              if (move) drag(e, (p, mark) => move(snap(p), mark), `${side}-${name}`);
            }}
          >
            <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="transparent" strokeWidth={9} />
            <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="currentColor" strokeWidth={name === 'contact' ? 2.4 : 1.4} />
            <text
              x={tx}
              y={ty}
              fontSize={9.5}
              textAnchor="middle"
              dominantBaseline="central"
              fill="currentColor"
              transform={`rotate(${turn > 90 && turn < 270 ? turn + 180 : turn} ${tx} ${ty})`}
            >
              {name}
            </text>
          </g>
        );
      })}
      {RINGS.map(({ limb, label, letter, radius, side, leg }) => {
        const phase = gait.timing[limb];
        const duty = dutyOf(side);
        const arcs = leg ? contactPhases(sides[side === 'left' ? 0 : 1], side === 'left' ? 0 : 1) : [{ start: phase - 0.25, duration: 0.5 }];
        const [lx, ly] = dialPoint(arcs[0]!.start + 0.035, radius, C);
        const [ex, ey] = dialPoint(phase + duty, radius, C);
        const width = leg ? 12 : 7;
        return (
          <g key={limb}>
            <circle cx={C} cy={C} r={radius} fill="none" stroke="currentColor" strokeOpacity={0.12} strokeWidth={width} />
            <path
              d={arcs.map((a) => dialArc(a.start, a.duration, radius, C)).join(' ')}
              fill="none"
              stroke={`var(--${side})`}
              strokeOpacity={leg ? 1 : 0.7}
              strokeWidth={width}
              strokeLinecap={side === 'left' ? 'round' : 'butt'}
              tabIndex={0}
              role="slider"
              aria-label={`${label} phase`}
              aria-valuemin={0}
              aria-valuemax={1}
              aria-valuenow={Number(phase.toFixed(3))}
              style={{ cursor: 'grab' }}
              onKeyDown={(e) => onLimbKey(e, limb)}
              onPointerDown={(e) => drag(e, (p, mark, from) => onPhase(limb, snap(phase + p - from), mark), limb)}
            />
            <text x={lx} y={ly} fontSize={leg ? 10 : 8} fontWeight={700} textAnchor="middle" dominantBaseline="central" fill="#fff" pointerEvents="none">
              {letter}
            </text>
            {leg && (
              <circle
                cx={ex}
                cy={ey}
                r={5}
                fill="var(--mui-palette-background-paper)"
                stroke={`var(--${side})`}
                strokeWidth={2}
                style={{ cursor: 'ew-resize' }}
                tabIndex={0}
                role="slider"
                aria-label={`${label}: time on the ground`}
                aria-valuemin={15}
                aria-valuemax={85}
                aria-valuenow={Math.round(duty * 100)}
                onKeyDown={(e) => onDutyKey(e, side)}
                onPointerDown={(e) =>
                  drag(e, (p, mark) => onDuty(side, clamp(Math.round(wrapPhase(p - phase) * 200) / 200, ...DUTY_RANGE), mark), `duty-${side}`)
                }
              />
            )}
          </g>
        );
      })}
      <g ref={hand} tabIndex={-1} style={{ cursor: 'grab', outline: 'none' }} onPointerDown={(e) => drag(e, scrub, 'scrub')}>
        <line x1={C} y1={C + 16} x2={C} y2={C - 92} stroke="transparent" strokeWidth={12} />
        <line x1={C} y1={C + 16} x2={C} y2={C - 90} stroke="currentColor" strokeWidth={1.6} />
        <circle cx={C} cy={C} r={4.5} fill="currentColor" />
        <path d={`M ${C - 5} ${C - 88} L ${C} ${C - 97} L ${C + 5} ${C - 88} Z`} fill="currentColor" />
      </g>
    </Box>
  );
}
