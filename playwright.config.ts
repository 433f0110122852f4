import { defineConfig } from '@playwright/test';

const QUIET = ['--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update'];

export default defineConfig({
  testDir: './tests/browser',
  timeout: 300_000,
  expect: { timeout: 60_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  retries: 0,
  reporter: [['list']],
  outputDir: './test-results',
  globalSetup: './tests/browser/setup.ts',
  use: {
    viewport: { width: 1280, height: 800 },

    browserName: 'chromium',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-sync', ...QUIET],
    },
    actionTimeout: 120_000,
    screenshot: 'only-on-failure',
  },
});
