/** What thinning needs to know of a saved state. */
export interface Aged {
  readonly id: number;
  /** Milliseconds since 1970. */
  readonly savedAt: number;
  readonly kept: boolean;
}

const MINUTE = 60_000,
  HOUR = 60 * MINUTE,
  DAY = 24 * HOUR;

/** One state stays of each span of `every`, for states up to `until` old. */
const GRADES = [
  { until: MINUTE, every: 10_000 },
  { until: HOUR, every: 5 * MINUTE },
  { until: DAY, every: HOUR },
  { until: 30 * DAY, every: DAY },
  { until: Infinity, every: 7 * DAY },
] as const;

/**
 * States that may go, of one item, given oldest first. Of each span of time the last stays, which is where the work came to
 * rest; the older, the longer the span. The first, the latest, the one before it and what a person keeps stay for good.
 */
export function fadedStates(states: readonly Aged[], now: number): number[] {
  const span = (s: Aged): string => {
    const age = Math.max(0, now - s.savedAt);
    const { every } = GRADES.find((g) => age <= g.until)!;
    return `${every}:${Math.floor(s.savedAt / every)}`;
  };
  return states.filter((s, i) => i > 0 && i < states.length - 2 && !s.kept && span(s) === span(states[i + 1]!)).map((s) => s.id);
}
