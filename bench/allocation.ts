import { Session } from 'node:inspector/promises';

interface ProfileNode {
  readonly selfSize: number;
  readonly children: readonly ProfileNode[];
}

/** Bytes the heap gives out per turn of `run(turns)`, by V8's sampling heap profiler; collected ones included. */
export async function bytesPerTurn(run: (turns: number) => void, turns: number): Promise<number> {
  run(turns);
  const session = new Session();
  session.connect();
  await session.post('HeapProfiler.startSampling', {
    samplingInterval: 512,
    includeObjectsCollectedByMajorGC: true,
    includeObjectsCollectedByMinorGC: true,
  } as object);
  run(turns);
  const { profile } = await session.post('HeapProfiler.stopSampling');
  session.disconnect();
  const sum = (node: ProfileNode): number => node.selfSize + node.children.reduce((total, child) => total + sum(child), 0);
  return sum(profile.head) / turns;
}
