import { expect, it } from 'vitest'
import { withNode } from '../edits/change.ts'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { CHANNELS, colourOf } from '../outline/colours/channels.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { GreyWeights } from '../picture/steps.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { ResultCache } from './cache.ts'
import { outlineRings } from './evaluate.ts'

const SIDE = 100
/** Two squares side by side, red and blue, on white: each channel as its weights ask. */
const channel = ({ r, g, b }: GreyWeights): GreyPicture =>
  greyPicture(SIDE, SIDE, (x, y) => {
    const rgb = y < 30 || y >= 70 || x < 20 || x >= 80 ? [255, 255, 255] : x < 50 ? [200, 30, 30] : [30, 40, 160]
    return rgb[0] * r + rgb[1] * g + rgb[2] * b
  })
const supply = { cache: new ResultCache(), picture: (_: string, grey: GreyWeights) => channel(grey) }
const base = sampleJob({ picture: channel(CHANNELS[0]), widthMm: 50 })
const palette = [
  [255, 255, 255],
  [200, 30, 30],
  [30, 40, 160],
] as const
const colours = (chosen: readonly number[], more: object = {}) =>
  withNode(base, 'edge', { mode: 'colours', palette, chosen, ...more } as never)

it('a trace takes some colours of its picture, alone or together', () => {
  expect(colourOf(CHANNELS.map(channel)).red[0]).toBe(255)
  const area = (chosen: readonly number[], more?: object): number =>
    shapeArea(outlineRings(checkJob(colours(chosen, more)), 'edge', supply))
  // 30 × 40 pixels of half a millimetre.
  expect(area([1])).toBeCloseTo(300, 0)
  expect(area([1, 2])).toBeCloseTo(area([1]) + area([2]), 3)
  expect(area([])).toBe(0)
  expect(area([1], { minAreaMm2: 400 })).toBe(0)
})

it('a zone keeps them in register, and a palette must be there', () => {
  const { xMm, yMm } = base.placements.source
  const zoned = colours([1, 2], { zone: { x: 0.5, y: 0, width: 0.5, height: 1 } })
  const box = ringsBounds(outlineRings(zoned, 'edge', supply))
  expect(box.x0).toBeCloseTo(xMm + 25, 1)
  expect(box.y1).toBeCloseTo(yMm + 35, 1)
  expect(() => checkJob(withNode(base, 'edge', { mode: 'colours' } as never))).toThrow('no palette')
})
