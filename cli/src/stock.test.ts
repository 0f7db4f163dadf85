// Which pieces of stock take a job, from the command line, and the job laid on one of them.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { encodePng, mainPiece } from '@neotaxis/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadJob } from './jobs.ts'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-stock-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)

const piece = (name: string, code: string, outline: object, more: object = {}) => ({
  ...{ id: `id-${code}`, name, code, outline, material: 'birch-ply-3', thicknessMm: 3, kind: 'offcut', count: 1 },
  ...{ keepOuts: {}, marks: {}, cents: 210, shelf: 'rack B', note: '', areaMm2: 1, updatedAt: '2026-11-01' },
  ...more,
})
const rect = (widthMm: number, heightMm: number) => ({ kind: 'rect', widthMm, heightMm })
/** An L: 150 × 100 with a corner of 90 × 50 bitten out. */
const bitten = { kind: 'rings', rings: [[0, 0, 60, 0, 60, 50, 150, 50, 150, 100, 0, 100]] }

beforeAll(async () => {
  const samples = new Uint8Array(120 * 30).map((_, i) => (Math.floor(i / 120) % 8 < 4 ? 30 : 255))
  writeFileSync(at('reeds.png'), encodePng({ widthPx: 120, heightPx: 30, channels: 1, samples, full: 255 }))
  // 100 × 25 mm.
  await ran('propose', at('reeds.png'), '--proposal', 'engrave', '--size', '100x25', '-o', at('reeds.neotaxis'))
  const stock = [
    piece('whole sheet', 'S1', rect(400, 300)),
    piece('bitten', 'S2', bitten),
    piece('upright strip', 'S3', rect(40, 130)),
    piece('scrap', 'S4', rect(60, 60)),
    piece('gone', 'S5', rect(110, 40), { count: 0 }),
    piece('slate', 'S6', rect(120, 60), { material: 'slate' }),
  ]
  writeFileSync(at('stock.json'), JSON.stringify({ stock }))
  writeFileSync(at('none.json'), JSON.stringify([piece('scrap', 'S4', rect(60, 60))]))
})

describe('stock', () => {
  it('tells which pieces take a job, the least waste first, and how it lies there', async () => {
    const { code, out } = await ran('stock', at('reeds.neotaxis'), at('stock.json'), '--margin-mm', '2', '--json')
    expect(code).toBe(0)
    const { fits, tried } = JSON.parse(out) as { fits: { name: string; code: string; angleDeg: number }[]; tried: number }
    expect(fits.map(({ name }) => name)).toEqual(['upright strip', 'bitten', 'whole sheet'])
    expect(tried).toBe(4)
    expect(Math.abs(fits[0].angleDeg)).toBeCloseTo(90, 3)
    expect(fits[1]).toMatchObject({ code: 'S2', angleDeg: 0 })
    const words = (await ran('stock', at('reeds.neotaxis'), at('stock.json'))).out
    expect(words).toMatch(/S3 +upright strip +40 × 130 mm +turned -?90.0°, 27 cm² left over/)
    const none = await ran('stock', at('reeds.neotaxis'), at('none.json'))
    expect(none).toMatchObject({ code: 1, out: expect.stringContaining('None of 1 pieces') })
  })

  it('lays the job on a piece, by its name or its code', async () => {
    const { code } = await ran('stock', at('reeds.neotaxis'), at('stock.json'), '--take', 'S2', '-o', at('laid.neotaxis'))
    expect(code).toBe(0)
    const { job } = loadJob(at('laid.neotaxis'))
    expect(mainPiece(job)).toMatchObject({ name: 'bitten', outline: bitten, stock: { id: 'id-S2', cents: 210 } })
    expect((await ran('check', at('laid.neotaxis'))).code).toBe(0)
  })

  it('says what is wrong, and writes nothing', async () => {
    const job = at('reeds.neotaxis')
    for (const [args, words] of [
      [['--take', 'scrap', '-o', at('x.neotaxis')], 'does not take this job'],
      [['--take', 'S9', '-o', at('x.neotaxis')], 'There is no piece “S9”'],
      [['--take', 'S2'], 'say where the job goes'],
      [['-o', at('x.neotaxis')], 'say which piece is taken'],
    ] as const)
      expect((await ran('stock', job, at('stock.json'), ...args)).err).toContain(words)
    writeFileSync(at('broken.json'), '{"stock": [{"name": "x"}]}')
    writeFileSync(at('words.json'), 'no stock')
    expect((await ran('stock', job, at('broken.json'))).err).toContain('Piece 1 of the stock')
    expect((await ran('stock', job, at('words.json'))).err).toContain('is no JSON')
    expect(() => loadJob(at('x.neotaxis'))).toThrow()
  })
})
