import { distanceTo } from '../ground/build';
import type { Foothold, Motion } from '../motion/motion';
import { printFaults, MOST_STEP_LEGS } from './faults';

/** What nobody could step as it lies: where (step, side), what, by how much, and what would do; in words. */
export interface CannotStep {
  /** The print, by its number; null where it is none's. */
  readonly step: number | null;
  readonly side: 0 | 1 | null;
  readonly words: string;
  /** When it is to be seen, s; null where it is so all the time. */
  readonly at: number | null;
  /** False of what can be stepped, but not when, or as quick as, it was asked for. */
  readonly cannot: boolean;
}

/** A body's middle keeps so far (m, for a leg of 0.845 m) from what stands in its way; places looked at lie so far (m) apart. */
const KEEPS_M = 0.1;
const LOOKS_M = 0.04;
const REFERENCE_LEG_M = 0.845;

/**
 * What of a motion nobody could step: prints out of reach, without footing, turned or crossed too far; both feet on the ground
 * farther apart than legs go; what the body walks through; and marks that are missed. Empty where someone could walk it as
 * it is asked for.
 */
export function cannotStep(motion: Motion): CannotStep[] {
  return [...(motion.repeat ? [] : printFaults(motion)), ...splits(motion), ...throughObstacles(motion)];
}

/** Both feet on the ground at once, farther apart than they go: the widest. */
function splits({ footholds, duration, repeat, body }: Motion): CannotStep[] {
  // What is out of reach of a walk is told at its prints.
  if (!repeat) return [];
  const most = MOST_STEP_LEGS * body.legLength;
  const holds = [...footholds(0, duration)].sort((a, b) => a.landing - b.landing);
  const apart = (a: Foothold, b: Foothold) => (a.side !== b.side && a.leaving > b.landing ? Math.hypot(a.x - b.x, a.z - b.z) : 0);
  const widest = holds.reduce((far, b) => holds.reduce((d, a) => (a.landing <= b.landing ? Math.max(d, apart(a, b)) : d), far), 0);
  if (widest <= most + 1e-6) return [];
  return [
    {
      step: null,
      side: null,
      at: null,
      cannot: true,
      words: `stands in the splits: its feet are ${widest.toFixed(2)} m apart on the ground, ${most.toFixed(2)} m at most for these legs`,
    },
  ];
}

/** Obstacles that the body's middle comes into, each once, where it is deepest. */
function throughObstacles({ ground, place, duration, repeat, footholds, body, pace }: Motion): CannotStep[] {
  const obstacles = ground.obstacles ?? [];
  if (repeat || obstacles.length === 0) return [];
  const keeps = (KEEPS_M * body.legLength) / REFERENCE_LEG_M;
  const at = new Float64Array(4);
  const count = Math.min(20_000, Math.max(2, Math.ceil((duration * Math.max(0.5, Math.abs(pace.speed))) / LOOKS_M)));
  const deepest = obstacles.map(() => ({ by: 0, time: 0 }));
  for (let i = 0; i <= count; i++) {
    const time = (duration * i) / count;
    place(time, at);
    obstacles.forEach((o, k) => {
      const by = keeps - distanceTo(o, at[0]!, at[2]!);
      if (by > deepest[k]!.by) deepest[k] = { by, time };
    });
  }
  return obstacles.flatMap((o, k): CannotStep[] => {
    const { by, time } = deepest[k]!;
    if (by < 1e-3) return [];
    const hold = footholds(0, time).reduce<Foothold | null>((last, h) => (h.landing <= time && (!last || h.landing > last.landing) ? h : last), null);
    return [
      {
        step: hold?.step ?? null,
        side: hold?.side ?? null,
        at: time,
        cannot: true,
        words: `walks through what stands at ${o.x.toFixed(2)}, ${o.z.toFixed(2)} m: ${Math.round(by * 1000)} mm too near; the course must lie so much farther to its side`,
      },
    ];
  });
}
