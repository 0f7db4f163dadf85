import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,intake,link,stand-ins,cli,server,web,demo,bench}/src/**/*.test.{ts,tsx}'],
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
})
