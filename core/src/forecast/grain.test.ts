import { describe, expect, it } from 'vitest'
import { grainAt, grainField } from './grain.ts'

const view = { x: -7.3, y: 41.9, pxPerMm: 4, widthPx: 300, heightPx: 120 }
/** How far the field is from the grain at its pixels, on average and at most. */
function away(kind: 'wood' | 'plain', of: typeof view): { mean: number; most: number } {
  const field = grainField(kind, of)
  let sum = 0
  let most = 0
  field.forEach((g, i) => {
    const x = of.x + ((i % of.widthPx) + 0.5) / of.pxPerMm
    const y = of.y + (Math.floor(i / of.widthPx) + 0.5) / of.pxPerMm
    const d = Math.abs(g - grainAt(kind, x, y))
    sum += d
    most = Math.max(most, d)
  })
  return { mean: sum / field.length, most }
}

describe('the grain of a view', () => {
  it('is that of its places, whatever the scale', () => {
    for (const pxPerMm of [0.9, 3.3, 4, 11, 60]) {
      const { mean, most } = away('wood', { ...view, pxPerMm })
      // Far away the finest fibres are narrower than a pixel.
      expect(mean).toBeLessThan(pxPerMm < 10 ? 0.06 : 0.012)
      if (pxPerMm > 10) expect(most).toBeLessThan(0.08)
      expect(away('plain', { ...view, pxPerMm }).most).toBeLessThan(0.01)
    }
  })

  it('stays where it is when the view moves by pixels, across tiles too', () => {
    const still = grainField('wood', view)
    const moved = grainField('wood', { ...view, x: view.x + 37 / 4, y: view.y - 11 / 4 })
    for (let y = 0; y < 100; y++)
      for (let x = 0; x < 260; x++) expect(Math.abs(moved[300 * (y + 11) + x] - still[300 * y + x + 37])).toBeLessThan(1e-4)
  })
})
