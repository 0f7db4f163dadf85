import { type Drawn, drawnName, type JobDocument, materialOf, placesOf, withArtwork } from '@neotaxis/core'
import { bringIn } from '../../api/orders.ts'
import { drawnFile, proposals } from '../../workers/engine.ts'
import { blankOf } from '../proposals/blank-of.ts'

/** A job with something drawn in it, and the root that it is. */
export interface DrawnInto {
  readonly job: JobDocument
  readonly root: string | undefined
}

/** What becomes of what is drawn: every line cut, or scored, or what is seen of it engraved. */
type Becomes = 'cut-lines' | 'score-lines' | 'engrave-seen'

/** What is meant by something that is drawn where it goes: letters of strokes and open lines are scored, shapes are cut, areas engraved. */
export function becomes(drawn: Drawn): Becomes {
  switch (drawn.kind) {
    case 'text':
      return drawn.font.kind === 'strokes' ? 'score-lines' : 'engrave-seen'
    case 'code':
      return 'engrave-seen'
    case 'line':
    case 'arc':
      return 'score-lines'
    case 'path':
      return /z\s*$/i.test(drawn.data) ? 'cut-lines' : 'score-lines'
    default:
      return 'cut-lines'
  }
}

/** Where something is drawn, mm of the face: by its rear left corner, where its own origin lies, or around its middle. */
export interface DrawnAt {
  readonly xMm: number
  readonly yMm: number
  readonly by?: 'origin' | 'middle'
}

/**
 * Draws something into a job, where it becomes an operation of its own.
 * @returns the change of the job @throws Error with a sentence where it cannot be drawn
 */
export async function drawnInto(
  job: JobDocument,
  drawn: Drawn,
  { xMm, yMm, by }: DrawnAt,
  tag: string,
  what: Becomes = becomes(drawn),
): Promise<(base: JobDocument) => DrawnInto> {
  const { svg, box } = await drawnFile(drawn)
  const [dx, dy] = by === 'origin' ? [box.x0, box.y0] : by === 'middle' ? [(box.x0 - box.x1) / 2, (box.y0 - box.y1) / 2] : [0, 0]
  const facts = await bringIn(new Blob([svg]))
  const cards = await proposals({
    facts: { ...facts, name: drawnName(drawn), drawn },
    workpiece: blankOf(job),
    material: materialOf(job),
    machine: job.machine,
    into: job,
    at: { xMm: xMm + dx, yMm: yMm + dy },
  })
  const made = (cards?.find(({ id }) => id === what) ?? cards?.[0])?.job
  if (!made) throw new Error('The job changed meanwhile: try it again.')
  return (base) => {
    const before = new Set(Object.keys(base.nodes))
    const whole = withArtwork(base, made, tag)
    return { job: whole, root: Object.keys(whole.nodes).find((id) => !before.has(id) && placesOf(whole, id).length > 0) }
  }
}
