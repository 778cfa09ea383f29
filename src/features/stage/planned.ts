import { useEffect, useMemo, useRef, useState } from 'react';
import { plainPart, walkMotion, type PlannedWalk } from '@/core/project/planned-walk';
import type { MotionSpec, ProjectPart } from '@/core/project/motion-spec';
import type { SampledMotion } from '@/core/motion/sampled';
import { Cancelled, type EngineClient } from '@/workers/client';
import type { Clock } from './clock';
import { useEngine, usePlanner } from './measure';
import { isPressed } from './pressed';
import { plainStage, stageMotion, type StageMotion } from './stage-motion';

const WALK: Extract<MotionSpec, { kind: 'plan' }> = { kind: 'plan', plan: 'plan' };

/** The mark of the browser's own clock at which the walk that is wanted is shown. */
const WALK_SHOWN = 'walk shown';

/** A walk that has not changed for so long (ms) is planned in full; while a pointer is held down it may change again at once. */
const SETTLE_MS = 160;
const HELD_MS = 600;
/** Poses of the whole walk come in pieces of so many seconds, of a long one as far as this about the playhead. */
const PIECE_S = 8;
const FAR_S = 60;

/** A walk as it is shown, its own `part` telling which plan it is of. */
type Shown = StageMotion & { readonly source: SampledMotion };

const made = (part: ProjectPart, planned: PlannedWalk, settled: boolean): Shown => {
  const { motion, body, gait } = walkMotion(WALK, part, planned);
  return { ...plainStage(WALK, part), body, gait, source: motion, duration: motion.duration, faults: planned.faults, trouble: planned.trouble, settled };
};

/**
 * A walk planned by a worker: while it is being changed as it can be had at once, once it stands still in full. Until a newer one
 * is there the last one stays; before any is there a few steps straight on stand in. Of two that wait only the newer is planned.
 */
export function usePlannedWalk(part: ProjectPart | null, clock: Clock, lane: string): StageMotion | null {
  const planner = usePlanner();
  const engine = useEngine();
  const [shown, setShown] = useState<Shown | null>(null);
  const wanted = useRef<ProjectPart | null>(null);
  const busy = useRef(false);
  useEffect(() => {
    wanted.current = part;
    if (!part) return;
    const next = (): void => {
      const now = wanted.current;
      if (!now || busy.current) return;
      busy.current = true;
      planner.call(lane, 'walk', { spec: WALK, part: now, at: clock.time, quickly: true }).then(
        (planned) => {
          busy.current = false;
          // Planned in full meanwhile, it is not put back to less.
          setShown((s) => (s?.part === now ? s : made(now, planned, false)));
          if (wanted.current !== now) next();
        },
        () => void (busy.current = false),
      );
    };
    next();
    return inFull(engine, lane, part, clock, setShown);
  }, [planner, engine, part, clock, lane]);
  useEffect(
    () => () => {
      planner.cancel(lane);
      busy.current = false;
    },
    [planner, lane],
  );
  useEffect(() => {
    // What is shown is what is wanted: how long that takes is read by those who measure it.
    if (!part || shown?.part !== part) return;
    performance.clearMarks(WALK_SHOWN);
    performance.mark(WALK_SHOWN);
  }, [part, shown]);
  const arriving = part !== null && shown === null;
  const plain = useMemo(() => (arriving ? { ...stageMotion(WALK, plainPart(WALK, part)), part, arriving, settled: false } : null), [arriving, part]);
  return plain ?? (part && shown);
}

/** Plans a walk in full once it has stood still, and gets its poses piece by piece, those about the playhead first; returns what ends that. */
function inFull(
  engine: EngineClient,
  lane: string,
  part: ProjectPart,
  clock: Clock,
  show: (shown: (before: Shown | null) => Shown | null) => void,
): () => void {
  let current = true;
  const all = async () => {
    const at = clock.time;
    const full = made(part, await engine.call(lane, 'walk', { spec: WALK, part, at, quickly: false }), true);
    if (!current) return;
    show(() => full);
    // Of something plain in its place all is known.
    if (full.trouble !== null) return;
    for (const [from, to] of pieces(full.duration, at)) {
      const piece = await engine.call(`${lane} poses`, 'stretch', { spec: WALK, part, from, to });
      if (!current) return;
      full.source.take(piece);
      // What is drawn of poses that were not there is drawn again.
      if (clock.time >= from && clock.time <= to) show((s) => (s === full || s?.source === full.source ? { ...full } : s));
    }
    show((s) => (s?.source === full.source ? { ...full } : s));
    ended = fetchFar(engine, lane, full, clock, () => show((s) => (s?.source === full.source ? { ...full } : s)));
  };
  let ended = () => {};
  const failed = (error: unknown) => {
    if (!(error instanceof Cancelled)) show((s) => s && { ...s, trouble: error instanceof Error ? error.message : String(error), settled: true });
  };
  const timer = setTimeout(() => void all().catch(failed), isPressed() ? HELD_MS : SETTLE_MS);
  return () => {
    current = false;
    ended();
    clearTimeout(timer);
    engine.cancel(lane);
    engine.cancel(`${lane} poses`);
  };
}

/** Gets poses of a long walk where the playhead comes to that are not there yet; returns what ends that. */
function fetchFar(engine: EngineClient, lane: string, { source, part }: Shown, clock: Clock, drawn: () => void): () => void {
  let busy = false;
  return clock.subscribe((time) => {
    if (busy || source.knows(time)) return;
    busy = true;
    engine.call(`${lane} poses`, 'stretch', { spec: WALK, part, from: Math.max(0, time - PIECE_S / 4), to: time + PIECE_S }).then(
      (piece) => {
        busy = false;
        source.take(piece);
        drawn();
      },
      () => void (busy = false),
    );
  });
}

/** Spans (s) of a walk's time, those nearest to `at` first. */
function pieces(duration: number, at: number): [number, number][] {
  const first = Math.max(0, at - FAR_S),
    last = Math.min(duration, at + FAR_S);
  const spans: [number, number][] = [];
  for (let from = first; from < last; from += PIECE_S) spans.push([from, Math.min(last, from + PIECE_S)]);
  const off = ([from, to]: [number, number]) => Math.abs((from + to) / 2 - at);
  return spans.sort((a, b) => off(a) - off(b));
}
