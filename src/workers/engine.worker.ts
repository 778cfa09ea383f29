import { handle } from './handlers';
import type { FromWorker, ToWorker } from './protocol';

/** The core behind a web worker. */
const scope = self as unknown as { onmessage: ((e: MessageEvent<ToWorker>) => void) | null; postMessage: (m: FromWorker, transfer?: Transferable[]) => void };

scope.onmessage = ({ data }) => {
  handle(data, (progress) => scope.postMessage({ id: data.id, progress })).then(
    (answer) => scope.postMessage({ id: data.id, answer }),
    (error: unknown) => scope.postMessage({ id: data.id, error: error instanceof Error ? error.message : String(error) }),
  );
};
