import { describe, expect, it } from 'vitest'
import { stepAdded, stepAs } from '../edits/steps-edits.ts'
import { readDxf } from '../formats/dxf/dxf.ts'
import { writeDxf } from '../formats/dxf/dxf-write.ts'
import { readSvg } from '../formats/svg/svg.ts'
import { writeSvgDrawing } from '../formats/svg/svg-write.ts'
import type { Step } from '../job/document/steps.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { drawingBounds, type VectorDrawing } from '../vector/drawing.ts'
import { ELSEWHERE_LAYERS, elsewhereDrawing } from './elsewhere.ts'

const picture = squarePicture(20, 5)
const supply = supplyWith(picture)
const sample = sampleJob({ picture })
const mill = { kind: 'elsewhere', text: 'Mill it out', tool: 'mill', of: ['edge'], toolMm: 3 } as const satisfies Step
const { job, step } = stepAdded(sample, mill)
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text)
const box = (drawing: VectorDrawing, layer: string) =>
  drawingBounds({ shapes: drawing.shapes.filter(({ look }) => look.layer === layer) })

describe('what another tool cuts', () => {
  it('is a path half the tool beside the outline, with the outline and the workpiece to lay it by', () => {
    const drawing = elsewhereDrawing(job, step, supply)
    const [path, outline, piece] = [ELSEWHERE_LAYERS.path, ELSEWHERE_LAYERS.outline, ELSEWHERE_LAYERS.piece].map((layer) =>
      box(drawing, layer),
    )
    expect(piece).toEqual({ x0: 0, y0: 0, x1: 300, y1: 200 })
    expect(outline.x0 - path.x0).toBeCloseTo(1.5, 2)
    expect(path.y1 - outline.y1).toBeCloseTo(1.5, 2)
    const sheet = elsewhereDrawing(stepAs(job, step, { ...mill, keeps: 'sheet' }) as typeof job, step, supply)
    expect(box(sheet, ELSEWHERE_LAYERS.path).x0 - outline.x0).toBeCloseTo(1.5, 2)
  })

  it('is left open where bridges hold it, by the width of the tool more', () => {
    const bridges = Object.fromEntries([0.5, 0].map((x, i) => [`b${i}`, { x, y: 0.5 - x, widthMm: 5 }]))
    const nodes = { ...sample.nodes, held: { kind: 'bridged', name: 'held', from: 'edge', bridges } as const }
    const held = stepAdded({ ...sample, nodes }, { ...mill, of: ['held'] }, 9)
    const path = (drawing: VectorDrawing) =>
      drawing.shapes.filter(({ look }) => look.layer === ELSEWHERE_LAYERS.path).flatMap(({ paths }) => paths)
    const made = path(elsewhereDrawing(held.job, held.step, supply))
    expect(made.map(({ closed }) => closed)).toEqual([false, false])
    const long = (paths: readonly { readonly points: Float64Array }[]): number =>
      paths.reduce((sum, { points }) => {
        for (let i = 2; i < points.length; i += 2) sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1])
        return sum
      }, 0)
    expect(long(path(elsewhereDrawing(job, step, supply))) - long(made)).toBeCloseTo(2 * (5 + 3), 3)
  })

  it('comes back from SVG and DXF as it went', () => {
    const drawing = elsewhereDrawing(job, step, supply)
    const paths = (read: VectorDrawing) =>
      read.shapes.filter(({ look }) => look.layer?.replace(/_/g, ' ') === ELSEWHERE_LAYERS.path).flatMap((shape) => shape.paths)
    for (const read of [readSvg(writeSvgDrawing(drawing)), readDxf(bytes(writeDxf(drawing)))]) {
      expect(paths(read)).toHaveLength(paths(drawing).length)
      const [was, is] = [
        box(drawing, ELSEWHERE_LAYERS.path),
        drawingBounds({ shapes: [{ ...read.shapes[0], paths: paths(read) }] }),
      ]
      expect(is.x1 - is.x0).toBeCloseTo(was.x1 - was.x0, 2)
      expect(is.y1 - is.y0).toBeCloseTo(was.y1 - was.y0, 2)
    }
  })

  it('is refused where nothing was chosen, or the tool gets in nowhere', () => {
    expect(() => elsewhereDrawing(stepAs(job, step, { ...mill, of: [] }), step, supply)).toThrow('choose the outlines')
    expect(() => elsewhereDrawing(stepAs(job, step, { ...mill, keeps: 'sheet', toolMm: 50 }), step, supply)).toThrow('thinner')
    expect(() => elsewhereDrawing(job, 'cut', supply)).toThrow('no step “cut” for another tool')
  })
})
