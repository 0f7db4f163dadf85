import { givesLines, type JobDocument, type Operation } from '@neotaxis/core'

/** Processes are told apart by texture: dots for pictures, an edge line for cuts. */
export const PROCESS_TEXTURES: Record<Operation['kind'], string> = {
  picture: 'radial-gradient(circle, rgb(255 255 255 / 20%) 1.1px, transparent 1.3px)',
  cut: 'linear-gradient(to top, rgb(0 0 0 / 34%) 0 3px, transparent 3px 5px, rgb(0 0 0 / 34%) 5px 6px, transparent 6px)',
  program: 'repeating-linear-gradient(135deg, rgb(255 255 255 / 14%) 0 2px, transparent 2px 9px)',
}

const PROCESS_NAMES: Record<Operation['kind'], string> = {
  picture: 'Picture',
  cut: 'Cut',
  program: 'Program',
}

/** What an operation does, in a word: lines that are followed are scored, whatever their dose comes to. */
export const processName = (job: JobDocument, operation: Operation): string =>
  operation.kind === 'cut' && givesLines(job, operation.node) ? 'Score' : PROCESS_NAMES[operation.kind]
