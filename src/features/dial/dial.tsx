'use client';
import Box from '@mui/material/Box';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { sidedGait } from '@/core/gait/sides';
import type { GaitSpec } from '@/core/gait/spec';
import { clamp, wrapPhase } from '@/core/math/scalar';
import type { KeyMoment } from '@/core/measure/key-moments';
import { stepsOf } from '../channel/stepping';
import type { Clock } from '../stage/clock';
import { dragOnDial, type DialDrag } from './drag';
import { dialPoint } from './geometry';
import { DialHand } from './hand';
import { rimLabels } from './labels';
import { LimbRing } from './ring';
import { CENTRE, OPPOSITE_ARM, RINGS, SHOWN, SIZE, type Limb } from './rings';

interface Props {
  readonly gait: GaitSpec;
  readonly clock: Clock;
  readonly duration: number;
  /** Contact, down, passing and up of both steps, where the motion has them. */
  readonly moments: readonly KeyMoment[];
  /** Sets phases of limbs, all of them as one step. */
  readonly onPhases: (phases: Partial<Record<Limb, number>>, mark: string) => void;
  readonly onDuty: (side: 'left' | 'right', duty: number, mark: string) => void;
  /** Called when a mark is taken; the function it returns moves it. Null where the mark cannot be moved. */
  readonly onMoment: (moment: KeyMoment) => ((phase: number, mark: string) => void) | null;
}

const DUTY_RANGE = [0.15, 0.85] as const;
/** Step of an arrow key, part of the stride, and the grain a drag goes by. */
const KEY_STEP = 0.01;
const GRAIN = 200;
/** Radius of the labels, and the part of the rim that one letter of a label takes up. */
const LABEL_RADIUS = 107;
const LETTER_SHARE = 5.1 / (2 * Math.PI * LABEL_RADIUS);
const LABEL_GAP = 0.012;

const snap = (phase: number) => wrapPhase(Math.round(phase * GRAIN) / GRAIN);
const labelWidth = (words: string) => words.length * LETTER_SHARE + LABEL_GAP;

/** Steps of an arrow key; 0 for any other key. The key is used up. */
function keySteps(e: KeyboardEvent): number {
  const steps = stepsOf(e);
  if (steps !== 0) {
    e.preventDefault();
    e.stopPropagation();
  }
  return steps * KEY_STEP;
}

/**
 * The cycle as a clock. One ring a limb: the arc is the time on the ground, for arms the forward half. Drag an arc round for
 * its phase (with Shift the opposite arm comes along), a leg's arc end for the time on the ground, a mark on the rim for its
 * moment, the hand to scrub. What is dragged tells its number.
 */
export function FootfallDial({ gait, clock, duration, moments, onPhases, onDuty, onMoment }: Props) {
  const { sides } = sidedGait(gait);
  const svg = useRef<SVGSVGElement>(null);
  const [number, setNumber] = useState<string | null>(null);
  const labels = useMemo(() => rimLabels(moments, labelWidth), [moments]);
  const drag = (begin: PointerEvent, name: string, move: (d: DialDrag) => string) =>
    dragOnDial(
      begin,
      svg,
      SIZE,
      name,
      (d) => setNumber(move(d)),
      () => setNumber(null),
    );
  const dutyOf = (side: 'left' | 'right') => sides[side === 'left' ? 0 : 1].timing.dutyFactor;
  const turnLimb = (limb: Limb, by: number, mark: string, together: boolean, from = gait.timing): number => {
    const arm = together ? OPPOSITE_ARM[limb] : undefined;
    const phase = snap(from[limb] + by);
    onPhases({ [limb]: phase, ...(arm ? { [arm]: snap(from[arm] + by) } : {}) }, mark);
    return phase;
  };
  const setDuty = (side: 'left' | 'right', duty: number, mark: string): string => {
    const value = clamp(duty, ...DUTY_RANGE);
    onDuty(side, value, mark);
    return `${(value * 100).toFixed(1)} % on the ground`;
  };
  return (
    <Box sx={{ position: 'relative', width: SHOWN, height: SHOWN, flexShrink: 0 }}>
      <Box
        component="svg"
        ref={svg}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="group"
        aria-label="Footfall dial"
        data-testid="dial"
        sx={{
          width: SHOWN,
          height: SHOWN,
          touchAction: 'none',
          userSelect: 'none',
          // Long labels reach over the edge rather than be cut off.
          overflow: 'visible',
          color: 'text.primary',
          '--left': '#C9781E',
          '--right': '#5B4BB7',
          '[data-scheme="dark"] &': { '--left': '#E39A48', '--right': '#A497F2' },
          '& [role="slider"]': { outline: 'none' },
          '& .shown': { transition: 'stroke-width 80ms' },
          '& [role="slider"]:hover .shown, & [role="slider"]:focus-visible .shown': { strokeWidth: 'calc(var(--width) + 3px)' },
          '& [role="slider"]:focus-visible .shown': { filter: 'drop-shadow(0 0 2px var(--mui-palette-primary-main))' },
        }}
      >
        <circle cx={CENTRE} cy={CENTRE} r={94} fill="none" stroke="currentColor" strokeOpacity={0.35} />
        {labels.map(({ phase, words }) => {
          const [x, y] = dialPoint(phase, LABEL_RADIUS, CENTRE);
          const turn = phase * 360;
          return (
            <text
              key={words + phase.toFixed(3)}
              data-rim-label={words}
              x={x}
              y={y}
              fontSize={9.5}
              textAnchor="middle"
              dominantBaseline="central"
              fill="currentColor"
              pointerEvents="none"
              transform={`rotate(${turn > 90 && turn < 270 ? turn + 180 : turn} ${x} ${y})`}
            >
              {words}
            </text>
          );
        })}
        {moments.map((moment) => (
          <MomentMark
            key={`${moment.side} ${moment.name}`}
            moment={moment}
            onKey={(e) => {
              const by = keySteps(e);
              if (by !== 0) onMoment(moment)?.(wrapPhase(moment.phase + by), `key-${moment.side}-${moment.name}`);
            }}
            onDrag={(e) => {
              const move = onMoment(moment);
              if (!move) return;
              drag(e, `${moment.side}-${moment.name}`, ({ phase, mark }) => {
                move(snap(phase), mark);
                return `${moment.name} ${snap(phase).toFixed(3)}`;
              });
            }}
          />
        ))}
        {RINGS.map((ring) => (
          <LimbRing
            key={ring.limb}
            ring={ring}
            gait={gait}
            onPhaseKey={(e) => {
              const by = keySteps(e);
              if (by !== 0) onPhases({ [ring.limb]: wrapPhase(Math.round((gait.timing[ring.limb] + by) * 1000) / 1000) }, `key-${ring.limb}`);
            }}
            onPhaseDrag={(e) => {
              const start = gait.timing;
              drag(e, ring.limb, ({ phase, from, mark, together }) => `${ring.label} ${turnLimb(ring.limb, phase - from, mark, together, start).toFixed(3)}`);
            }}
            onDutyKey={(e) => {
              const by = keySteps(e);
              if (by !== 0) setDuty(ring.side, dutyOf(ring.side) + by, `key-duty-${ring.side}`);
            }}
            onDutyDrag={(e) => {
              const start = gait.timing[ring.limb];
              drag(e, `duty-${ring.side}`, ({ phase, mark }) => setDuty(ring.side, Math.round(wrapPhase(phase - start) * GRAIN) / GRAIN, mark));
            }}
          />
        ))}
      </Box>
      <DialHand
        clock={clock}
        duration={duration}
        onDrag={(e) =>
          drag(e, 'scrub', ({ phase }) => {
            clock.set((Math.floor(clock.time / duration) + phase) * duration);
            return `${phase.toFixed(3)} of the stride`;
          })
        }
      />
      {number !== null && (
        <Box
          data-testid="dial-number"
          sx={{
            position: 'absolute',
            left: 0,
            top: -2,
            px: 0.5,
            fontSize: 12,
            fontWeight: 600,
            bgcolor: 'background.paper',
            border: 1,
            borderColor: 'text.primary',
            pointerEvents: 'none',
          }}
        >
          {number}
        </Box>
      )}
    </Box>
  );
}

/** A mark on the rim, wide enough to be taken. */
function MomentMark({ moment, onKey, onDrag }: { moment: KeyMoment; onKey: (e: KeyboardEvent) => void; onDrag: (e: PointerEvent) => void }) {
  const { phase, name, side } = moment;
  const [x0, y0] = dialPoint(phase, 88, CENTRE),
    [x1, y1] = dialPoint(phase, 99, CENTRE),
    [x2, y2] = dialPoint(phase, 113, CENTRE);
  const width = name === 'contact' ? 2.4 : 1.4;
  return (
    <g
      tabIndex={0}
      role="slider"
      aria-label={`${side === 'left' ? 'Left' : 'Right'} ${name}`}
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={Number(phase.toFixed(3))}
      style={{ cursor: 'grab' }}
      onKeyDown={onKey}
      onPointerDown={onDrag}
    >
      <line x1={x0} y1={y0} x2={x2} y2={y2} stroke="transparent" strokeWidth={18} />
      <line className="shown" x1={x0} y1={y0} x2={x1} y2={y1} stroke="currentColor" strokeWidth={width} style={{ '--width': `${width}px` } as object} />
    </g>
  );
}
