import { describe, expect, it } from 'vitest'
import { drawnSvg } from '../drawn/drawn.ts'
import { drawnSchema } from '../drawn/drawn-schema.ts'
import { readSvg } from '../formats/svg/svg.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringContains } from '../geometry/ring.ts'
import { codeData, codeModules } from './qr-code.ts'

const spec = { kind: 'code', text: 'NEOTAXIS:A2B3C4', sizeMm: 20, onDark: false } as const

/** Whether each module of a drawn code is dark: the middle of each is asked, of the areas as they are drawn. */
function readBack(drawn: Parameters<typeof drawnSvg>[0], count: number, sizeMm: number): boolean[][] {
  const { shapes } = readSvg(drawnSvg(drawn).svg)
  const rings = shapes.flatMap(({ paths }) => paths.map((path) => flattenPath(path, 0.001)))
  const unit = sizeMm / count
  return Array.from({ length: count }, (_, y) =>
    Array.from({ length: count }, (_, x) => {
      const at = (i: number): number => (i + 0.5 - count / 2) * unit
      return rings.filter((ring) => ringContains(ring, at(x), at(y))).length % 2 === 1
    }),
  )
}

describe('a code', () => {
  it('is drawn as filled areas, module by module as it was encoded', () => {
    const modules = codeModules(spec.text)
    expect(modules.length).toBeGreaterThan(20)
    expect(readBack(spec, modules.length, 20)).toEqual(modules)
    // The finder in its corner is one ring with a square in it, not 33 squares.
    expect(codeData(spec).match(/M/g)!.length).toBeLessThan(modules.length ** 2 / 4)
  })

  it('for what burns light has its ground burned and a border around it', () => {
    const modules = codeModules(spec.text)
    const light = { ...spec, onDark: true } as const
    expect(readBack(light, modules.length, 20)).toEqual(modules.map((row) => row.map((isDark) => !isDark)))
    expect(drawnSvg(light).svg).toContain('fill="#000"')
  })

  it('is kept with its numbers; a text that is too long, or none, is told', () => {
    expect(drawnSchema.validate(spec).error).toBeUndefined()
    expect(() => codeData({ ...spec, text: '' })).toThrow('Write what the code should say first.')
    expect(() => codeData({ ...spec, text: 'x'.repeat(3000) })).toThrow('too long for a code')
  })
})
