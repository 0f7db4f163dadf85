import { describe, expect, it } from 'vitest'
import { burnTone } from './burn-tones.ts'

const [W, H, CELL] = [200, 160, 0.25]

/** A photo of a burned square under uneven light: it turned out so dark, shifted a little. */
function photo({ tone = 0.6, contrast = 0.7, dx = 3, forecast = 0.5 }) {
  const own = new Uint8Array(W * H)
  const all = new Uint8Array(W * H)
  const inside = new Uint8Array(W * H)
  const light = new Float64Array(W * H)
  const noise = (i: number): number => ((Math.imul(i, 2654435761) >>> 16) & 15) - 7.5
  for (let i = 0; i < W * H; i++) {
    const [x, y] = [i % W, Math.floor(i / W)]
    inside[i] = x > 4 && x < W - 4 && y > 4 && y < H - 4 ? 1 : 0
    if (x >= 60 && x < 120 && y >= 50 && y < 110) own[i] = Math.round(255 * forecast)
    // Another operation beside it, and over a part of it.
    all[i] = x >= 110 && x < 150 && y >= 50 && y < 110 ? 255 : own[i]
    const lit = 120 + 0.4 * x + 0.2 * y
    const isBurnt = x - dx >= 60 && x - dx < 110 && y >= 50 && y < 110
    const isOther = x - dx >= 110 && x - dx < 150 && y >= 50 && y < 110
    light[i] = lit * (1 - contrast * (isBurnt ? tone : isOther ? 1 : 0)) + noise(i)
  }
  return { light, own, all, inside }
}

describe('how dark a burn came out, by a photo', () => {
  it.each([0.2, 0.45, 0.6, 0.9])('is told within 3 %%, under uneven light, beside other burns: %s', (tone) => {
    const found = burnTone(photo({ tone }), W, H, CELL, 0.7, { dxMm: 3 * CELL, dyMm: 0 })!
    expect(Math.abs(found.seen - tone)).toBeLessThan(0.03)
    expect(found.forecast).toBeCloseTo(0.5, 2)
    expect(found.areaMm2).toBeCloseTo(50 * 60 * CELL * CELL, 0)
  })

  it('goes for what turns lighter as well', () => {
    const found = burnTone(photo({ contrast: -0.8 }), W, H, CELL, -0.8, { dxMm: 3 * CELL, dyMm: 0 })!
    expect(Math.abs(found.seen - 0.6)).toBeLessThan(0.03)
  })

  it('is not told where nothing is untouched, or nothing was forecast', () => {
    const { light, own, all, inside } = photo({})
    expect(burnTone({ light, own, all: all.map(() => 255), inside }, W, H, CELL, 0.7, { dxMm: 0, dyMm: 0 })).toBeUndefined()
    expect(burnTone({ light, own: own.map(() => 0), all, inside }, W, H, CELL, 0.7, { dxMm: 0, dyMm: 0 })).toBeUndefined()
  })
})
