import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unpackJob } from '@neotaxis/core'
import { afterAll, describe, expect, it } from 'vitest'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-curve-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)
const file = (name: string, text: string): string => {
  writeFileSync(at(name), text)
  return at(name)
}

describe('curve', () => {
  const table = file('depths.csv', 'dose J/mm²;depth mm\n0,2;0\n2;0,9/0,94\n1;0,41\n0,5;0,16\n4;1,93\n')

  it('of a table in any order is fitted, told, solved and kept', async () => {
    const { code, out } = await ran('curve', table, '--solve', '0.5', '--date', '2026-11-29', '-o', at('curve.json'), '--json')
    expect(code).toBe(0)
    const told = JSON.parse(out)
    expect(told).toMatchObject({ quantity: 'depth', points: 5, from: 0.2, to: 4, highest: 1.93, troubles: [] })
    expect(told.input).toBeGreaterThan(1)
    expect(told.input).toBeLessThan(1.4)
    expect(JSON.parse(readFileSync(at('curve.json'), 'utf8'))).toMatchObject({
      conditions: { date: '2026-11-29' },
      quantity: 'depth',
    })
    expect((await ran('curve', table)).err).toContain('begins at')
  })

  it('that is nonsense is not fitted silently', async () => {
    const bad = async (text: string, ...more: string[]) => ran('curve', file('bad.csv', text), ...more)
    expect((await bad('dose J/mm²,depth mm\n1,0.2\n2,0.4\n')).err).toContain(
      'needs at least 4 points with different doses; 2 are there',
    )
    expect((await bad('a,b\n1,2\n')).err).toContain('heads like “dose J/mm²” and “depth mm”')
    expect((await bad('dose J/mm²,depth\n1,0.2\n')).err).toContain('has no unit')
    const falls = await bad('dose J/mm²,depth mm\n1,0.2\n2,0.9\n3,0.3\n4,1\nx,1\n')
    expect(falls.code).toBe(1)
    expect(falls.err).toContain('At 3 it falls, from 0.9 to 0.3')
    expect(falls.err).toContain('Row 6: “x” under “dose J/mm²” is no number')
    expect((await ran('curve', table, '--solve', '9')).err).toContain(
      'A depth of 9 mm is not known: it was measured from 0 to 1.93 mm',
    )
    expect((await ran('curve', table, '--date', 'today')).code).toBe(2)
  })

  it('of a card takes its readings along', async () => {
    const card = at('card.neotaxis')
    const made = await ran('testcard', '--process', 'area', '--across', 'power=10-60/6', '--material', 'lime-wood-12', '-o', card)
    expect(made.code).toBe(0)
    expect((await ran('curve', card)).err).toContain('0 are there')
    const readings = file('readings.csv', 'power %,depth µm\n10,100\n20,260\n30,420\n40,580\n50,735\n60,900\n')
    const { code, out } = await ran('curve', card, '--readings', readings, '--job', at('read.neotaxis'), '--json')
    expect(code).toBe(0)
    expect(JSON.parse(out)).toMatchObject({ quantity: 'depth', points: 6, highest: 0.9, troubles: [] })
    const { job } = unpackJob(new Uint8Array(readFileSync(at('read.neotaxis'))))
    expect(job.trial!.readings!['cell-1-2']).toEqual({ depth: [0.26] })
    expect(JSON.parse((await ran('curve', at('read.neotaxis'), '--json')).out).points).toBe(6)
  })
})

describe('catalogue', () => {
  it('tells what is proven and what is never lasered', async () => {
    const { out } = await ran('catalogue', 'list')
    expect(out).toMatch(/birch-ply-3 +Birch ply, 3 mm, 3 of 4 recipes proven/)
    expect(out).toMatch(/pvc-sheet-3 +PVC sheet, 3 mm, never lasered/)
  })

  it('writes its recipes as a table, and takes them from one', async () => {
    const table = (await ran('catalogue', 'recipes')).out
    expect(table.split('\n')[0]).toMatch(/^material,thickness mm,process/)
    const more = file(
      'more.csv',
      'material;thickness mm;process;machine;power %;speed mm/s\nBirch ply;4;cut;bench-60;80;10,5\nOak;4;cut;bench-60;80;10\n',
    )
    const { code, err } = await ran('catalogue', 'take', more, '-o', at('catalogue.json'))
    expect(code).toBe(1)
    expect(err).toContain('1 recipes taken')
    expect(err).toContain('Row 3: there is no material “Oak” of 4 mm')
    const listed = await ran('catalogue', 'list', '--catalogue', at('catalogue.json'))
    expect(listed.out).toMatch(/birch-ply-4 +Birch ply, 4 mm, 0 of 1 recipes proven/)
  })

  it('works a recipe out from others, or says where to begin', async () => {
    const { err } = await ran('catalogue', 'borrow', '--material', 'birch-ply-4', '--machine', 'bench-60', '--process', 'cut')
    expect(err).toContain('from 3 mm and 6 mm, may be 8 % off')
    const none = await ran('catalogue', 'borrow', '--material', 'slate-5', '--machine', 'bench-60', '--process', 'cut')
    expect(none.err).toContain('begins with a card of trials')
    expect((await ran('catalogue', 'borrow')).code).toBe(2)
    expect((await ran('catalogue', 'burn')).code).toBe(2)
  })
})
