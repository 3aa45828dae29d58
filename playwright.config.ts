import { defineConfig } from '@playwright/test';

/** Debian's Chromium, without what would reach for the network. */
export default defineConfig({
  testDir: 'e2e',
  workers: 1,
  fullyParallel: false,
  // Long, because two runs share a machine that may be five times slower than usual; nothing waits longer than it must.
  timeout: 300_000,
  expect: { timeout: 90_000 },
  outputDir: '.velvet/test-results/e2e',
  use: {
    actionTimeout: 90_000,
    baseURL: process.env.VELVET_TEST_URL ?? 'http://127.0.0.1:4180',
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    trace: 'off',
    // Nothing waits for what moves.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: process.env.VELVET_BROWSER ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        // Where /dev/shm is small a page would break off.
        '--disable-dev-shm-usage',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
