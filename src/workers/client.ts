import type { FromWorker, Progress, ToWorker, WorkerCall, WorkerCalls } from './protocol';

interface Waiting {
  readonly lane: string;
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
  readonly progress: ((p: Progress) => void) | undefined;
}

/** Told to a caller whose work was stopped, or who asked for something newer in the same lane. */
export class Cancelled extends Error {}

/** The page's side of one engine worker: calls with progress; in each lane the newest wins, and can be cancelled. */
export class EngineClient {
  private worker: Worker | null = null;
  private waiting = new Map<number, Waiting>();
  private lastId = 0;

  call<K extends WorkerCall>(lane: string, call: K, request: WorkerCalls[K]['request'], progress?: (p: Progress) => void): Promise<WorkerCalls[K]['answer']> {
    const id = ++this.lastId;
    this.drop(lane);
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { lane, resolve: resolve as Waiting['resolve'], reject, progress });
      this.start().postMessage({ id, lane, call, request } as ToWorker);
    });
  }

  /** Stops what runs in a lane; its caller is told. */
  cancel(lane: string): void {
    if (!this.drop(lane)) return;
    this.worker?.postMessage({ lane, cancel: true } satisfies ToWorker);
  }

  /** Ends the worker. */
  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.fail(new Cancelled('cancelled'));
  }

  private drop(lane: string): boolean {
    const dropped = [...this.waiting].filter(([, w]) => w.lane === lane);
    for (const [id, { reject }] of dropped) {
      this.waiting.delete(id);
      reject(new Cancelled('cancelled'));
    }
    return dropped.length > 0;
  }

  private fail(error: Error): void {
    const failed = [...this.waiting.values()];
    this.waiting.clear();
    for (const { reject } of failed) reject(error);
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
    worker.onerror = (event) => this.fail(new Error(event.message || 'the engine worker could not start'));
    return (this.worker = worker);
  }
}
