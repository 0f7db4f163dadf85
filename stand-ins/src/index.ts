// Simulated machines, for tests and demonstrations: an independent witness of what was sent.
export { Bed } from './machine/bed.ts'
export { type Counts, Machine } from './machine/machine.ts'
export { type Fault, type ServeOptions, serveMachine } from './machine/serve.ts'
export { deviating, TRUTHS, type Truth } from './machine/truth.ts'
