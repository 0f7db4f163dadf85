import { describe, expect, it } from 'vitest'
import { mainPieceId, withPiece } from '../job/document/document.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import type { Calibration } from './calibrate.ts'
import { movedBy, type PhotoFacts, photoFindings } from './photo-findings.ts'
import { framePlaces, isTrusted, trustMap } from './trust.ts'

const BED = { widthMm: 600, heightMm: 400 }
/** Marks every 25 mm over a box of the bed, told within so much. */
const errors = (x1: number, mm = 0.04): Calibration['errors'] =>
  Array.from({ length: 25 * 17 }, (_, i) => ({ x: 25 * (i % 25), y: 25 * Math.floor(i / 25), mm })).filter(({ x }) => x <= x1)

const calibration = (more: Partial<Calibration> = {}): Calibration => ({
  camera: {
    widthPx: 2592,
    heightPx: 1944,
    focalPx: 2400,
    axisPx: [1296, 972],
    lens: { kind: 'brown', k1: -0.2, k2: 0.05, p1: 0, p2: 0 },
    turn: [0, 0, 0],
    shift: [-300, -200, 600],
  },
  rmsMm: 0.03,
  p95Mm: 0.06,
  worst: { mm: 0.1, x: 20, y: 20 },
  spots: 425,
  heights: [0.3, 15],
  errors: errors(600),
  ...more,
})

const job = sampleJob({ picture: squarePicture(60, 10) })
const id = mainPieceId(job)
const laidNow = (of = job): PhotoFacts['laid'] => ({ [id]: of.workpieces[id].pose })
const facts = (more: Partial<PhotoFacts> = {}): PhotoFacts => ({
  bed: BED,
  calibration: calibration(),
  calibratedAt: 1e12,
  takenAt: 1e12 + 1000,
  now: 1e12 + 2000,
  laid: laidNow(),
  ...more,
})
const kinds = (more: Partial<PhotoFacts>, of = job): string[] => photoFindings(of, facts(more)).map(({ kind }) => kind)

describe('what is to be thought of before a photo of the bed is believed', () => {
  it('is nothing where it is fresh, and the camera sees well where the work lies', () => {
    expect(kinds({})).toEqual([])
  })

  it('is told each for itself', () => {
    expect(kinds({ calibration: calibration({ errors: errors(0) }) })).toEqual(['outside-trusted'])
    expect(kinds({ calibration: calibration({ errors: errors(600, 0.8) }) })).toEqual(['outside-trusted'])
    expect(kinds({ calibration: calibration({ p95Mm: 0.5 }) })).toEqual(['calibration-poor'])
    expect(kinds({ now: 1e12 + 200 * 86_400_000 })).toEqual(['calibration-old'])
    expect(kinds({ movedAt: 1e12 + 1500 })).toEqual(['photo-old'])
    expect(kinds({ movedAt: 1e12 + 500 })).toEqual([])
    const thick = withPiece(job, { thicknessMm: 40 })
    expect(kinds({}, thick)).toEqual(['thickness-unlike'])
    const { pose } = job.workpieces[id]
    expect(kinds({}, withPiece(job, { pose: { ...pose, xMm: pose.xMm + 3 } }))).toEqual(['workpiece-moved'])
    expect(kinds({}, withPiece(job, { pose: { ...pose, deg: (pose.deg ?? 0) + 2 } }))).toEqual(['workpiece-moved'])
  })

  it('is a knocked camera where the marks of its frame are seen elsewhere, or not at all', () => {
    const known = framePlaces(BED)
    const at = (dx: number) => known.map((place) => ({ known: place, found: [place[0] + dx, place[1]] as const }))
    expect(movedBy(at(0.2))).toBeCloseTo(0.2)
    expect(kinds({ fixed: at(0.2) })).toEqual([])
    expect(kinds({ fixed: at(3) })).toEqual(['camera-moved'])
    // One that is hidden, or mistaken, says nothing of the camera.
    expect(kinds({ fixed: at(0).map((mark, i) => (i === 0 ? { ...mark, found: [40, 40] as const } : mark)) })).toEqual([])
    expect(kinds({ fixed: known.map((place) => ({ known: place, found: undefined })) })).toEqual(['camera-moved'])
    expect(photoFindings(job, facts({ fixed: at(3) }))[0].message).toContain('3.0 mm')
  })
})

describe('the map of trust', () => {
  it('has the most that marks are off in each part of the bed, and nothing where none was seen', () => {
    const { columns, rows, cells } = trustMap(calibration({ errors: errors(300) }), BED)
    expect([columns, rows]).toEqual([12, 8])
    expect(cells[0].mm).toBe(0.04)
    expect(cells[11].mm).toBeNull()
    expect(cells.filter(({ mm }) => mm === null)).toHaveLength(5 * 8)
  })

  it('tells whether a box lies where the camera may be trusted', () => {
    const half = calibration({ errors: errors(300) })
    expect(isTrusted(half, BED, { x0: 20, y0: 20, x1: 200, y1: 200 })).toBe(true)
    expect(isTrusted(half, BED, { x0: 20, y0: 20, x1: 420, y1: 200 })).toBe(false)
  })
})
