import { expect, it } from 'vitest'
import { burnOrder } from '../job/document/document.ts'
import { checkJob } from '../reading/check-job.ts'
import { elsewhereDrawing } from '../run/elsewhere.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { canBeCutElsewhere, cutElsewhere } from './cut-elsewhere.ts'

it('a cut becomes the work of another tool in its place, after the soot is wiped off; its outline is a file for that', () => {
  const picture = squarePicture(40, 10)
  const job = sampleJob({ picture })
  const [cut] = burnOrder(job).filter((id) => canBeCutElsewhere(job, id))
  const made = cutElsewhere(job, cut)
  expect(checkJob(JSON.parse(JSON.stringify(made))).order).toEqual(made.order)
  expect(made.order.slice(-2).map((id) => made.steps[id].kind)).toEqual(['by-hand', 'elsewhere'])
  expect(made.nodes).toEqual(job.nodes)
  expect(burnOrder(made)).not.toContain(cut)
  const step = made.order.at(-1)!
  expect(made.steps[step]).toMatchObject({ of: job.operations[cut].of, tool: 'router' })
  expect(elsewhereDrawing(made, step, supplyWith(picture))).toBeTruthy()
  // What only marks is no other tool's work.
  const [mark] = burnOrder(job).filter((id) => id !== cut)
  expect(canBeCutElsewhere(job, mark)).toBe(false)
  expect(cutElsewhere(job, mark)).toBe(job)
})
