import { fetchFile } from './files';
import { Jobs } from './jobs';
import type { FromWorker, ToWorker } from './protocol';

/** The core behind a web worker. */
const scope = self as unknown as { onmessage: ((e: MessageEvent<ToWorker>) => void) | null; postMessage: (m: FromWorker, transfer: Transferable[]) => void };

// A message to oneself comes after those that wait, and sooner than any timer.
const bell = new MessageChannel();
const waiting: (() => void)[] = [];
bell.port1.onmessage = () => waiting.shift()?.();
const listen = () =>
  new Promise<void>((resolve) => {
    waiting.push(resolve);
    bell.port2.postMessage(null);
  });

const jobs = new Jobs(
  (message) => scope.postMessage(message, 'answer' in message ? [...((message.answer as { transfer?: ArrayBuffer[] } | undefined)?.transfer ?? [])] : []),
  listen,
  () => performance.now(),
  fetchFile,
);
scope.onmessage = ({ data }) => jobs.take(data);
