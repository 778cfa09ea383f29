import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const project = (name: string, include: string[], exclude: string[], isolate: boolean) => ({
  extends: true as const,
  test: { name, include, exclude, isolate },
});

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    testTimeout: 60_000,
    hookTimeout: 60_000,
    pool: 'forks',
    maxWorkers: '100%',
    projects: [
      // Pure functions: a process loads the engine once for all its files, which halves their time.
      project('engine', ['src/**/*.test.ts'], ['src/server/**', '**/*.long.test.ts'], false),
      // The same, what takes longer.
      project('long', ['src/**/*.long.test.ts', 'scripts/**/*.long.test.ts'], [], false),
      // Databases, processes and files: each file on its own.
      project('outside', ['src/server/**/*.test.ts', 'cli/**/*.test.ts'], [], true),
    ],
  },
});
