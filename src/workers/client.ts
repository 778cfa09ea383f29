import type { FromWorker, Progress, WorkerCall, WorkerCalls } from './protocol';

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
  readonly progress: ((p: Progress) => void) | undefined;
}

/** Told to a caller whose work was stopped. */
export class Cancelled extends Error {}

/** The page's side of one engine worker: calls with progress, and cancelling by ending the worker. */
export class EngineClient {
  private worker: Worker | null = null;
  private waiting = new Map<number, Waiting>();
  private lastId = 0;

  call<K extends WorkerCall>(call: K, request: WorkerCalls[K]['request'], progress?: (p: Progress) => void): Promise<WorkerCalls[K]['answer']> {
    const id = ++this.lastId;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as Waiting['resolve'], reject, progress });
      this.start().postMessage({ id, call, request });
    });
  }

  /** Stops whatever runs; its callers are told. The next call starts afresh. */
  cancel(): void {
    this.worker?.terminate();
    this.worker = null;
    const stopped = [...this.waiting.values()];
    this.waiting.clear();
    for (const { reject } of stopped) reject(new Cancelled('cancelled'));
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      const waiting = this.waiting.get(data.id);
      if (!waiting) return;
      if ('progress' in data) return waiting.progress?.(data.progress);
      this.waiting.delete(data.id);
      if ('error' in data) waiting.reject(new Error(data.error));
      else waiting.resolve(data.answer as never);
    };
    worker.onerror = (event) => {
      const failed = [...this.waiting.values()];
      this.waiting.clear();
      for (const { reject } of failed) reject(new Error(event.message || 'the engine worker could not start'));
    };
    return (this.worker = worker);
  }
}
