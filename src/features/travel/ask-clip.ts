import type { ClipSpec } from '@/core/travel/clip-spec';
import { Cancelled, type EngineClient } from '@/workers/client';
import type { Progress, WorkerCalls } from '@/workers/protocol';
import { fetchFile } from './clip-files';

/** What the worker can be asked about a clip. */
type ClipCall = 'clip' | 'loops' | 'clipFile' | 'takeGait';

/** Asks the worker about a clip; it gets the file where it has not read it yet. */
export async function askAbout<K extends ClipCall>(
  engine: EngineClient,
  lane: string,
  call: K,
  request: WorkerCalls[K]['request'],
  progress?: (p: Progress) => void,
): Promise<WorkerCalls[K]['answer']> {
  try {
    return await engine.call(lane, call, request, progress);
  } catch (error) {
    if (error instanceof Cancelled || !(error instanceof Error) || error.message !== 'file is not loaded') throw error;
    const { hash, name } = request.spec.file;
    await engine.call(lane, 'bring', { hash, name, bytes: await fetchFile(hash) });
    return engine.call(lane, call, request, progress);
  }
}

/** A clip as its spec wants it. */
export const askClip = (engine: EngineClient, spec: ClipSpec, lane = 'clip'): Promise<WorkerCalls['clip']['answer']> =>
  askAbout(engine, lane, 'clip', { spec });
