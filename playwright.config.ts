import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { browserPaths } from './scripts/prepare.mjs';

const port = Number(process.env.PORT ?? 3217);
const address = `http://localhost:${port}`;

export default defineConfig({
  testDir: 'e2e',
  workers: 2,
  // Each journey begins with a browser of its own, so that any of them may come last.
  fullyParallel: true,
  // A fault fails twice; what fails once is told by name at the end, to be looked into.
  retries: 1,
  // Far more than any journey takes, for machines that are busy with other things; no test asserts a time.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    baseURL: address,
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: browserPaths.find((path) => path !== undefined && existsSync(path)),
      args: [
        '--no-sandbox',
        '--use-gl=angle',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--ignore-gpu-blocklist',
        // Pages are put together by the processor itself: a third less work than through the stand-in for a graphics card.
        '--disable-gpu-compositing',
        '--disable-quic',
        '--disable-background-networking',
        // An address that is not this computer's own name, to which browsers give less over plain http.
        '--host-resolver-rules=MAP skerry.test 127.0.0.1',
      ],
    },
  },
  webServer: {
    command: `node node_modules/next/dist/bin/next start -p ${port}`,
    url: address,
    reuseExistingServer: !process.env.CI,
    env: { NEXT_TELEMETRY_DISABLED: '1' },
  },
});
