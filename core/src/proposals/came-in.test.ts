import { expect, it } from 'vitest'
import { cameIn } from './came-in.ts'

it('a report of what came in says its size and why, then what was converted and left out', () => {
  expect(cameIn({ widthPx: 1200, heightPx: 800, pixelsPerMm: 300 / 25.4 })).toEqual([
    '1200 × 800 px at 300 DPI, as the file says: 101.6 × 67.7 mm.',
  ])
  const told = 'It is in CMYK, the colours of print: they were made those of a screen.'
  expect(cameIn({ widthPx: 40, heightPx: 30, notices: [told] })).toEqual([
    '40 × 30 px; the file says no resolution, so its size is chosen here.',
    told,
  ])
  expect(
    cameIn({ widthPx: 1, heightPx: 1, drawing: { widthMm: 58, heightMm: 3.456, shapes: 1, notices: ['1 picture left out.'] } }),
  ).toEqual(['58 × 3.46 mm by the units of the file, 1 shape.', '1 picture left out.'])
  expect(cameIn({ widthPx: 1, heightPx: 1, mesh: {} })).toEqual([])
})
