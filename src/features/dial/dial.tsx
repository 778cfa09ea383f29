'use client';
import Box from '@mui/material/Box';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { GaitSpec } from '@/core/gait/spec';
import { clamp, wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';
import { dialArc, dialPoint, KEY_POSES, phaseAt } from './geometry';

type Limb = 'leftLeg' | 'rightLeg' | 'leftArm' | 'rightArm';

interface Props {
  readonly gait: GaitSpec;
  readonly clock: Clock;
  readonly duration: number;
  readonly onPhase: (limb: Limb, phase: number, mark: string) => void;
  readonly onDuty: (duty: number, mark: string) => void;
}

const SIZE = 232;
const C = SIZE / 2;
const RINGS: readonly { limb: Limb; label: string; letter: string; radius: number; side: 'left' | 'right'; leg: boolean }[] = [
  { limb: 'leftLeg', label: 'Left leg', letter: 'L', radius: 78, side: 'left', leg: true },
  { limb: 'rightLeg', label: 'Right leg', letter: 'R', radius: 62, side: 'right', leg: true },
  { limb: 'leftArm', label: 'Left arm', letter: 'l', radius: 46, side: 'left', leg: false },
  { limb: 'rightArm', label: 'Right arm', letter: 'r', radius: 34, side: 'right', leg: false },
];
const DUTY_RANGE = [0.2, 0.85] as const;

/**
 * The cycle as a clock. One ring a limb: the arc is the time on the ground, for arms the forward half. Drag an arc round
 * for its phase, a leg's arc end for the time on the ground, the hand to scrub.
 */
export function FootfallDial({ gait, clock, duration, onPhase, onDuty }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const hand = useRef<SVGGElement>(null);
  const drags = useRef(0);

  useEffect(
    () => clock.subscribe((t) => hand.current?.setAttribute('transform', `rotate(${(wrapPhase(t / duration) * 360).toFixed(2)} ${C} ${C})`)),
    [clock, duration],
  );

  const drag = (begin: PointerEvent, move: (phase: number, mark: string, from: number) => void, name: string) => {
    begin.preventDefault();
    const box = svg.current!.getBoundingClientRect();
    const phaseOf = (e: { clientX: number; clientY: number }) =>
      phaseAt(((e.clientX - box.left) / box.width) * SIZE, ((e.clientY - box.top) / box.height) * SIZE, C);
    const from = phaseOf(begin);
    const mark = `${name}#${++drags.current}`;
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
    const step = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 0.01 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -0.01 : 0;
    if (step === 0) return;
    e.preventDefault();
    e.stopPropagation();
    onPhase(limb, snap(gait.timing[limb] + step), `key-${limb}`);
  };
  const onDutyKey = (e: KeyboardEvent) => {
    const step = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 0.01 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -0.01 : 0;
    if (step === 0) return;
    e.preventDefault();
    e.stopPropagation();
    onDuty(clamp(gait.timing.dutyFactor + step, ...DUTY_RANGE), 'key-duty');
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
      {KEY_POSES.map(({ phase, name }) => {
        const [x0, y0] = dialPoint(phase, 90, C),
          [x1, y1] = dialPoint(phase, 97, C),
          [tx, ty] = dialPoint(phase, 106, C);
        const turn = phase * 360;
        return (
          <g key={phase}>
            <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="currentColor" strokeWidth={name === 'contact' ? 2 : 1} />
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
        const span = leg ? gait.timing.dutyFactor : 0.5;
        const start = leg ? phase : phase - 0.25;
        const [lx, ly] = dialPoint(start + 0.035, radius, C);
        const [ex, ey] = dialPoint(start + span, radius, C);
        const width = leg ? 12 : 7;
        return (
          <g key={limb}>
            <circle cx={C} cy={C} r={radius} fill="none" stroke="currentColor" strokeOpacity={0.12} strokeWidth={width} />
            <path
              d={dialArc(start, span, radius, C)}
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
                aria-valuemin={20}
                aria-valuemax={85}
                aria-valuenow={Math.round(gait.timing.dutyFactor * 100)}
                onKeyDown={onDutyKey}
                onPointerDown={(e) => drag(e, (p, mark) => onDuty(clamp(Math.round(wrapPhase(p - phase) * 200) / 200, ...DUTY_RANGE), mark), 'duty')}
              />
            )}
          </g>
        );
      })}
      <g ref={hand} style={{ cursor: 'grab' }} onPointerDown={(e) => drag(e, scrub, 'scrub')}>
        <line x1={C} y1={C + 16} x2={C} y2={C - 92} stroke="transparent" strokeWidth={12} />
        <line x1={C} y1={C + 16} x2={C} y2={C - 90} stroke="currentColor" strokeWidth={1.6} />
        <circle cx={C} cy={C} r={4.5} fill="currentColor" />
        <path d={`M ${C - 5} ${C - 88} L ${C} ${C - 97} L ${C + 5} ${C - 88} Z`} fill="currentColor" />
      </g>
    </Box>
  );
}
