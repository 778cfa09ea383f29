import { Clips } from './clips';
import { work } from './handlers';
import { Motions } from './motions';
import type { FromWorker, ToWorker } from './protocol';

/** Longest time (ms) a job works before the worker listens again. */
const SLICE_MS = 8;

interface Job {
  readonly id: number;
  readonly lane: string;
  over: boolean;
}

/**
 * The worker's desk: jobs work in slices, side by side, so that a newer request or a cancel is heard in the middle of an
 * older one. A newer request in a lane ends the one before it; what was ended is not answered.
 */
export class Jobs {
  private readonly motions = new Motions();
  private readonly clips: Clips;
  private readonly lanes = new Map<string, Job>();

  constructor(
    private readonly tell: (message: FromWorker) => void,
    /** Resolves once waiting messages have been heard. */
    private readonly listen: () => Promise<void>,
    private readonly now: () => number,
    /** Gets the bytes of a file by their hash. */
    fetchFile: (hash: string) => Promise<Uint8Array>,
  ) {
    this.clips = new Clips(fetchFile);
  }

  take(message: ToWorker): void {
    const before = this.lanes.get(message.lane);
    if (before) before.over = true;
    this.lanes.delete(message.lane);
    if ('cancel' in message) return;
    const job: Job = { id: message.id, lane: message.lane, over: false };
    this.lanes.set(message.lane, job);
    void this.run(job, message);
  }

  private async run(job: Job, message: Extract<ToWorker, { id: number }>): Promise<void> {
    try {
      await this.listen();
      if (job.over) return;
      const steps = work(message, this.motions, this.clips);
      let since = this.now();
      for (;;) {
        const { done, value } = await steps.next();
        if (job.over) return void (await steps.return(undefined as never));
        if (done) {
          this.tell({ id: job.id, answer: value });
          break;
        }
        if (value) this.tell({ id: job.id, progress: value });
        if (this.now() - since < SLICE_MS) continue;
        await this.listen();
        if (job.over) return void (await steps.return(undefined as never));
        since = this.now();
      }
    } catch (error) {
      this.tell({ id: job.id, error: error instanceof Error ? error.message : String(error) });
    }
    if (this.lanes.get(job.lane) === job) this.lanes.delete(job.lane);
  }
}
