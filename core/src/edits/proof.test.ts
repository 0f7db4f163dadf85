import { describe, expect, it } from 'vitest'
import { mainPiece } from '../job/document/document.ts'
import { MATERIALS } from '../material/catalogue.ts'
import { checkJob } from '../reading/check-job.ts'
import { withStock } from '../stock/which-fits.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { proofOf } from './proof.ts'

describe('a proof', () => {
  it('is the same job on another material, with its recipes, from no stock', () => {
    const plain = sampleJob({ picture: greyPicture(20, 20, () => 20), widthMm: 10, xMm: 20, yMm: 5 })
    const { outline } = mainPiece(plain)
    const sheet = {
      id: 's',
      name: 'sheet',
      material: mainPiece(plain).material,
      outline,
      thicknessMm: 3,
      keepOuts: {},
      marks: {},
      cents: 9,
    }
    const job = { ...withStock(plain, sheet), meant: { thin: 'as it is' } }
    const card = MATERIALS.find(({ id }) => id.startsWith('grey-card'))!
    const proof = checkJob(JSON.parse(JSON.stringify(proofOf(job, card))))
    expect(proof).toMatchObject({ name: `proof of ${job.name}`, meant: {}, placements: job.placements, order: job.order })
    expect(mainPiece(proof)).toMatchObject({
      material: card.id,
      thicknessMm: card.thicknessMm,
      outline,
      pose: mainPiece(job).pose,
    })
    expect(mainPiece(proof).stock).toBeUndefined()
    expect(Object.values(proof.operations).every(({ recipe }) => recipe?.startsWith('grey-card'))).toBe(true)
    expect(proofOf({ ...job, name: 'x'.repeat(199) }, card).name).toHaveLength(200)
  })
})
