import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { outlinePath } from './outline-paths.ts'

/** Remembers what is drawn. */
class Seen {
  readonly points: [number, number][] = []
  moveTo(x: number, y: number): void {
    this.points.push([x, y])
  }
  lineTo(x: number, y: number): void {
    this.points.push([x, y])
  }
  closePath(): void {}
}

beforeEach(() => vi.stubGlobal('Path2D', Seen))
afterEach(() => vi.unstubAllGlobals())

describe('outlines on the stage', () => {
  const circle = Float64Array.from(
    { length: 20_000 },
    (_, i) => 50 * (i % 2 ? Math.sin((i - 1) * Math.PI * 1e-4) : Math.cos(i * Math.PI * 1e-4)),
  )
  const drawn = (scale: number): readonly [number, number][] => (outlinePath(rings, scale) as unknown as Seen).points
  const rings = [circle]

  it('have the corners that the screen can show, and no more', () => {
    for (const scale of [0.5, 2, 10]) {
      const points = drawn(scale)
      expect(points.length).toBeLessThan(2 * Math.PI * 50 * 2 * scale * 3 + 3)
      // Nowhere farther from the circle than half a pixel.
      points.forEach(([x, y], i) => {
        const [u, v] = points[(i + 1) % points.length]
        expect(50 - Math.hypot((x + u) / 2, (y + v) / 2)).toBeLessThan(0.5 / scale)
      })
    }
  })

  it('are built once for a doubling of the scale', () => {
    expect(outlinePath(rings, 1.1)).toBe(outlinePath(rings, 1.9))
    expect(outlinePath(rings, 1.1)).not.toBe(outlinePath(rings, 2.1))
  })
})
