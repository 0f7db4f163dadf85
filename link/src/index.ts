// Talking to a machine: the connection, and programs of any length with flow control.
export { goingOn } from './going-on.ts'
export { LinkError, MachineLink, type Place, type Report } from './machine-link.ts'
export { type Program, programLines, programOf } from './program.ts'
export { ProgramRun, type RunNow, type RunPhase, runOn } from './program-run.ts'
