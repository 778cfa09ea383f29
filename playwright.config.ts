import { defineConfig } from '@playwright/test';

const port = process.env.NIMBRET_PORT ?? '4170';

export default defineConfig({
  testDir: 'e2e',
  outputDir: '.nimbret/test/playwright',
  fullyParallel: true,
  workers: 3,
  // Tests look at what is done, not at the clock: on a busy machine the longest takes four times what it takes on a quiet one.
  timeout: 180_000,
  expect: { timeout: 30_000 },
  // The whole test run counts from the JSON report; by hand, the list is enough.
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [['list'], ['json']] : 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // Who asks for less motion finds the motion paused: pages at rest are tested in a third of the time.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--use-angle=swiftshader',
        // The page itself is put together without the drawing processor, which here is the same two cores: a third of the work.
        '--disable-gpu-compositing',
        '--enable-unsafe-swiftshader',
      ],
    },
  },
  webServer: {
    command: `node --import tsx scripts/serve.ts --port ${port}`,
    url: `http://127.0.0.1:${port}/api/projects`,
    env: { NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    timeout: 60_000,
  },
});
