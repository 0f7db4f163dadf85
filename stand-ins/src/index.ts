// Simulated machines, for tests and demonstrations: an independent witness of what was sent.
export { Bed } from './machine/bed.ts'
export { Machine } from './machine/machine.ts'
export { type Laid, Workpiece } from './machine/material.ts'
export { servePanel } from './machine/panel.ts'
export { attendMachine, type Client, FAULTS, type Fault, type Front, type Pace, serveMachine } from './machine/serve.ts'
export { deviating, TRUTHS, type Truth, turning } from './machine/truth.ts'
