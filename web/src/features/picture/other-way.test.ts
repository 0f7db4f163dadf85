import { burnOrder, checkJob, type JobDocument, MACHINES, MATERIALS, propose, ResultCache, secondsToSend } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { inPlaceOf, otherName, otherWay, withOtherWay } from './other-way.ts'

const picture = {
  widthPx: 60,
  heightPx: 40,
  samples: Uint8Array.from({ length: 2400 }, (_, i) => (i * 37) % 256),
  full: 255,
} as const
const facts = { name: 'cliff.png', asset: 'a'.repeat(64), widthPx: 60, heightPx: 40, hasAlpha: false }
const [{ job }] = propose(
  facts,
  picture,
  {
    workpiece: { widthMm: 100, heightMm: 80, thicknessMm: 3 },
    material: MATERIALS.find(({ id }) => id === 'lime-wood-12')!,
    machine: MACHINES[0],
  },
  { picture: () => picture, cache: new ResultCache() },
)
const made = { node: 'relief', operation: 'carve' }
const dots = Object.keys(job.nodes).find((id) => job.nodes[id].kind === 'picture')!

describe('the other way of a picture', () => {
  it('is not there at first, and then waits beside what runs with the same steps', () => {
    expect(otherName(job, dots)).toBe('relief')
    expect(otherWay(job, dots)).toBeUndefined()
    const both = checkJob(withOtherWay(job, dots, made))
    expect(otherWay(both, dots)).toEqual(made)
    expect(otherWay(both, 'relief')?.node).toBe(dots)
    expect(burnOrder(both)).toEqual(burnOrder(job))
    expect(both.nodes.relief).toMatchObject({ kind: 'picture', dots: { kernel: 'none' } })
    expect(both.operations.carve).toMatchObject({ process: 'relief', evenIn: 'depth' })
  })

  it('takes the place of the first in the run, which keeps its settings', () => {
    const both = withOtherWay(job, dots, made)
    const [first] = burnOrder(both)
    const swapped: JobDocument = inPlaceOf(both, 'carve', first)
    expect(burnOrder(swapped)[0]).toBe('carve')
    expect(swapped.operations[first]).toEqual(job.operations[first])
    expect(burnOrder(inPlaceOf(swapped, first, 'carve'))).toEqual(burnOrder(job))
  })
})

describe('the time to send a program', () => {
  it('follows the line of the machine, a network’s where nobody measured', () => {
    expect(secondsToSend({}, 13_000_000)).toBe(65)
    expect(secondsToSend({ lineBytesS: 11_500 }, 115_000)).toBe(10)
  })
})
