// What page and server say to each other: one definition for both, for tests, and for whoever else asks.

export * from './assets.ts'
export * from './endpoints.ts'
export * from './jobs.ts'
export * from './library.ts'
export * from './live-run.ts'
export * from './machines.ts'
export * from './openapi.ts'
export * from './paths.ts'
export * from './people.ts'
export * from './refusal.ts'
export * from './runs.ts'
export { id, sha256 } from './words.ts'
