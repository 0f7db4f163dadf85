import { expect, it } from 'vitest'
import { burnOrder } from '../job/document/document.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'

it('brings another artwork in with its family, marks before the first cut, cuts last', () => {
  const job = sampleJob({ picture: greyPicture(20, 20, () => 0) })
  const other = sampleJob({ picture: greyPicture(10, 10, () => 0), xMm: 7 })
  const both = checkJob(withArtwork(job, other, 'n2'))
  expect(burnOrder(both)).toEqual(['engrave', 'engrave-n2', 'cut', 'cut-n2'])
  expect(both.nodes['around-n2']).toMatchObject({ from: 'edge-n2' })
  expect(both.operations['cut-n2'].of[0]).toBe('around-n2')
  expect(both.placements['source-n2'].xMm).toBe(7)
  for (const id of Object.keys(job.nodes)) expect(both.nodes[id]).toEqual(job.nodes[id])
  const third = checkJob(withArtwork(both, other, 'n3'))
  expect(Object.keys(third.nodes)).toHaveLength(3 * Object.keys(job.nodes).length)
})
