import { useEffect, useRef, useState } from 'react';
import { Cancelled, EngineClient } from '@/workers/client';
import type { Progress, WorkerCalls } from '@/workers/protocol';

/** A written pack with an address it can be saved from. */
export interface PackResult {
  readonly name: string;
  readonly url: string;
  readonly size: number;
  readonly files: WorkerCalls['pack']['answer']['files'];
}

/** Writes packs in the worker, with progress and cancelling; the last result stays until the next begins. */
export function usePack() {
  const client = useRef<EngineClient | null>(null);
  const [state, setState] = useState<{ running: boolean; progress: Progress | null; result: PackResult | null; error: string | null }>({
    running: false,
    progress: null,
    result: null,
    error: null,
  });
  const url = state.result?.url;
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  useEffect(() => () => client.current?.cancel(), []);
  return {
    ...state,
    cancel: () => client.current?.cancel(),
    run: (request: WorkerCalls['pack']['request']) => {
      client.current ??= new EngineClient();
      setState({ running: true, progress: null, result: null, error: null });
      client.current
        .call('pack', request, (progress) => setState((s) => ({ ...s, progress })))
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
