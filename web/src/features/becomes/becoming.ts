import { given, type JobDocument, type ProcessName, withoutOperation, withProcess } from '@neotaxis/core'
import { PROCESS_WORDS } from '../../processes/process-words.ts'

/** What an edit is called that gives some artwork a process. */
export const givenName = (process: ProcessName): string => `${PROCESS_WORDS[process].does} it`

/** Artwork with a process more. @returns the job, and its new operation */
export const givenTo = (job: JobDocument, nodes: readonly string[], process: ProcessName) => given(job, nodes, process)

/** An edit that changes the process of an operation, with its name. */
export const changedTo = (id: string, process: ProcessName) => ({
  name: `${PROCESS_WORDS[process].does} it instead`,
  change: (base: JobDocument): JobDocument => withProcess(base, id, process),
})

/** An edit that takes a process off some artwork, with its name. */
export const takenOff = (id: string, process: ProcessName) => ({
  name: `take the ${PROCESS_WORDS[process].name.toLowerCase()} off`,
  change: (base: JobDocument): JobDocument => withoutOperation(base, id),
})
