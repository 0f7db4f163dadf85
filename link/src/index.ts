// Talking to a machine: the connection, and programs of any length with flow control.
export { LinkError, MachineLink, type Report } from './machine-link.ts'
export { type RunResult, runProgram } from './run-program.ts'
