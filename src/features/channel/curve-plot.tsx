import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { compileCurve, curveValue, KEY_SLOPE_RANGE, KEY_VALUE_RANGE, type CurveKey } from '@/core/gait/curve';
import { clamp, wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';

const W = 372;
const PAD = 8;
const TOP = 1.5;
/** Length (px) of the line that shows and turns a key's slope. */
const ARM_PX = 34;

interface Props {
  readonly name: string;
  readonly keys: readonly CurveKey[];
  readonly chosen: ReadonlySet<number>;
  /** False where the curve is the channel's own and not yet one of keys. */
  readonly own: boolean;
  readonly height: number;
  /** What values of −1, 0 and 1 are in the channel's unit. */
  readonly scale: readonly [string, string, string];
  readonly clock: Clock;
  readonly duration: number;
  readonly onAdd: (at: number, value: number) => void;
  readonly onChoose: (index: number, more: boolean) => void;
  /** Moves the chosen keys, one of them by so much from where it was when the drag began; `first` opens a step of undo. */
  readonly onMove: (index: number, byAt: number, byValue: number, first: boolean) => void;
  readonly onSlope: (index: number, slope: number, first: boolean) => void;
  readonly onKey: (e: KeyboardEvent, index: number) => void;
}

const toX = (at: number): number => PAD + at * (W - 2 * PAD);
const fromX = (x: number): number => clamp((x - PAD) / (W - 2 * PAD), 0, 0.9999);

/** The picture of a curve: its shape, its keys and the slope of the one chosen, dragged and stepped. */
export function CurvePlot({ name, keys, chosen, own, height: H, scale, clock, duration, onAdd, onChoose, onMove, onSlope, onKey }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const head = useRef<SVGLineElement>(null);
  const perValue = (H / 2 - PAD) / TOP;
  const toY = (value: number): number => H / 2 - value * perValue;
  const fromY = (y: number): number => clamp((H / 2 - y) / perValue, ...KEY_VALUE_RANGE);
  const pieces = useMemo(() => compileCurve(keys), [keys]);
  const path = Array.from({ length: 187 }, (_, i) => `${(PAD + (i / 186) * (W - 2 * PAD)).toFixed(1)},${toY(curveValue(pieces, i / 186)).toFixed(1)}`).join(
    ' ',
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
  const place = (e: { clientX: number; clientY: number }): { x: number; y: number } => {
    const box = svg.current!.getBoundingClientRect();
    return { x: ((e.clientX - box.left) / box.width) * W, y: ((e.clientY - box.top) / box.height) * H };
  };
  const drag = (begin: PointerEvent, move: (x: number, y: number, first: boolean) => void, unmoved: () => void = () => {}) => {
    begin.preventDefault();
    (begin.currentTarget as SVGElement).focus({ preventScroll: true });
    let first = true;
    const onPointer = (e: globalThis.PointerEvent) => {
      const { x, y } = place(e);
      move(x, y, first);
      first = false;
    };
    const up = () => {
      if (first) unmoved();
      window.removeEventListener('pointermove', onPointer);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('pointercancel', up);
    };
    window.addEventListener('pointermove', onPointer);
    window.addEventListener('pointerup', up);
    window.addEventListener('pointercancel', up);
  };
  const sole = chosen.size === 1 ? [...chosen][0]! : -1;
  const turnable = sole >= 0 && keys[sole] && keys[sole].tangent !== 'linear' && keys[sole].tangent !== 'held' ? keys[sole] : null;
  const slopeHere = turnable ? (turnable.slope ?? (curveValue(pieces, turnable.at + 1e-4) - curveValue(pieces, turnable.at - 1e-4)) / 2e-4) : 0;
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      onDoubleClick={(e: React.MouseEvent) => {
        const { x, y } = place(e);
        onAdd(fromX(x), fromY(y));
      }}
      sx={{ width: 1, display: 'block', touchAction: 'none', userSelect: 'none', bgcolor: 'background.paper', color: 'text.primary' }}
    >
      {[0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875].map((p) => (
        <line key={p} x1={toX(p)} x2={toX(p)} y1={0} y2={H} stroke="currentColor" strokeOpacity={p % 0.5 === 0 ? 0.4 : 0.13} />
      ))}
      {([-1, 0, 1] as const).map((v) => (
        <g key={v}>
          <line x1={0} x2={W} y1={toY(v)} y2={toY(v)} stroke="currentColor" strokeOpacity={v === 0 ? 0.4 : 0.15} />
          <text x={W - 3} y={toY(v) - 2} fontSize={9.5} textAnchor="end" fill="currentColor" data-scale={v}>
            {scale[v + 1]}
          </text>
        </g>
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
      {turnable && (
        <SlopeArm
          name={name}
          x={toX(turnable.at)}
          y={toY(turnable.value)}
          // Pixels the curve climbs for one it goes along.
          climb={(slopeHere * perValue) / (W - 2 * PAD)}
          slope={slopeHere}
          onTurn={(e) =>
            drag(e, (x, y, first) => {
              const along = x - toX(turnable.at);
              if (Math.abs(along) < 2) return;
              const slope = (-(y - toY(turnable.value)) / along) * ((W - 2 * PAD) / perValue);
              onSlope(sole, clamp(Math.round(slope * 10) / 10, ...KEY_SLOPE_RANGE), first);
            })
          }
        />
      )}
      {keys.map((k, i) => (
        <Box
          key={i}
          component="circle"
          cx={toX(k.at)}
          cy={toY(k.value)}
          r={chosen.has(i) ? 5.5 : 4}
          tabIndex={0}
          role="slider"
          aria-label={`Key ${i + 1} of ${name}`}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(k.at * 1000) / 10}
          aria-valuetext={`${(k.at * 100).toFixed(1)} percent, value ${k.value.toFixed(2)}, ${k.tangent}${chosen.has(i) ? ', chosen' : ''}`}
          onFocus={() => !chosen.has(i) && onChoose(i, false)}
          onPointerDown={(e: PointerEvent) => {
            if (e.shiftKey) {
              e.preventDefault();
              return onChoose(i, true);
            }
            if (!chosen.has(i)) onChoose(i, false);
            // A press without a move chooses this one of several.
            drag(
              e,
              (x, y, first) => onMove(i, fromX(x) - k.at, fromY(y) - k.value, first),
              () => onChoose(i, false),
            );
          }}
          onKeyDown={(e: KeyboardEvent) => onKey(e, i)}
          sx={{
            cursor: 'grab',
            fill: chosen.has(i) ? 'var(--mui-palette-primary-main)' : 'var(--mui-palette-background-paper)',
            stroke: 'var(--mui-palette-primary-main)',
            strokeWidth: 1.8,
          }}
        />
      ))}
    </Box>
  );
}

/** The slope of a key as a line through it, turned by its open end. */
function SlopeArm({
  name,
  x,
  y,
  climb,
  slope,
  onTurn,
}: {
  name: string;
  x: number;
  y: number;
  climb: number;
  slope: number;
  onTurn: (e: PointerEvent) => void;
}) {
  const length = Math.hypot(1, climb);
  const [dx, dy] = [ARM_PX / length, (-climb * ARM_PX) / length];
  return (
    <g>
      <line x1={x - dx} y1={y - dy} x2={x + dx} y2={y + dy} stroke="currentColor" strokeWidth={1} />
      <g
        role="slider"
        tabIndex={0}
        aria-label={`Slope of the key of ${name}`}
        aria-valuenow={Number(slope.toFixed(1))}
        style={{ cursor: 'grab' }}
        onPointerDown={onTurn}
      >
        <circle cx={x + dx} cy={y + dy} r={9} fill="transparent" />
        <rect x={x + dx - 3} y={y + dy - 3} width={6} height={6} fill="var(--mui-palette-background-paper)" stroke="currentColor" />
      </g>
    </g>
  );
}
