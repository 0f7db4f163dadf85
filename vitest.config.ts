import { readdirSync, readFileSync } from 'node:fs'
import { defineConfig } from 'vitest/config'

const TESTS = '{core,contract,intake,link,stand-ins,cli,server,web,demo,bench}/src/**/*.test.{ts,tsx}'

/** What replaces modules for itself must not share them with others. */
const replacing = readdirSync('web/src', { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.test\.tsx?$/.test(file))
  .map((file) => `web/src/${file}`)
  .filter((file) => readFileSync(file, 'utf8').includes('vi.mock('))

const common = {
  // On a busy machine what is waited for may take a while; it is seen as soon as it is there.
  expect: { poll: { timeout: 15_000 } },
  setupFiles: ['./web/src/testing/patience.ts'],
  testTimeout: 60_000,
  hookTimeout: 60_000,
}

export default defineConfig({
  test: {
    // Both cores: by itself it would leave one to whoever edits.
    maxWorkers: 2,
    projects: [
      // Modules are read once, not once for each file: that took longer than the tests.
      { test: { ...common, name: 'shared', include: [TESTS], exclude: replacing, isolate: false } },
      { test: { ...common, name: 'alone', include: replacing } },
    ],
  },
})
