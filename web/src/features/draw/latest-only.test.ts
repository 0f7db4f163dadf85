import { describe, expect, it } from 'vitest'
import { LatestOnly } from './latest-only.ts'

describe('work of which only the latest counts', () => {
  it('is done one after the other, and what was overtaken is left out', async () => {
    const done: number[] = []
    const ends: (() => void)[] = []
    const queue = new LatestOnly<number>(async (n) => {
      done.push(n)
      await new Promise<void>((end) => ends.push(end))
    })
    for (const n of [1, 2, 3]) queue.want(n)
    expect(done).toEqual([1])
    expect(queue.waits).toBe(true)
    ends.shift()!()
    await expect.poll(() => done).toEqual([1, 3])
    expect(queue.waits).toBe(false)
    ends.shift()!()
    await Promise.resolve()
    queue.want(4)
    await expect.poll(() => done).toEqual([1, 3, 4])
  })
})
