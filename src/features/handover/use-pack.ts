import { useEffect, useId, useState } from 'react';
import { Cancelled } from '@/workers/client';
import type { Progress, WorkerCalls } from '@/workers/protocol';
import { useEngine } from '../stage/measure';

/** A written pack with an address it can be saved from. */
export interface PackResult {
  readonly name: string;
  readonly url: string;
  readonly size: number;
  readonly files: WorkerCalls['pack']['answer']['files'];
}

/** Writes packs in the worker, with progress and cancelling; the last result stays until the next begins. */
export function usePack() {
  const engine = useEngine();
  const lane = useId();
  const [state, setState] = useState<{ running: boolean; progress: Progress | null; result: PackResult | null; error: string | null }>({
    running: false,
    progress: null,
    result: null,
    error: null,
  });
  const url = state.result?.url;
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  useEffect(() => () => engine.cancel(lane), [engine, lane]);
  return {
    ...state,
    cancel: () => engine.cancel(lane),
    run: (request: WorkerCalls['pack']['request']) => {
      setState({ running: true, progress: null, result: null, error: null });
      engine
        .call(lane, 'pack', request, (progress) => setState((s) => ({ ...s, progress })))
        .then(
          ({ name, mime, bytes, files }) => {
            const blob = new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mime });
            setState({ running: false, progress: null, result: { name, url: URL.createObjectURL(blob), size: blob.size, files }, error: null });
          },
          (error: unknown) =>
            setState({
              running: false,
              progress: null,
              result: null,
              error:
                error instanceof Cancelled ? 'Stopped. Nothing was written.' : `Nothing was written: ${error instanceof Error ? error.message : String(error)}`,
            }),
        );
    },
  };
}
