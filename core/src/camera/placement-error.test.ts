import { describe, expect, it } from 'vitest'
import { placementError } from './placement-error.ts'

const [W, H, CELL] = [240, 180, 0.25]

/** A drawing of bars and a disc, 0–1, moved by so many mm: each cell as much as is dark of it. */
const drawn = (dx: number, dy: number): Float32Array =>
  Float32Array.from({ length: W * H }, (_, i) => {
    let dark = 0
    for (let k = 0; k < 25; k++) {
      const x = ((i % W) + ((k % 5) + 0.5) / 5) * CELL - dx
      const y = (Math.floor(i / W) + (Math.floor(k / 5) + 0.5) / 5) * CELL - dy
      const bars = x > 12 && x < 46 && y > 10 && y < 30 && Math.floor(x / 3) % 2 === 0
      if (bars || Math.hypot(x - 30, y - 36) < 5) dark += 1 / 25
    }
    return dark
  })

/** A photo of it: uneven light, grain, noise. */
function photo(dx: number, dy: number, strength: number): Float32Array {
  let state = 7
  const random = (): number => {
    state = (state * 48271) % 2147483647
    return state / 2147483647 - 0.5
  }
  return drawn(dx, dy).map((dark, i) => {
    const [x, y] = [i % W, Math.floor(i / W)]
    const light = 150 + 0.25 * x - 0.2 * y + 9 * Math.sin(y / 1.7) * Math.sin(x / 60)
    return light * (1 - strength * dark) + 8 * random()
  })
}

describe('how far a burn lies from its forecast', () => {
  it.each([
    [0, 0],
    [0.4, -0.3],
    [-1.13, 0.77],
  ])('is told within 0.05 mm: %d, %d', (dx, dy) => {
    const found = placementError(photo(dx, dy, 0.6), drawn(0, 0), W, H, CELL, 2)!
    expect(Math.abs(found.dxMm - dx)).toBeLessThan(0.05)
    expect(Math.abs(found.dyMm - dy)).toBeLessThan(0.05)
    expect(found.alike).toBeGreaterThan(0.5)
  })

  it('is told of material of any shape: what is beside it does not count', () => {
    const inside = Uint8Array.from({ length: W * H }, (_, i) =>
      Math.hypot(((i % W) - W / 2) / (W / 2.3), (Math.floor(i / W) - H / 2) / (H / 2.3)) < 1 ? 1 : 0,
    )
    const beside = photo(0.4, -0.3, 0.6).map((v, i) =>
      inside[i] ? v : 40 + 120 * ((Math.floor((i % W) / 9) + Math.floor(i / W / 9)) % 2),
    )
    const found = placementError(beside, drawn(0, 0), W, H, CELL, 2, inside)!
    expect(Math.abs(found.dxMm - 0.4)).toBeLessThan(0.08)
    expect(Math.abs(found.dyMm + 0.3)).toBeLessThan(0.08)
  })

  it('is not told where nothing was burned, nor where it lies farther off than is looked', () => {
    expect(placementError(photo(0, 0, 0), drawn(0, 0), W, H, CELL, 2)).toBeUndefined()
    expect(placementError(photo(6, 5, 0.6), drawn(0, 0), W, H, CELL, 1)).toBeUndefined()
    expect(placementError(new Float32Array(W * H), new Float32Array(W * H), W, H, CELL, 1)).toBeUndefined()
  })
})
