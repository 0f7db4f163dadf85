// Several files at once: each a job, or all of them one.
import { burnOrder, checkJob } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { describe, expect, it } from 'vitest'
import { type DropQueue, dropped, NO_DROPS, nextTurn, placeIn } from './drop-queue.ts'
import { joined } from './joined.ts'

const file = (name: string) => new File([name], name)
const job = sampleJob({ picture: squarePicture(20, 5) })

describe('files that were dropped together', () => {
  it('have their turn one after the other, whatever is dropped meanwhile, and are counted', () => {
    let queue = dropped(NO_DROPS, [file('a'), file('b')])
    const seen: string[] = []
    for (let n = 0; ; n++) {
      const turn = nextTurn(queue)
      queue = turn.queue
      if (!turn.file) break
      seen.push(`${turn.file.name}: ${placeIn(queue)}`)
      if (n === 0) queue = dropped(queue, [file('c')])
    }
    expect(seen).toEqual(['a: 1 of 2', 'b: 2 of 3', 'c: 3 of 3'])
    expect(queue).toBe(NO_DROPS)
    expect(placeIn(nextTurn(dropped(NO_DROPS, [file('alone')])).queue)).toBeUndefined()
  })

  it('become one job where that is wanted: what is left out is not in it', () => {
    let queue: DropQueue = { ...dropped(NO_DROPS, [file('a'), file('b'), file('c')]), together: true }
    queue = joined(nextTurn(queue).queue, job, 'n1')
    queue = joined(nextTurn(queue).queue, job, 'n2')
    queue = nextTurn(queue).queue
    const { ready, queue: rest } = nextTurn(queue)
    expect(rest).toBe(NO_DROPS)
    expect(Object.keys(checkJob(ready!).placements)).toEqual(['source', 'source-n2'])
    expect(burnOrder(ready!)).toHaveLength(2 * burnOrder(job).length)
  })

  it('make nothing where all of them are left out', () => {
    expect(nextTurn({ ...NO_DROPS, together: true }).ready).toBeUndefined()
  })
})
