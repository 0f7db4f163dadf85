import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { applyPatches, type Edit, editFrom, type Patch, touchSame } from '../job/patches/edit.ts'
import { PathTree } from '../job/patches/path-tree.ts'
import { burning, sampleJob, squarePicture } from '../testing/sample-job.ts'
import { type KeptEdit, type KeptJob, type Merged, mergeEdits } from './merge.ts'

const job = sampleJob({ picture: squarePicture(10, 5) })
const first: KeptJob = { document: job, revision: 0, edits: [] }
const power = (id: string, value: number, operation = 'cut'): Edit =>
  editFrom(job, withOperation(job, operation, { power: value }), `${operation} ${value}`, id)
const back = (id: string, of: string, kind: 'undo' | 'redo' = 'undo'): Edit => ({ id, name: `back ${of}`, kind, of, patches: [] })

/** The job after edits that are all taken. */
function after(kept: KeptJob, ...edits: Edit[]): KeptJob {
  return edits.reduce((now, edit) => {
    const merged = mergeEdits(now, now.revision, [edit])
    if (merged.status !== 'saved') throw new Error(merged.status)
    return { document: merged.document, revision: now.revision + 1, edits: [...now.edits, ...merged.made] }
  }, kept)
}
const cutOf = (merged: Merged): number => (merged.status === 'refused' ? Number.NaN : merged.document.operations.cut.power)

describe('edits of two pages', () => {
  it('stand on each other where they touch other things, in the order in which they came', () => {
    const now = after(first, power('theirs', 0.5, 'engrave'))
    const merged = mergeEdits(now, 0, [power('mine', 0.2)])
    expect(merged).toMatchObject({ status: 'saved', made: [{ id: 'mine', revision: 2 }], missed: [{ id: 'theirs' }] })
    expect(cutOf(merged)).toBe(0.2)
  })

  it('become a branch where both touch the same, made from what the sender saw', () => {
    const now = after(first, power('theirs', 0.5), power('more', 0.4, 'engrave'))
    const merged = mergeEdits(now, 0, [power('mine', 0.2)])
    expect(merged).toMatchObject({ status: 'branched', made: [{ id: 'mine', revision: 1 }] })
    expect(cutOf(merged)).toBe(0.2)
    expect(merged.status === 'branched' && merged.document.operations.engrave.power).toBe(job.operations.engrave.power)
  })

  it('become a branch where each holds together and both do not', () => {
    // One takes the cut away, the other puts it first.
    const { cut: _cut, ...operations } = job.operations
    const gone = editFrom(job, burning({ ...job, operations }, 'engrave'), 'no cut', 'gone')
    const now = after(first, { ...gone, patches: gone.patches.filter(({ path }) => path[0] !== 'nothing') })
    const meant: Edit = {
      id: 'order',
      name: 'cut first',
      kind: 'edit',
      patches: [{ path: ['operations', 'more'], value: job.operations.cut }],
    }
    const refs: Edit = { ...meant, id: 'group', patches: [{ path: ['operations', 'cut', 'power'], value: 0.3 }] }
    expect(mergeEdits(now, 0, [refs]).status).toBe('branched')
  })

  it('are taken once, however often they are sent, and with them those that came since', () => {
    const now = after(first, power('a', 0.5))
    const again = mergeEdits(now, 0, [power('a', 0.5)])
    expect(again).toMatchObject({ status: 'saved', made: [], missed: [] })
    const more = mergeEdits(now, 0, [power('a', 0.5), power('b', 0.6)])
    expect(more).toMatchObject({ status: 'saved', made: [{ id: 'b', revision: 2 }] })
  })

  it('are refused by name where one breaks the job, and nothing of them is kept', () => {
    const bad: Edit = { id: 'bad', name: 'x', kind: 'edit', patches: [{ path: ['order'], value: ['gone'] }] }
    expect(mergeEdits(first, 0, [power('a', 0.5), bad, power('b', 0.6)])).toMatchObject({ status: 'refused', edit: 'bad' })
    const lost: Edit = { ...bad, patches: [{ path: ['operations', 'none', 'power'], value: 1 }] }
    expect(mergeEdits(first, 0, [lost])).toMatchObject({ status: 'refused', edit: 'bad' })
  })
})

describe('undo', () => {
  it('takes back what it names, whatever others did elsewhere, and is taken back itself', () => {
    const now = after(first, power('a', 0.5), power('theirs', 0.4, 'engrave'), back('u', 'a'))
    expect(now.document.operations).toMatchObject({ cut: { power: 0.68 }, engrave: { power: 0.4 } })
    const redone = after(now, back('r', 'u', 'redo'))
    expect(redone.document.operations.cut.power).toBe(0.5)
    expect(after(redone, back('u2', 'r'), back('r2', 'u2', 'redo')).document.operations.cut.power).toBe(0.5)
  })

  it('is refused with a sentence where others changed the same since, and never makes a branch', () => {
    const now = after(first, power('a', 0.5), power('theirs', 0.3))
    expect(mergeEdits(now, 1, [back('u', 'a')])).toEqual({
      status: 'refused',
      edit: 'u',
      message: '“back a” cannot be undone: “cut 0.3” changed the same since. Undo that first.',
    })
    // Once that is undone, it goes.
    expect(after(now, back('u1', 'theirs'), back('u2', 'a')).document.operations.cut.power).toBe(0.68)
  })

  it('is refused where it was done already, or lies too far back', () => {
    const now = after(first, power('a', 0.5), back('u', 'a'))
    expect(mergeEdits(now, 1, [back('v', 'a')])).toMatchObject({ status: 'refused', message: expect.stringContaining('already') })
    expect(mergeEdits(now, 1, [back('v', 'x')])).toMatchObject({
      status: 'refused',
      message: expect.stringContaining('too far back'),
    })
  })

  it('of edits one after the other leads back to the beginning, and redo to the end: always', () => {
    const places: readonly Patch['path'][] = [
      ['name'],
      ['operations', 'cut', 'power'],
      ['workpieces', 'piece', 'pose', 'xMm'],
      ['meant', 'm'],
    ]
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(3), fc.integer({ min: 1, max: 9 })), { minLength: 1, maxLength: 12 }), (changes) => {
        const edits = changes.map(([place, value], i): Edit => {
          const path = places[place]
          return {
            id: `e${i}`,
            name: 'x',
            kind: 'edit',
            patches: [{ path, value: path.length === 1 || path[0] === 'meant' ? `v${value}` : value / 10 }],
          }
        })
        const all = after(first, ...edits)
        const undone = after(all, ...edits.map((_, i) => back(`u${i}`, edits[edits.length - 1 - i].id)))
        expect(undone.document).toEqual(job)
        const redone = after(undone, ...edits.map((_, i) => back(`r${i}`, `u${edits.length - 1 - i}`, 'redo')))
        expect(redone.document).toEqual(all.document)
      }),
      { numRuns: 150 },
    )
  })
})

describe('time', () => {
  it('grows with the number of patches, not with its square', () => {
    const many = (count: number): KeptEdit[] =>
      Array.from({ length: count }, (_, i) => ({
        id: `t${i}`,
        name: 'x',
        kind: 'edit',
        revision: i + 1,
        patches: [{ path: ['workpieces', 'piece', 'pose', 'xMm'], value: i % 90 }],
        inverse: [{ path: ['workpieces', 'piece', 'pose', 'xMm'], value: 100 }],
      }))
    const seconds = (count: number): number => {
      const edits = many(count)
      const kept: KeptJob = { document: job, revision: count, edits }
      const mine = edits.map(({ id, patches }): Edit => ({ id: `m${id}`, name: 'x', kind: 'edit', patches }))
      const start = performance.now()
      expect(mergeEdits(kept, 0, mine).status).toBe('branched')
      return performance.now() - start
    }
    seconds(2000)
    const [small, large] = [seconds(5000), seconds(40_000)]
    // Eight times as many: linear is 8, quadratic 64.
    expect(large / small).toBeLessThan(24)
  })
})

describe('a tree of paths', () => {
  it('answers what comparing every path with every other answers', () => {
    const path = fc.array(fc.constantFrom('a', 'b', 'c'), { minLength: 1, maxLength: 4 })
    const patches = fc.array(
      path.map((p): Patch => ({ path: p, value: 1 })),
      { maxLength: 8 },
    )
    fc.assert(
      fc.property(patches, patches, (left, right) => {
        const slow = left.some((p) => right.some((q) => p.path.every((key, i) => i >= q.path.length || q.path[i] === key)))
        expect(touchSame(left, right)).toBe(slow)
        expect(new PathTree(left).touches(right)).toBe(slow)
      }),
      { numRuns: 2000 },
    )
    expect(applyPatches(job, [])).toBe(job)
  })
})
