import { type JobDocument, picturedRoot, pictureNode } from '@neotaxis/core'
import { download } from '../bar/save-files.ts'

/** The treatment as a file that `neotaxis picture --steps` reads. */
export function saveTreatment(job: JobDocument, node: string): void {
  const { grey, steps, order, masks, dots } = pictureNode(job, node)
  const { framing } = picturedRoot(job, node)
  const text = JSON.stringify({ framing, ...(grey ? { grey } : {}), steps, order, masks, dots }, null, 1)
  download(new Blob([text], { type: 'application/json' }), `${job.name} steps.json`)
}
