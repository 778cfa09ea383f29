import Box from '@mui/material/Box';
import { directionWord } from '@/core/directions/names';
import type { SetMember } from '@/core/directions/set';

const SIZE = 280;
const C = SIZE / 2;
const RADIUS = 104;
/** Room for words on either side. */
const WIDE = 46;

interface Props {
  readonly members: readonly SetMember[];
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
}

/** The set as a rose of directions: ahead is up, left is left; the length of a petal is its speed. */
export function Rose({ members, chosen, onChoose }: Props) {
  const fastest = Math.max(...members.map((m) => m.gait.timing.speed));
  const at = (deg: number, r: number): [number, number] => {
    const a = (deg * Math.PI) / 180;
    return [C - r * Math.sin(a), C - r * Math.cos(a)];
  };
  return (
    <Box
      component="svg"
      viewBox={`${-WIDE} 0 ${SIZE + 2 * WIDE} ${SIZE}`}
      role="group"
      aria-label="Rose of directions"
      data-testid="rose"
      sx={{ width: SIZE + 2 * WIDE, height: SIZE, display: 'block', mx: 'auto', color: 'text.primary' }}
    >
      {[0.25, 0.5, 0.75, 1].map((share) => (
        <g key={share}>
          <circle cx={C} cy={C} r={RADIUS * share} fill="none" stroke="currentColor" strokeOpacity={share === 1 ? 0.5 : 0.18} />
          <text
            x={at(-22.5, RADIUS * share)[0]}
            y={at(-22.5, RADIUS * share)[1]}
            textAnchor="middle"
            dominantBaseline="central"
            fontSize={9}
            fill="currentColor"
            fillOpacity={0.75}
          >
            {(fastest * share).toFixed(2)}
          </text>
        </g>
      ))}
      {members.map((m, i) => {
        const on = i === chosen;
        const r = (RADIUS * m.gait.timing.speed) / fastest;
        const half = m.twin ? 5 : 12;
        const [tx, ty] = at(m.directionDeg, r);
        const [lx, ly] = at(m.directionDeg - half, r * 0.42),
          [rx, ry] = at(m.directionDeg + half, r * 0.42);
        const [mx, my] = at(m.directionDeg, RADIUS + (m.twin ? 34 : 17));
        // Words grow away from the rose: to the left of it they end at it, to the right they begin.
        const anchor = mx < C - 20 ? 'end' : mx > C + 20 ? 'start' : 'middle';
        const [nx, ny] = [mx, my - 4];
        const word = directionWord(m.directionDeg);
        const name = m.twin ? `twin ${m.directionDeg}°, ${word}` : `${word} ${m.directionDeg}°`;
        return (
          <g
            key={name}
            role="button"
            tabIndex={0}
            aria-pressed={on}
            aria-label={name}
            style={{ cursor: 'pointer' }}
            onClick={() => onChoose(i)}
            onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), e.stopPropagation(), onChoose(i))}
          >
            <path
              d={`M ${C} ${C} L ${lx} ${ly} L ${tx} ${ty} L ${rx} ${ry} Z`}
              fill={on ? 'var(--mui-palette-primary-main)' : 'var(--mui-palette-background-paper)'}
              stroke="currentColor"
              strokeWidth={on ? 1.8 : 1}
              strokeDasharray={m.twin ? '3 2' : undefined}
            />
            <path d={`M ${C} ${C} L ${tx} ${ty} L ${rx} ${ry} Z`} fill="currentColor" fillOpacity={on ? 0.35 : 0.16} />
            {/* A petal is thin: all along it, out to its words, it can be pressed. */}
            <line x1={C} y1={C} x2={mx} y2={my} stroke="transparent" strokeWidth={22} />
            <text x={nx} y={ny} fontSize={11} fontWeight={on ? 700 : 400} textAnchor={anchor} dominantBaseline="central" fill="currentColor">
              {m.twin ? 'twin' : word}{' '}
              <tspan x={nx} dy={10} fontSize={9} fillOpacity={0.8}>
                {m.directionDeg}°
              </tspan>
            </text>
          </g>
        );
      })}
      <circle cx={C} cy={C} r={3} fill="currentColor" />
    </Box>
  );
}
