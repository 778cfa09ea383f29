import { useEffect, useRef, useState } from 'react';
import { Cancelled, EngineClient } from '@/workers/client';
import type { WorkerCall, WorkerCalls } from '@/workers/protocol';

/** Quiet time (ms) before a changed request is sent. */
const SETTLE_MS = 60;

/**
 * Keeps asking the worker for the answer to the latest request; older answers are dropped. `stale` is true while a newer one is
 * on its way.
 */
export function useWorkerAnswer<K extends WorkerCall>(
  call: K,
  request: WorkerCalls[K]['request'],
): { answer: WorkerCalls[K]['answer'] | null; stale: boolean; error: string | null } {
  const client = useRef<EngineClient | null>(null);
  const [state, setState] = useState<{ answer: WorkerCalls[K]['answer'] | null; for: unknown; error: string | null }>({ answer: null, for: null, error: null });
  useEffect(() => {
    client.current ??= new EngineClient();
    const engine = client.current;
    let current = true;
    const timer = setTimeout(() => {
      engine.call(call, request).then(
        (answer) => current && setState({ answer, for: request, error: null }),
        (error: unknown) =>
          current && !(error instanceof Cancelled) && setState((s) => ({ ...s, for: request, error: error instanceof Error ? error.message : String(error) })),
      );
    }, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [call, request]);
  useEffect(() => () => client.current?.cancel(), []);
  return { answer: state.answer, stale: state.for !== request, error: state.error };
}
