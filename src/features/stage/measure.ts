import { createContext, createElement, useContext, useEffect, useId, useState, type ReactNode } from 'react';
import { Cancelled, EngineClient } from '@/workers/client';
import type { WorkerCall, WorkerCalls } from '@/workers/protocol';

/** Quiet time (ms) before a changed request is sent. */
const SETTLE_MS = 60;

interface Engines {
  readonly engine: EngineClient;
  readonly planner: EngineClient;
}
const EnginesContext = createContext<Engines | null>(null);

/** The engine's workers for everything below; they end with it, and none is started before it is asked. */
export function EngineProvider({ children }: { children: ReactNode }) {
  const [engines] = useState((): Engines => ({ engine: new EngineClient(), planner: new EngineClient() }));
  useEffect(
    () => () => {
      engines.engine.close();
      engines.planner.close();
    },
    [engines],
  );
  return createElement(EnginesContext.Provider, { value: engines }, children);
}

function useEngines(): Engines {
  const engines = useContext(EnginesContext);
  if (!engines) throw new Error('an engine must be asked for inside <EngineProvider>');
  return engines;
}

/** Measures, writes and reads; work there may take seconds. */
export const useEngine = (): EngineClient => useEngines().engine;

/** Plans what is being changed at this moment, and nothing else: it is never busy with something longer. */
export const usePlanner = (): EngineClient => useEngines().planner;

/**
 * Keeps asking the worker for the answer to the latest request; older ones are ended in the middle. `stale` is true while a
 * newer one is on its way. While `hold` nothing is asked: a newer request will come.
 */
export function useWorkerAnswer<K extends WorkerCall>(
  call: K,
  request: WorkerCalls[K]['request'],
  hold = false,
): { answer: WorkerCalls[K]['answer'] | null; stale: boolean; error: string | null } {
  const engine = useEngine();
  const lane = useId();
  const [state, setState] = useState<{ answer: WorkerCalls[K]['answer'] | null; for: unknown; error: string | null }>({ answer: null, for: null, error: null });
  useEffect(() => {
    if (hold) return;
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
  }, [engine, lane, call, request, hold]);
  useEffect(() => () => engine.cancel(lane), [engine, lane]);
  return { answer: state.answer, stale: state.for !== request, error: state.error };
}
