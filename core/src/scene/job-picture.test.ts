import { describe, expect, it } from 'vitest'
import { paintForecast } from '../forecast/paint.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { jobPicture } from './job-picture.ts'
import { forecastScene } from './scene.ts'

const picture = greyPicture(20, 20, () => 20)
const supply = supplyWith(picture)
const job = onRectangle(sampleJob({ picture, widthMm: 20, xMm: 10, yMm: 10 }), { widthMm: 60, heightMm: 40 })

describe('the picture of a job', () => {
  it('is its one workpiece after the burn, as large as its box', () => {
    const made = jobPicture(job, supply, 120)
    expect([made.widthPx, made.heightPx]).toEqual([120, 80])
    const view = { x: 0, y: 0, pxPerMm: 2, widthPx: 120, heightPx: 80 }
    expect(made.samples).toEqual(paintForecast(forecastScene(job, supply), view))
  })

  it('has all workpieces where they lie, and nothing between them', () => {
    const { piece } = job.workpieces
    const tray = {
      ...job,
      workpieces: {
        piece: { ...piece, pose: { xMm: 0, yMm: 0 } },
        other: { ...piece, pose: { xMm: 80, yMm: 50 } },
        side: { ...piece, pose: { xMm: 0, yMm: 0 }, back: { of: 'piece', way: 'left-right' } as const },
      },
    }
    const { samples, widthPx, heightPx } = jobPicture(tray, supply, 280)
    const alpha = (xMm: number, yMm: number): number => {
      const scale = widthPx / (140 * 1.04)
      const at = Math.round((yMm + 2.8) * scale) * widthPx + Math.round((xMm + 2.8) * scale)
      return samples[4 * at + 3]
    }
    expect(heightPx).toBe(Math.round((90 + 5.6) * (280 / 145.6)))
    expect(alpha(50, 35)).toBe(255)
    expect(alpha(130, 85)).toBe(255)
    expect(alpha(130, 10)).toBe(0)
    expect(alpha(30, 70)).toBe(0)
  })

  it('has turned ones as they lie, with what is burned on them', () => {
    const { piece } = job.workpieces
    const turned = {
      ...job,
      workpieces: { piece: { ...piece, pose: { xMm: 0, yMm: 0 } }, other: { ...piece, pose: { xMm: 80, yMm: 0, deg: 90 } } },
      placements: { ...job.placements, again: { ...Object.values(job.placements)[0], on: 'other' } },
    }
    const { samples, widthPx, heightPx } = jobPicture(turned, supply, 560)
    // Upright it is 40 wide and 60 high, around the same middle: 90 to 130, −10 to 50.
    const by = 0.02 * 130
    const scale = widthPx / (130 + 2 * by)
    const pixel = (xMm: number, yMm: number): number[] => {
      const at = Math.floor((yMm + 10 + by) * scale) * widthPx + Math.floor((xMm + by) * scale)
      return [...samples.subarray(4 * at, 4 * at + 4)]
    }
    expect(heightPx).toBe(Math.round((60 + 2 * by) * scale))
    expect(pixel(95, -5)[3]).toBe(255)
    expect(pixel(125, 45)[3]).toBe(255)
    expect(pixel(85, 20)[3]).toBe(0)
    // What lies at 20, 20 of the face, dark, comes to lie at 120, 10 of the bed.
    expect(pixel(120, 0)[0]).toBeLessThan(pixel(95, 45)[0] - 20)
  })
})
