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
