import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import { mapPoint } from '../geometry/homography.ts'
import { type JobDocument, picturedRoot, withPlace } from '../job/document/document.ts'
import { preparedSize } from '../lineage/field.ts'
import { wattsAt } from '../machine/machine.ts'
import { areaDose } from '../material/material.ts'
import { frameMap } from '../picture/framing.ts'
import { type FramingStep, PLAIN_DOTS } from '../picture/steps.ts'
import type { PictureOperation } from '../process/picture/settings.ts'
import { checkJob } from '../reading/check-job.ts'
import { burning, greyPicture, marksOf, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { resolutionAdvice } from '../tuning/resolution-advice.ts'
import { withNode, withOperation } from './change.ts'
import {
  addedPart,
  addedStep,
  croppedTo,
  lookedAlong,
  movedStep,
  pictureNode,
  withDots,
  withFraming,
  withInterval,
  withLens,
  withoutStep,
  withStep,
} from './treatment-edits.ts'

const picture = greyPicture(200, 100, (x, y) => (x + y) % 256)
const job = sampleJob({ picture, widthMm: 40, xMm: 100, yMm: 50 })
const supply = supplyWith(picture)
const on = true as const
const engrave = (of: JobDocument): PictureOperation => of.operations.engrave as PictureOperation

/** Where a source pixel lies on the workpiece. */
function lies(of: JobDocument, x: number, y: number): readonly [number, number] {
  const { id, ...root } = picturedRoot(of, 'dots')
  const { widthPx, heightPx, toFrame } = frameMap(root, root.framing)
  const [u, v] = mapPoint(toFrame, x, y)
  const place = of.placements[id]
  return [place.xMm + (u / widthPx) * place.widthMm, place.yMm + (v / heightPx) * place.heightMm]
}

describe('framing', () => {
  it('leaves what stays in the picture where it lies', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 90 }),
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 20, max: 100 }),
        fc.integer({ min: 20, max: 50 }),
        (x, y, width, height) => {
          const cropped = withFraming(job, 'dots', [{ kind: 'crop', on, x, y, width, height }])
          const [ax, ay] = lies(job, x + 7, y + 9)
          const [bx, by] = lies(cropped, x + 7, y + 9)
          expect(Math.hypot(ax - bx, ay - by)).toBeLessThan(0.003)
          const { widthMm, heightMm } = cropped.placements.source
          expect(widthMm / heightMm).toBeCloseTo(width / height, 2)
        },
      ),
    )
  })

  it('turns and mirrors around the middle, and everything made from it follows', () => {
    const turned = withFraming(job, 'dots', [{ kind: 'turn', on, degrees: 90 }])
    expect(turned.placements.source).toMatchObject({ widthMm: 20, heightMm: 40, xMm: 110, yMm: 40 })
    const mirrored = withFraming(job, 'dots', [{ kind: 'mirror', on, way: 'left-right' }])
    expect(mirrored.placements.source).toEqual(job.placements.source)
    const [left] = lies(job, 0, 50)
    const [right] = lies(mirrored, 200, 50)
    expect(left).toBeCloseTo(right, 6)
    expect(checkJob(turned)).toEqual(turned)
  })

  it('gives an exact real size, keeps all that was chosen as far as the picture goes, and never more', () => {
    const crop: FramingStep = { kind: 'crop', on, x: 20, y: 10, width: 80, height: 60 }
    const exact = croppedTo(withFraming(job, 'dots', [crop]), 'dots', 0, { widthMm: 24, heightMm: 9.5 })
    expect(exact.placements.source).toMatchObject({ widthMm: 24, heightMm: 9.5 })
    const [step] = picturedRoot(exact, 'dots').framing
    if (step.kind !== 'crop') throw new Error()
    expect(step.width / step.height).toBeCloseTo(24 / 9.5, 9)
    expect(step.x).toBeGreaterThanOrEqual(0)
    expect(step.x + step.width).toBeLessThanOrEqual(200 + 1e-9)
    expect(step.width).toBeGreaterThanOrEqual(80)
  })
})

describe('steps', () => {
  const levels = { kind: 'levels', on, black: 0, white: 255, gamma: 1, ink: [], paper: [] } as const

  it('are added, moved, changed and removed, each with its mask', () => {
    const two = addedStep(addedStep(job, 'dots', 'a', levels), 'dots', 'b', { kind: 'invert', on }, 0)
    expect(pictureNode(two, 'dots').order).toEqual(['b', 'a'])
    expect(pictureNode(movedStep(two, 'dots', 'b', 1), 'dots').order).toEqual(['a', 'b'])
    const stroke = { kind: 'brush', add: true, radius: 4, points: [10, 10, 20, 20] } as const
    const masked = withStep(addedPart(two, 'dots', 'm', 'p', stroke), 'dots', 'b', { mask: 'm' })
    expect(checkJob(masked)).toEqual(masked)
    const without = withoutStep(masked, 'dots', 'b')
    expect(pictureNode(without, 'dots')).toMatchObject({ order: ['a'], masks: {} })
    expect(() => checkJob(withStep(two, 'dots', 'b', { mask: 'gone' }))).toThrow('a mask that is missing')
  })
})

describe('dots as they are', () => {
  const prepared = withDots(job, 'dots', { asPrepared: true })
  const about = (of: JobDocument, kind: string) => checkFindings(of, supply).filter((found) => found.kind === kind)

  it('are never resampled: a size that does not fit is asked about, and its fix is exact', () => {
    const wrong = withPlace(prepared, 'source', { xMm: 0, yMm: 0, widthMm: 31, heightMm: 15 })
    const [found] = about(wrong, 'dots-mismatch')
    expect(found.message).toContain('200 × 100 dots at 0.2 mm are 40.0 × 20.0 mm')
    const marks = marksOf(wrong, engrave(wrong), supply)
    expect([marks.columns, marks.rows]).toEqual([200, 100])
  })

  it('that fit are no finding; turned between pixels they are', () => {
    const fits = {
      ...prepared,
      placements: {
        source: {
          ...prepared.placements.source,
          xMm: 10,
          yMm: 10,
          ...preparedSize(prepared, 'dots', engrave(prepared).intervalMm),
        },
      },
    }
    expect(about(fits, 'dots-mismatch')).toEqual([])
    expect(about(withFraming(fits, 'dots', [{ kind: 'turn', on, degrees: 90 }]), 'dots-turned')).toEqual([])
    const aslant = withFraming(fits, 'dots', [{ kind: 'turn', on, degrees: 3 }])
    expect(about(aslant, 'dots-turned')).toHaveLength(1)
  })
})

describe('the interval', () => {
  const dose = (of: JobDocument): number => {
    const { power, speedMmS, intervalMm } = engrave(of)
    return areaDose(wattsAt(of.machine, power), speedMmS, intervalMm)
  }

  it('keeps the dose when asked: by power, and by speed where power is at its end', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.03, max: 1.5, noNaN: true }), (interval) => {
        const intervalMm = Math.round(interval * 1000) / 1000
        const changed = withInterval(job, 'engrave', intervalMm, true)
        expect(Math.abs(dose(changed) / dose(job) - 1)).toBeLessThan(0.005)
        expect(engrave(changed).power).toBeLessThanOrEqual(1)
        expect(checkJob(changed)).toEqual(changed)
      }),
    )
    expect(engrave(withInterval(job, 'engrave', 0.1, false)).power).toBe(engrave(job).power)
  })

  it('goes with the lens: finer spot, finer lines, the same dose', () => {
    const fine = withLens(job, 'l38')
    expect(fine.machine.lens).toBe('l38')
    expect(engrave(fine).intervalMm).toBeCloseTo((0.2 * 0.09) / 0.12, 6)
    expect(dose(fine)).toBeCloseTo(dose(job), 3)
  })

  it('is advised on: pixels, spot, lens, and what the beam blurs', () => {
    const says = (of: JobDocument) => resolutionAdvice(of, engrave(of))
    expect(says(job)).toMatchObject({ verdict: 'suits', blurMm: 0 })
    expect(says(withInterval(job, 'engrave', 0.08, true)).verdict).toBe('missing')
    expect(says(withInterval(job, 'engrave', 0.5, true))).toMatchObject({ verdict: 'wasted' })
    expect(says(withInterval(job, 'engrave', 0.5, true)).spotLine).toContain('gaps of 0.380 mm')
    const fine = says(withInterval(job, 'engrave', 0.085, true))
    expect(fine.spotLine).toContain('they join')
    const lens = says(withInterval(job, 'engrave', 0.2, true)).lens
    expect(lens?.lens.spotMm).toBe(0.24)
    const slow = { ...job, machine: { ...job.machine, riseTimeS: 0.0005 } }
    expect(says(slow).blurLine).toContain('0.15 mm')
    const [found] = checkFindings(slow, supply).filter(({ kind }) => kind === 'too-fast')
    expect(found.fixes[0].label).toBe('Slow down to 200 mm/s')
    const slower = withOperation(slow, 'engrave', { speedMmS: 200 })
    expect(checkFindings(slower, supply).filter(({ kind }) => kind === 'too-fast')).toEqual([])
  })
})

describe('a mesh', () => {
  it('seen from another side keeps its scale and its middle', () => {
    const facts = { asset: 'b'.repeat(64), widthPx: 1600, heightPx: 1200, framing: [] }
    const mesh = { kind: 'mesh', name: 'island.stl', axis: '+z', near: 0, far: 1, ...facts } as const
    const place = { xMm: 10, yMm: 20, widthMm: 80, heightMm: 60 }
    const carved = withPlace({ ...job, nodes: { ...job.nodes, source: mesh } }, 'source', place)
    const above = { width: 160, height: 120, depth: 14 }
    const side = lookedAlong(carved, 'source', '-y', above, { width: 160, height: 14, depth: 120 })
    expect(side.placements.source).toMatchObject({ widthMm: 80, heightMm: 7, xMm: 10, yMm: 46.5 })
    expect(side.nodes.source).toMatchObject({ axis: '-y', widthPx: 1600, heightPx: 140 })
    expect(checkJob(side)).toEqual(side)
    expect(lookedAlong(carved, 'source', '+x', above, { width: 120, height: 0, depth: 160 })).toBe(carved)
  })
})

describe('an operation put aside', () => {
  it('keeps its settings, and burns nothing', () => {
    const aside = burning(job, 'cut')
    expect(checkJob(aside)).toEqual(aside)
    const node = withNode(aside, 'dots', { dots: { ...PLAIN_DOTS, kernel: 'none' } })
    expect(checkFindings(node, supply).every(({ operation }) => operation !== 'engrave')).toBe(true)
  })
})
