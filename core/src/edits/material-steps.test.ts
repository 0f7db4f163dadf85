import { expect, it } from 'vitest'
import { MATERIALS } from '../material/catalogue.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { materialSteps, withMaterialSteps } from './material-steps.ts'
import { onMaterial } from './on-material.ts'

it('puts what a material wants done by hand into the line, before and after, once', () => {
  const job = sampleJob({ picture: squarePicture(20, 4) })
  expect(withMaterialSteps(job)).toEqual(job)
  const steel = onMaterial(job, MATERIALS.find(({ id }) => id === 'coated-steel-1')!)
  const done = withMaterialSteps(steel)
  expect(checkJob(done)).toEqual(done)
  const told = done.order.map((id) => {
    const step = done.steps[id]
    return step.kind === 'by-hand' ? step.text : step.kind
  })
  expect(told.slice(0, 2)).toEqual(['Clean the metal, free of grease', 'Spray the coat on thinly and let it dry'])
  expect(told.at(-1)).toBe('Wash the excess off')
  expect(told.slice(2, -1)).toEqual(['burn', 'burn'])
  expect(materialSteps(done)).toEqual({ before: [], after: [] })
  expect(withMaterialSteps(done)).toEqual(done)
})
