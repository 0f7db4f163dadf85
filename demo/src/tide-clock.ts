import { type JobDocument, MACHINES, MATERIALS, propose, ResultCache, type SourceFacts, toGrey } from '@neotaxis/core'
import { tideClockFace } from './pictures.ts'

/** The tide-clock face as a job: engraved and cut 4 mm around, on 3 mm birch ply of 300 × 200 mm. */
export function tideClockJob(facts: SourceFacts): JobDocument {
  const material = MATERIALS.find(({ id }) => id === 'birch-ply-3')!
  const picture = toGrey(tideClockFace())
  const settings = {
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    material,
    machine: MACHINES[0],
    size: { widthMm: 168 },
  }
  const proposal = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture }).find(
    ({ id }) => id === 'engrave-cut-around',
  )!
  const { job } = proposal
  const around = job.nodes.around
  if (around.kind !== 'offset') throw new Error('The proposal has no offset.')
  return { ...job, name: 'Tide-clock face', nodes: { ...job.nodes, around: { ...around, name: 'edge + 4 mm', distanceMm: 4 } } }
}
