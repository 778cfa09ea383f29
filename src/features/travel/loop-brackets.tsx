import type { LoopCandidate } from '@/core/travel/find-loops';

/** Seam (m) from which a candidate is drawn as faint as may be. */
const FAINT_M = 0.08;
const TOP = 15;
const FOOT = 62;

/** Candidate loops as brackets over the contacts: the better the darker, with the seam in millimetres at its foot. */
export function LoopBrackets({ loops, at, rate, x }: { loops: readonly LoopCandidate[]; at: number | null; rate: number; x: (t: number) => number }) {
  return (
    <g data-testid="loop-brackets" pointerEvents="none">
      {loops.map(({ from, to, seam }, i) => {
        const [a, b] = [x(from / rate), x(to / rate)];
        const dark = at === i ? 1 : Math.max(0.18, 0.85 * (1 - seam / FAINT_M));
        return (
          <g key={`${from}-${to}`} opacity={at === null || at === i ? dark : dark * 0.5}>
            <path
              d={`M${a + 5} ${TOP}H${a}V${FOOT}H${a + 5}M${b - 5} ${TOP}H${b}V${FOOT}H${b - 5}`}
              fill="none"
              stroke="currentColor"
              strokeWidth={at === i ? 2.4 : 1.4}
            />
            {(at === i || i === 0) && (
              <text x={a + 6} y={FOOT + 9} fontSize={10} fill="currentColor">
                {(seam * 1000).toFixed(1)} mm
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
