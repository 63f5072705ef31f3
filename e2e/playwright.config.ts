import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/chromium.js';

const port = Number(process.env['E2E_PORT'] ?? 3950);
const data = new URL(`../node_modules/.cache/kestfog-e2e-${process.env['E2E_DATA'] ?? process.ppid}`, import.meta.url).pathname;

export default defineConfig({
  outputDir: '../node_modules/.cache/playwright',
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: [['list']],
  projects: [
    {
      name: 'journeys',
      testDir: 'tests',
      // One that fails is tried once more; if it passes only then it is named, with what went wrong, at the end of `npm test`.
      retries: 1,
      // Each is a new browser, which would fetch the whole page once more to keep it: only those that go without the network do.
      use: { serviceWorkers: 'block' },
    },
    { name: 'pictures', testDir: 'pictures' },
    { name: 'speed', testDir: 'speed' },
    { name: 'words', testDir: 'words' },
  ],
  use: {
    // What cannot be done is named at its own line, not by the end of the whole journey's time.
    actionTimeout: 20_000,
    navigationTimeout: 30_000,
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    timezoneId: 'UTC',
    locale: 'en-GB',
    launchOptions: CHROMIUM,
  },
  webServer: {
    command: `bash ../bin/start.sh --port ${port} --reset-demo`,
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 120_000,
    env: {
      ...(process.env as Record<string, string>),
      KESTFOG_DATA: data,
      KESTFOG_CLOCK: 'simulated',
      KESTFOG_CLOCK_START: '2026-06-04T12:00:00Z',
      TZ: 'UTC',
    },
    gracefulShutdown: { signal: 'SIGTERM', timeout: 20_000 },
    reuseExistingServer: false,
    stdout: 'ignore',
  },
});
