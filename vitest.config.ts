import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    // On a busy machine what is waited for may take a while; it is seen as soon as it is there.
    expect: { poll: { timeout: 15_000 } },
    setupFiles: ['./web/src/testing/patience.ts'],
    include: ['{core,contract,intake,link,stand-ins,cli,server,web,demo,bench}/src/**/*.test.{ts,tsx}'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
