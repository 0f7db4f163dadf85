import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { resized } from '../edits/change.ts'
import { DrawingError, drawingKind, readDrawing } from '../formats/read-drawing.ts'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { burnOrder } from '../job/document/document.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { grownRings, kerfRings, outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { spotMm, wattsAt } from '../machine/machine.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { lineDose } from '../material/material.ts'
import { measureJob } from '../plan/plan.ts'
import { score } from '../process/score/score.ts'
import { checkJob } from '../reading/check-job.ts'
import { marksOf } from '../testing/sample-job.ts'
import { caughtBy, FIRST_RULES, fits, type ImportRule } from '../vector/import-rules.ts'
import type { SourceFacts } from './proposals.ts'
import { proposalsFor } from './proposals-for.ts'

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
  <g fill="none" stroke="#ff0000" stroke-width="0.05"><rect x="10" y="10" width="80" height="40"/><circle cx="20" cy="20" r="4"/></g>
  <path d="M30 20h20v10h-20z M35 22v6h6v-6z" fill="#000" fill-rule="evenodd"/>
  <rect x="45" y="25" width="20" height="10" fill="#444"/>
  <path id="wave" d="M30 42h30" fill="none" stroke="#0000ff" stroke-width="2"/>
  <rect width="5" height="5" fill="none"/>
</svg>`
const bytes = strToU8(svg)
const supply = assetsSupply(() => bytes)
const facts: SourceFacts = {
  name: 'tide-gauge.svg',
  asset: 'a'.repeat(64),
  widthPx: 1,
  heightPx: 1,
  hasAlpha: true,
  drawing: readDrawing(bytes),
}
const settings = { workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
const by = (id: string, rules?: readonly ImportRule[]) =>
  proposalsFor(facts, settings, supply, rules).find((each) => each.id === id)!.job

describe('import rules', () => {
  it('say what is cut, engraved and left out; the first that fits decides', () => {
    const caught = caughtBy(readDrawing(bytes), FIRST_RULES)
    expect(caught.map(({ rule, shapes }) => [rule?.does, shapes])).toEqual([
      ['cut', 2],
      ['engrave', 2],
      ['engrave', 1],
      ['leave', 0],
    ])
  })

  it('look at colour, width and layer; what none fits is told', () => {
    const red: ImportRule = { id: 'r', name: 'Red is scored', does: 'score', stroke: '#FF0000' }
    expect(fits(red, { stroke: '#ff0000' })).toBe(true)
    expect(fits(red, { stroke: '#ff0001' })).toBe(false)
    expect(fits({ ...red, thinnerThanMm: 0.1 }, { stroke: '#ff0000', strokeMm: 0.2 })).toBe(false)
    expect(fits({ ...red, stroke: 'any', layer: 'deck' }, { stroke: '#000000', layer: 'Upper Deck' })).toBe(true)
    expect(caughtBy(readDrawing(bytes), [red]).at(-1)).toMatchObject({ rule: undefined, shapes: 3 })
    expect(burnOrder(by('by-rules', [red]))).toEqual(['score'])
  })
})

describe('jobs from a drawing', () => {
  it('are whole jobs of the drawing’s own size, in the middle', () => {
    for (const { id, job } of proposalsFor(facts, settings, supply)) {
      expect(checkJob(job), id).toEqual(job)
      expect(measureJob(job, supply).seconds, id).toBeGreaterThan(1)
      const place = job.placements.source
      expect([place.widthMm, place.heightMm], id).toEqual([80, 40])
    }
    const job = by('by-rules')
    expect(job.name).toBe('tide gauge')
    expect(burnOrder(job)).toEqual(['engrave', 'cut'])
  })

  it('engrave what is seen: fills by their own rule, together, and strokes as wide as they are', () => {
    const job = by('by-rules')
    // 20 × 10 less 6 × 6, with 20 × 10 over a corner of 5 × 5, and a stroke of 30 × 2 that ends where its line does.
    const wanted = 200 - 36 + 200 - 25 + 60
    expect(shapeArea(outlineRings(job, 'areas', supply))).toBeCloseTo(wanted, 0)
    const op = job.operations.engrave as never
    const marks = marksOf(job, op, supply)
    const dot = (job.operations.engrave as { intervalMm: number }).intervalMm
    expect(marks.coverage * marks.columns * marks.rows * dot * dot).toBeCloseTo(wanted, -1)
  })

  it('cut outlines with their kerf, holes inwards, and grow with the artwork', () => {
    const job = by('by-rules')
    const area = shapeArea(kerfRings(job, 'outline', 0.1, supply))
    expect(area).toBeCloseTo(80.2 * 40.2 - (0.04 * (4 - Math.PI)) / 4 - Math.PI * 3.9 ** 2, 0)
    const box = ringsBounds(outlineRings(job, 'outline', supply))
    const large = resized(job, 'outline', box, { widthMm: 160 }, { anchorX: 0, anchorY: 0, keepRatio: true })
    expect(shapeArea(outlineRings(large, 'outline', supply))).toBeCloseTo(4 * shapeArea(outlineRings(job, 'outline', supply)), 0)
  })

  it('score every line as it is, and cut open ones so', () => {
    const job = by('score-lines')
    expect(outlineLines(job, 'lines', supply)).toHaveLength(6)
    expect(kerfRings(job, 'lines', 0.1, supply)).toEqual([])
    expect(outlineLines(by('cut-lines'), 'outline', supply)).toHaveLength(1)
    expect(grownRings(by('engrave-seen-cut-around'), 'around', 0, supply)).toHaveLength(1)
  })

  it('shrink to the workpiece where they are larger, and take the size asked for', () => {
    const small = { ...settings, workpiece: { widthMm: 50, heightMm: 50, thicknessMm: 3 } }
    expect(proposalsFor(facts, small, supply)[0].job.placements.source.widthMm).toBeCloseTo(45, 3)
    const sized = proposalsFor(facts, { ...settings, size: { heightMm: 25 } }, supply)[0].job.placements.source
    expect(sized).toMatchObject({ widthMm: 50, heightMm: 25 })
  })
})

describe('scoring', () => {
  it('marks a line so that it is seen alone, and stays well below a cut and what harms the layer below', () => {
    for (const machine of MACHINES)
      for (const material of MATERIALS) {
        const op = score.fromRecipe(['lines'], material, machine)
        const dose = lineDose(wattsAt(machine, op.power), op.speedMmS)
        expect(dose, material.id).toBeLessThan(0.6 * material.cutDose.from)
        const over = dose / spotMm(machine)
        const [top, below] = material.layers
        const full = top.markDose.to
        if (op.recipe === undefined) {
          expect(over, material.id).toBeGreaterThan(0.95 * Math.min(full, (0.5 * material.cutDose.from) / spotMm(machine)))
          expect(over, material.id).toBeLessThan(2.7 * full)
        }
        if (below) expect(over, material.id).toBeLessThan(Math.max(0.55 * below.markDose.from, 1.2 * full))
        expect(op.power).toBeLessThanOrEqual(1)
      }
  })
})

describe('files', () => {
  it('are told by how they begin', () => {
    expect(drawingKind(bytes)).toBe('svg')
    expect(drawingKind(strToU8('﻿<?xml version="1.0"?><!-- x --><svg/>'))).toBe('svg')
    expect(drawingKind(strToU8('0\nSECTION\n2\nHEADER\n'))).toBe('dxf')
    expect(drawingKind(strToU8('<html/>'))).toBeUndefined()
    expect(drawingKind(strToU8('G0 X1\n'))).toBeUndefined()
  })

  it('that draw nothing get a sentence', () => {
    expect(() => readDrawing(strToU8('<svg xmlns="http://www.w3.org/2000/svg"><text>x</text></svg>'))).toThrow(DrawingError)
    expect(() => readDrawing(strToU8('nothing'))).toThrow('SVG and text DXF')
    expect(() => readDrawing(strToU8('<svg xmlns="http://www.w3.org/2000/svg"><path d="M1 1L1 1"/></svg>'))).toThrow(
      'no larger than a point',
    )
  })
})
