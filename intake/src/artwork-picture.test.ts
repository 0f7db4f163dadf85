import { decodePng, encodePng } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { artworkPicture } from './artwork-picture.ts'

const svg = (inside: string): Uint8Array =>
  new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40">${inside}</svg>`,
  )

describe('the small picture of artwork', () => {
  it('is a picture in its colours, each pixel the mean of those it stands for', () => {
    const widthPx = 800
    const heightPx = 400
    const samples = new Uint8Array(widthPx * heightPx * 3)
    for (let i = 0; i < widthPx * heightPx; i++)
      samples.set(i % widthPx < 400 ? [200, 40, 20] : i % 2 ? [0, 0, 0] : [100, 200, 50], 3 * i)
    const small = decodePng(artworkPicture(encodePng({ widthPx, heightPx, channels: 3, samples, full: 255 })))
    expect([small.widthPx, small.heightPx]).toEqual([320, 160])
    const at = (x: number, y: number): number[] => [...small.samples.subarray(3 * (y * 320 + x), 3 * (y * 320 + x) + 3)]
    expect(at(20, 80)).toEqual([200, 40, 20])
    const mean = at(300, 80)
    expect(mean[1]).toBeGreaterThan(60)
    expect(mean[1]).toBeLessThan(140)
  })

  it('is a drawing as it is seen, thin strokes too, with nothing where nothing is', () => {
    const small = decodePng(
      artworkPicture(svg('<rect width="40" height="40" fill="#123"/><path d="M40 20H80" stroke="red" stroke-width="0.01"/>')),
    )
    expect(small.widthPx).toBe(320)
    const alpha = (x: number, y: number): number => small.samples[4 * (y * small.widthPx + x) + 3]
    expect(alpha(40, 40)).toBe(255)
    expect(alpha(240, 20)).toBe(0)
    const line = [78, 79, 80, 81].map((y) => alpha(240, y))
    expect(Math.max(...line)).toBeGreaterThan(120)
  })

  it('of a line alone has a height all the same; of nothing there is none', () => {
    const small = decodePng(artworkPicture(svg('<path d="M0 20H80" stroke="#000"/>')))
    expect(small.heightPx).toBeGreaterThan(1)
    expect(() => artworkPicture(svg('<path d="M0 0"/>'))).toThrow()
  })
})
