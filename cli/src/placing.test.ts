// Where shapes lie, from the command line: the best place of one, and many on a sheet.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { combine, flattenPath, type Ring, readSvg, ringArea, shapeArea } from '@neotaxis/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ran } from './testing/ran.ts'

let folder = ''
const at = (name: string): string => join(folder, name)
const drawing = (inside: string, w = 200, h = 150): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">${inside}</svg>`

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'neotaxis-placing-'))
  writeFileSync(at('arrow.svg'), drawing('<path d="M10 20H50V10L80 30L50 50V40H10Z"/>'))
  writeFileSync(at('offcut.svg'), drawing('<path d="M0 0H200V60H120V150H0Z"/>'))
  writeFileSync(at('sheet.svg'), drawing('<rect width="200" height="150"/>'))
  writeFileSync(at('line.svg'), drawing('<path d="M0 0L5 5"/>'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const ringsOf = (svg: string): Ring[] => readSvg(svg).paths.map((path) => flattenPath(path, 0.001))

describe('fit', () => {
  it('lays a shape as large as it can be into another one, with a margin: told, and drawn', async () => {
    const told = JSON.parse((await ran('fit', at('arrow.svg'), at('offcut.svg'), '--margin-mm', '2', '--json')).out)
    expect(Object.keys(told)).toEqual(['scale', 'angleDeg', 'x', 'y', 'marginMm'])
    expect(told.scale).toBeGreaterThan(2)
    const { out } = await ran('fit', at('arrow.svg'), at('offcut.svg'), '--margin-mm', '2')
    const [laid] = ringsOf(out)
    const [shape] = ringsOf(drawing('<path d="M10 20H50V10L80 30L50 50V40H10Z"/>'))
    expect(Math.sqrt(ringArea(laid) / ringArea(shape))).toBeCloseTo(told.scale, 3)
    // Its origin lies where it is told.
    const a = (told.angleDeg * Math.PI) / 180
    expect(laid[0]).toBeCloseTo(told.x + told.scale * (10 * Math.cos(a) - 20 * Math.sin(a)), 2)
    expect(laid[1]).toBeCloseTo(told.y + told.scale * (10 * Math.sin(a) + 20 * Math.cos(a)), 2)
    const offcut = ringsOf(drawing('<path d="M0 0H200V60H120V150H0Z"/>'))
    expect(shapeArea(combine('subtract', [laid], offcut))).toBe(0)
  })

  it('keeps angles and size where it must, and says what does not fit', async () => {
    const straight = JSON.parse((await ran('fit', at('arrow.svg'), at('sheet.svg'), '--angles', '0,90', '--json')).out)
    expect([0, 90]).toContain(straight.angleDeg)
    expect(JSON.parse((await ran('fit', at('arrow.svg'), at('sheet.svg'), '--no-scale', '--json')).out).scale).toBe(1)
    const large = await ran('fit', at('sheet.svg'), at('offcut.svg'), '--no-scale')
    expect(large).toMatchObject({ code: 1, err: expect.stringMatching(/It does not fit: it would at [\d.]+ % of its size/) })
    expect(await ran('fit', at('arrow.svg'))).toMatchObject({ code: 2, err: expect.stringContaining('two SVG files') })
    expect(await ran('fit', at('arrow.svg'), at('sheet.svg'), '--angles', 'north')).toMatchObject({ code: 2 })
    expect(await ran('fit', at('line.svg'), at('sheet.svg'))).toMatchObject({
      code: 1,
      err: expect.stringContaining('no closed outline'),
    })
  })
})

describe('nest', () => {
  it('lays copies of several shapes on a sheet, and tells how much of it they use', async () => {
    const told = JSON.parse(
      (await ran('nest', at('arrow.svg'), at('sheet.svg'), '--copies', '6', '--spacing-mm', '2', '--margin-mm', '3', '--json'))
        .out,
    )
    expect(told).toMatchObject({ placed: 6, left: 0 })
    const [shape] = ringsOf(drawing('<path d="M10 20H50V10L80 30L50 50V40H10Z"/>'))
    expect(told.used).toBeCloseTo((6 * Math.abs(ringArea(shape))) / (200 * 150), 3)
    const { out, err } = await ran('nest', at('arrow.svg'), at('offcut.svg'), '--copies', '30', '--angles', 'any')
    expect(err).toMatch(/\d+ pieces on [\d.]+ % of the sheet, \d+ left/)
    const laid = ringsOf(out)
    expect(laid.length).toBeGreaterThan(6)
    expect(shapeArea(combine('subtract', laid, ringsOf(drawing('<path d="M0 0H200V60H120V150H0Z"/>'))))).toBeLessThan(1e-3)
  })

  it('names what found no place, and what would; copies are whole', async () => {
    expect(await ran('nest', at('sheet.svg'), at('arrow.svg'), at('offcut.svg'), '--margin-mm', '2')).toMatchObject({
      code: 0,
      err: expect.stringMatching(/sheet\.svg: It does not fit: it would at [\d.]+ % of its size.*\n1 piece on .*, 1 left/),
    })
    expect(await ran('nest', at('sheet.svg'), at('offcut.svg'), '--margin-mm', '2')).toMatchObject({ code: 1 })
    expect(await ran('nest', at('arrow.svg'), at('offcut.svg'), '--copies', '2.5')).toMatchObject({
      code: 2,
      err: expect.stringContaining('--copies is a whole number, not 2.5.'),
    })
  })
})
