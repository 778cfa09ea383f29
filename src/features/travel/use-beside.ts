import { useEffect, useMemo, useState } from 'react';
import { measuredBody } from '@/core/body/measured';
import { fitGait } from '@/core/gait/fit';
import type { Motion } from '@/core/motion/motion';
import { laidMotion, type Shown } from '@/core/motion/laid';
import { cycle } from '@/core/motion/solved';
import type { ClipSpec } from '@/core/travel/clip-spec';
import { clipView } from '@/core/travel/clip-view';
import type { EngineClient } from '@/workers/client';
import type { ClipAnswer } from '@/workers/protocol';
import { useDocument } from '../document/context';
import { useSession } from '../stage/session';

interface Beside {
  readonly beside: readonly Shown[];
  readonly other: ClipAnswer | null;
}

/** What is shown beside a clip, as the session asks for it. */
export function useBeside(engine: EngineClient, id: string | null, spec: ClipSpec | null, shown: Motion | null): Beside {
  const ghostOn = useSession((s) => s.clipGhost);
  const plain = useMemo(() => (ghostOn && spec ? { ...spec, travel: { ...spec.travel, lock: null }, layers: [], baked: [] } : null), [ghostOn, spec]);
  const ghost = useSpecMotion(engine, plain, 'clip-ghost');
  const beside = useSession((s) => s.clipBeside);
  const otherSpec = useDocument((s) =>
    beside && beside.id !== id && s.meta[beside.id]?.kind === 'clip' ? ((s.specs[beside.id] as ClipSpec | undefined) ?? null) : null,
  );
  const other = useSpecMotion(engine, otherSpec, 'clip-beside');
  const taken = useSession((s) => (s.taken !== null && s.taken.clip === id && s.taken.over ? s.taken.fit : null));
  const gait = useMemo(() => (taken && shown ? cycle(fitGait(taken.gait, shown.body.legLength), shown.body) : null), [taken, shown]);
  return useMemo(() => {
    const all: (Shown | null)[] = [
      ghost?.motion ?? null,
      other && beside && shown ? laidMotion(shown, other.motion, beside.laid) : null,
      gait && taken && shown ? laidMotion(shown, gait, 'left', taken.strides[0]!.from) : null,
    ];
    return { beside: shown ? all.filter((m) => m !== null) : [], other: other?.answer ?? null };
  }, [ghost, other, beside, gait, taken, shown]);
}

/** A clip's motion on a body of its own; the last one until the next is there, null where none is wanted. */
function useSpecMotion(engine: EngineClient, spec: ClipSpec | null, lane: string): { readonly answer: ClipAnswer; readonly motion: Motion } | null {
  const key = spec && JSON.stringify(spec);
  const [state, setState] = useState<{ readonly answer: ClipAnswer; readonly motion: Motion } | null>(null);
  useEffect(() => {
    if (key === null) return setState(null);
    let current = true;
    const asked = JSON.parse(key) as ClipSpec;
    engine.call(lane, 'clip', { spec: asked }).then(
      (answer) => {
        const motion = clipView({ ...answer, contacts: answer.held }, measuredBody(answer.clip.skeleton, answer.figure, asked.name));
        if (current) setState({ answer, motion });
      },
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, key, lane]);
  return key === null ? null : state;
}
