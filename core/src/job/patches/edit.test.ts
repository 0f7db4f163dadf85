import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { moved, resized, withNode, withOperation } from '../../edits/change.ts'
import { reordered } from '../../edits/steps-edits.ts'
import { standsOut } from '../../lineage/stands-out.ts'
import { burning, sampleJob, squarePicture } from '../../testing/sample-job.ts'
import { assetsOf, burnOrder, sourceOf, usesOf } from '../document/document.ts'
import {
  advance,
  applyBothWays,
  applyPatches,
  difference,
  editFrom,
  type History,
  type MadeEdit,
  NO_HISTORY,
  PatchError,
  touchSame,
} from './edit.ts'

const job = sampleJob({ picture: squarePicture(10, 5) })

const json: fc.Arbitrary<unknown> = fc.letrec((tie) => ({
  value: fc.oneof(
    { maxDepth: 4 },
    fc.integer({ min: 0, max: 3 }),
    fc.constantFrom('a', 'b', true, null),
    fc.array(fc.integer({ min: 0, max: 2 }), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom('p', 'q', 'r', 's'), tie('value'), { maxKeys: 4 }),
  ),
})).value
const record = fc.dictionary(fc.constantFrom('p', 'q', 'r', 's'), json, { maxKeys: 4 })

describe('difference and applyPatches', () => {
  it('make one document of the other, and the way back undoes it', () => {
    fc.assert(
      fc.property(record, record, (a, b) => {
        expect(applyPatches(a, difference(a, b))).toEqual(b)
        expect(applyPatches(applyPatches(a, difference(a, b)), difference(b, a))).toEqual(a)
      }),
      { numRuns: 500 },
    )
  })

  it('touch only what changed, and share the rest', () => {
    const after = withOperation(job, 'cut', { power: 0.5 })
    const patches = difference(job, after)
    expect(patches).toEqual([{ path: ['operations', 'cut', 'power'], value: 0.5 }])
    expect(applyPatches(job, patches).nodes).toBe(job.nodes)
    expect(difference(job, structuredClone(job))).toEqual([])
  })

  it('two sets that do not touch the same can be applied either way around', () => {
    fc.assert(
      fc.property(record, record, record, (base, left, right) => {
        const a = difference(base, left)
        const b = difference(base, right)
        if (touchSame(a, b)) return
        expect(applyPatches(applyPatches(base, a), b)).toEqual(applyPatches(applyPatches(base, b), a))
      }),
      { numRuns: 500 },
    )
  })

  it('see that a removed operation and a change in it touch the same', () => {
    const { cut: _gone, ...operations } = job.operations
    const removal = difference(job, burning({ ...job, operations }, 'engrave'))
    expect(touchSame(removal, difference(job, withOperation(job, 'cut', { power: 0.1 })))).toBe(true)
    expect(touchSame(removal, difference(job, withOperation(job, 'engrave', { power: 0.1 })))).toBe(false)
  })

  it('refuse places that are gone, and names that reach into the language', () => {
    expect(() => applyPatches(job, [{ path: ['name', 'x'], value: 1 }])).toThrow(PatchError)
    expect(() => applyPatches(job, [{ path: ['__proto__', 'x'], value: 1 }])).toThrow(PatchError)
    expect(({} as { x?: number }).x).toBeUndefined()
  })
})

describe('history', () => {
  const edit = (name: string): MadeEdit => ({ id: name, name, kind: 'edit', patches: [], inverse: [] })
  const back = (kind: 'undo' | 'redo', of: string): MadeEdit => ({ ...edit(`${kind} ${of}`), name: of.at(-1)!, kind, of })
  const after = (...edits: MadeEdit[]): History => edits.reduce(advance, NO_HISTORY)
  const names = (list: readonly MadeEdit[]): string => list.map(({ name }) => name).join('')

  it('undoes and redoes what is named, and forgets what was undone when something new is done', () => {
    const undo = back('undo', 'b')
    const a = after(edit('a'), edit('b'), undo)
    expect([names(a.done), names(a.undone)]).toEqual(['a', 'b'])
    const redo = back('redo', undo.id)
    const b = after(edit('a'), edit('b'), undo, redo, back('undo', redo.id), back('undo', 'a'))
    expect([names(b.done), names(b.undone)]).toEqual(['', 'ba'])
    const c = after(edit('a'), back('undo', 'a'), edit('c'))
    expect([names(c.done), names(c.undone)]).toEqual(['c', ''])
    // Not the last one, and one that is not there.
    const d = after(edit('a'), edit('b'), back('undo', 'a'), back('undo', 'x'))
    expect([names(d.done), names(d.undone)]).toEqual(['b', 'a'])
  })

  it('knows the way back of an edit from where it was made', () => {
    const made = editFrom(job, withNode(job, 'around', { distanceMm: 9 }), 'distance 9 mm', 'x1')
    expect(made).toMatchObject({ name: 'distance 9 mm', kind: 'edit' })
    expect(applyBothWays(job, made.patches).inverse).toEqual([{ path: ['nodes', 'around', 'distanceMm'], value: 3 }])
  })

  it('leads back from any patches, in any order, over the same places', () => {
    fc.assert(
      fc.property(
        record,
        fc.array(fc.tuple(fc.array(fc.constantFrom('p', 'q', 'r'), { minLength: 1, maxLength: 3 }), json)),
        (base, list) => {
          const patches = list.map(([path, value]) => (value === null ? { path } : { path, value }))
          let made: ReturnType<typeof applyBothWays<typeof base>>
          try {
            made = applyBothWays(base, patches)
          } catch (cause) {
            expect(cause).toBeInstanceOf(PatchError)
            return
          }
          expect(made.document).toEqual(applyPatches(base, patches))
          expect(applyPatches(made.document, made.inverse)).toEqual(base)
        },
      ),
      { numRuns: 1000 },
    )
  })
})

describe('changes of a job', () => {
  const box = { x0: 100 - 3, y0: 50 - 3, x1: 140 + 3, y1: 90 + 3 }

  it('move the whole family, to the micrometre', () => {
    expect(moved(job, 'around', 0.12345, -1).placements.source).toMatchObject({ xMm: 100.123, yMm: 49 })
  })

  it('size an offset outline to what was typed, though its distance stays', () => {
    expect(standsOut(job, 'around')).toBe(6)
    fc.assert(
      fc.property(
        fc.double({ min: 12, max: 190, noNaN: true }),
        fc.constantFrom(0, 0.5, 1),
        fc.constantFrom(0, 0.5, 1),
        (widthMm, anchorX, anchorY) => {
          const { source: place } = resized(job, 'around', box, { widthMm }, { anchorX, anchorY, keepRatio: true }).placements
          expect(place.widthMm + 6).toBeCloseTo(widthMm, 2)
          expect(place.heightMm).toBeCloseTo(place.widthMm, 2)
          const fixed = (low: number, size: number, anchor: number): number => low - 3 + anchor * (size + 6)
          expect(fixed(place.xMm, place.widthMm, anchorX)).toBeCloseTo(97 + anchorX * 46, 2)
          expect(fixed(place.yMm, place.heightMm, anchorY)).toBeCloseTo(47 + anchorY * 46, 2)
        },
      ),
    )
  })

  it('size freely where the ratio is not kept, within what can be', () => {
    const options = { anchorX: 0, anchorY: 0, keepRatio: false }
    const wide = resized(job, 'dots', { x0: 100, y0: 50, x1: 140, y1: 90 }, { widthMm: 80 }, options).placements.source
    expect([wide.widthMm, wide.heightMm]).toEqual([80, 40])
    const tiny = resized(job, 'dots', { x0: 100, y0: 50, x1: 140, y1: 90 }, { widthMm: 0.0001 }, options).placements.source
    expect(tiny.widthMm).toBeGreaterThanOrEqual(0.5)
  })

  it('reorder operations, never past the ends', () => {
    expect(burnOrder(reordered(job, 'cut', 0))).toEqual(['cut', 'engrave'])
    expect(burnOrder(reordered(job, 'cut', 9))).toEqual(['engrave', 'cut'])
    expect(burnOrder(reordered(job, 'engrave', -4))).toEqual(['engrave', 'cut'])
  })

  it('know where artwork comes from and what uses it', () => {
    expect(sourceOf(job, 'around')).toBe('source')
    expect(usesOf(job, 'edge')).toEqual(['cut'])
    expect(usesOf(job, 'source')).toEqual(['engrave', 'cut'])
    expect(assetsOf(job)).toEqual(['a'.repeat(64)])
    const circle = withNode(withNode(job, 'edge', { from: 'around' } as never), 'around', { from: 'edge' } as never)
    expect(() => sourceOf(circle, 'edge')).toThrow('comes from itself')
  })
})
