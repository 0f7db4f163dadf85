import { type Drawn, drawnName, type JobDocument, materialOf, placesOf, withArtwork } from '@neotaxis/core'
import { bringIn } from '../../api/orders.ts'
import { drawnFile, proposals } from '../../workers/engine.ts'
import { blankOf } from '../proposals/blank-of.ts'

/** A job with something drawn and cut in it, and the root that it is. */
export interface DrawnInto {
  readonly job: JobDocument
  readonly root: string | undefined
}

/**
 * Draws something into a job, where every line of it is cut last.
 * @param at its rear left corner, mm of the face
 * @returns the change of the job @throws Error with a sentence where it cannot be drawn
 */
export async function drawnAndCut(
  job: JobDocument,
  drawn: Drawn,
  at: { readonly xMm: number; readonly yMm: number },
  tag: string,
): Promise<(base: JobDocument) => DrawnInto> {
  const { svg } = await drawnFile(drawn)
  const facts = await bringIn(new Blob([svg]))
  const cards = await proposals({
    facts: { ...facts, name: drawnName(drawn), drawn },
    workpiece: blankOf(job),
    material: materialOf(job),
    machine: job.machine,
    into: job,
    at,
  })
  const made = cards?.find(({ id }) => id === 'cut-lines')?.job
  if (!made) throw new Error('The job changed meanwhile: try it again.')
  return (base) => {
    const before = new Set(Object.keys(base.nodes))
    const whole = withArtwork(base, made, tag)
    return { job: whole, root: Object.keys(whole.nodes).find((id) => !before.has(id) && placesOf(whole, id).length > 0) }
  }
}
