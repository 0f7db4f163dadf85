import type { JobDocument } from '@neotaxis/core'

let taken: string | undefined

/** Takes the settings of an operation along, to give them to others. */
export const takeSettings = (operation: string): void => {
  taken = operation
}

/** The operation whose settings were taken along, as long as the job has it. */
export const takenSettings = (job: JobDocument): string | undefined =>
  taken !== undefined && job.operations[taken] ? taken : undefined
