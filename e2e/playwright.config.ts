import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: './src',
  testMatch: '*.spec.ts',
  // Both stand at the same machines; what takes long comes in a campaign.
  testIgnore: process.env.NEOTAXIS_CAMPAIGN ? 'run.spec.ts' : 'all-jobs.spec.ts',
  timeout: 240_000,
  // Two cores, shared with a database, a server and two machines.
  expect: { timeout: 30_000 },
  // A browser that the system starved is tried once more; the end of the run names it.
  retries: 1,
  workers: 2,
  fullyParallel: false,
  reporter: [['list'], ['./src/movements-table.ts'], ['json', { outputFile: process.env.E2E_REPORT ?? 'test-results/e2e.json' }]],
  outputDir: 'test-results/pages',
  use: {
    baseURL: process.env.NEOTAXIS_URL ?? 'http://127.0.0.1:4310',
    viewport: { width: 1280, height: 800 },
    // What is not there to be pressed is named, long before the test as a whole gives up.
    actionTimeout: 90_000,
    contextOptions: { reducedMotion: 'reduce' },
    acceptDownloads: true,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      chromiumSandbox: process.getuid?.() !== 0,
      args: [
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--disable-quic',
      ],
    },
  },
})
