import { flattenPath, mapPath } from '@neotaxis/core'
import { nest } from '@neotaxis/core/geometry/nesting'
import { readFont } from '@neotaxis/core/text/outline-font'
import { describe, expect, it } from 'vitest'
import { shippedFonts } from './shipped-fonts.ts'
import { takeIn } from './take-in.ts'

const PRINTABLE = String.fromCharCode(...Array.from({ length: 94 }, (_, i) => 33 + i))

describe('the fonts that ship', () => {
  const fonts = shippedFonts()

  it('have every letter of a keyboard, and capitals as high as they say', () => {
    for (const { name, bytes } of fonts) {
      const face = readFont(bytes)
      expect(face.lacks(`${PRINTABLE}äöüéñß`), name).toEqual([])
      const [letter] = face.set('H')
      const top = Math.min(...letter.paths.flatMap((path) => [...flattenPath(path, 0.001)].filter((_, i) => i % 2)))
      expect(-top, name).toBeCloseTo(1, 1)
    }
  })

  it('are taken in as any font, byte for byte', async () => {
    for (const { bytes } of fonts) {
      const intake = await takeIn(bytes)
      expect(intake.font?.name).toBeTruthy()
      expect(intake.bytes).toEqual(bytes)
    }
  })

  it('keep their islands where they say so: no letter of the stencil font has a hole', () => {
    const face = readFont(fonts.find(({ id }) => id === 'stencil')!.bytes)
    for (const letter of face.set('ABDOPQRabdegopq04689&@%')) {
      const rings = letter.paths.map((path) => flattenPath(mapPath(path, 100, 100, 0, 0), 0.01))
      expect([...nest(rings).depth].every((depth) => depth === 0)).toBe(true)
    }
  })
})
