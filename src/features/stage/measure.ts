import { createContext, createElement, useContext, useEffect, useId, useState, type ReactNode } from 'react';
import { Cancelled, EngineClient } from '@/workers/client';
import type { WorkerCall, WorkerCalls } from '@/workers/protocol';

/** Quiet time (ms) before a changed request is sent. */
const SETTLE_MS = 60;

const EngineContext = createContext<EngineClient | null>(null);

/** One engine worker for everything below; it ends with it. */
export function EngineProvider({ children }: { children: ReactNode }) {
  const [engine] = useState(() => new EngineClient());
  useEffect(() => () => engine.close(), [engine]);
  return createElement(EngineContext.Provider, { value: engine }, children);
}

export function useEngine(): EngineClient {
  const engine = useContext(EngineContext);
  if (!engine) throw new Error('useEngine must be called inside <EngineProvider>');
  return engine;
}

/**
 * Keeps asking the worker for the answer to the latest request; older ones are ended in the middle. `stale` is true while a
 * newer one is on its way.
 */
export function useWorkerAnswer<K extends WorkerCall>(
  call: K,
  request: WorkerCalls[K]['request'],
): { answer: WorkerCalls[K]['answer'] | null; stale: boolean; error: string | null } {
  const engine = useEngine();
  const lane = useId();
  const [state, setState] = useState<{ answer: WorkerCalls[K]['answer'] | null; for: unknown; error: string | null }>({ answer: null, for: null, error: null });
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => {
      engine.call(lane, call, request).then(
        (answer) => current && setState({ answer, for: request, error: null }),
        (error: unknown) =>
          current && !(error instanceof Cancelled) && setState((s) => ({ ...s, for: request, error: error instanceof Error ? error.message : String(error) })),
      );
    }, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [engine, lane, call, request]);
  useEffect(() => () => engine.cancel(lane), [engine, lane]);
  return { answer: state.answer, stale: state.for !== request, error: state.error };
}
