import type { LoopCandidate } from '@/core/travel/find-loops';

/** Seam (m) from which a candidate is drawn as faint as may be. */
const FAINT_M = 0.08;
const TOP = 15;
const FOOT = 62;

/** How much (px) farther down the brackets of each lane reach, and how many lanes there is room for. */
const LANE = 4;
const LANES = 6;

/** The lane of each loop: those that overlap reach down to different depths, the better ones less far. */
export function stacked(loops: readonly Pick<LoopCandidate, 'from' | 'to'>[]): number[] {
  const lanes: number[] = [];
  loops.forEach(({ from, to }, i) => {
    const taken = new Set(lanes.filter((_, k) => loops[k]!.from < to && from < loops[k]!.to));
    const free = Array.from({ length: LANES }, (_, lane) => lane).find((lane) => !taken.has(lane));
    lanes.push(free ?? i % LANES);
  });
  return lanes;
}

/** Candidate loops as brackets over the contacts: the better the darker, with the seam in millimetres at its foot. */
export function LoopBrackets({ loops, at, rate, x }: { loops: readonly LoopCandidate[]; at: number | null; rate: number; x: (t: number) => number }) {
  const lanes = stacked(loops);
  return (
    <g data-testid="loop-brackets" pointerEvents="none">
      {loops.map(({ from, to, seam }, i) => {
        const [a, b] = [x(from / rate), x(to / rate)];
        const foot = FOOT + lanes[i]! * LANE;
        const dark = at === i ? 1 : Math.max(0.18, 0.85 * (1 - seam / FAINT_M));
        return (
          <g key={`${from}-${to}`} opacity={at === null || at === i ? dark : dark * 0.5}>
            <path
              d={`M${a + 5} ${TOP}H${a}V${foot}H${a + 5}M${b - 5} ${TOP}H${b}V${foot}H${b - 5}`}
              data-lane={lanes[i]}
              fill="none"
              stroke="currentColor"
              strokeWidth={at === i ? 2.4 : 1.4}
            />
            {(at === i || i === 0) && (
              <text x={a + 6} y={foot + 9} fontSize={10} fill="currentColor">
                {(seam * 1000).toFixed(1)} mm
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
