import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll } from 'vitest';

const nimbret = join(import.meta.dirname, '..', '..', 'nimbret');

export interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** What `check --json` says, as far as tests read it. */
export interface Check {
  readonly format: string;
  readonly frames: number;
  readonly rate: number;
  readonly told: boolean | null;
  readonly floorGoesM?: readonly [number, number];
  readonly unitMetres: number;
  readonly slideMm: { readonly atFrames: number };
  readonly sinkMm: number;
  readonly travel: {
    readonly speedMps: number;
    readonly directionDeg: number;
    readonly distanceM: number;
    readonly displacementM: number;
    readonly turnDeg: number;
  };
  readonly timing: { readonly strideLengthM: number; readonly dutyFactor: { readonly left: number } };
  readonly seam: { readonly positionM: number } | null;
  readonly contacts: readonly { readonly foot: string; readonly from: number; readonly to: number }[];
}

/** The command line in a folder that is not the project's and is gone after the tests of a file. */
export function commandLine() {
  const folder = mkdtempSync(join(tmpdir(), 'nimbret-cli-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const execute = (file: string, args: readonly string[]) =>
    new Promise<Ran>((resolve) => {
      execFile(file, args, { cwd: folder, env: { ...process.env, N: nimbret } }, (error, out, err) =>
        resolve({ code: error ? Number(error.code) : 0, out, err }),
      );
    });
  const run = (...args: string[]) => execute(nimbret, args);
  return {
    folder,
    run,
    /** Runs a line of the shell, in which $N is the command. */
    shell: (line: string) => execute('bash', ['-c', line]),
    check: async (file: string, ...options: string[]): Promise<Check> => JSON.parse((await run('check', file, ...options, '--json')).out) as Check,
  };
}
