import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { assetsSupply, mainPiece, unpackJob } from '@neotaxis/core'
import { Workpiece } from '@neotaxis/stand-ins'
import { afterAll, describe, expect, it } from 'vitest'
import { driven, programOf } from './testing/on-machine.ts'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-card-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const out = join(folder, 'card.neotaxis')

describe('a card of trials', () => {
  it('is made from a process and two ranges, and its cells burn as dark as they are strong', async () => {
    const asked = ['--process', 'area', '--across', 'power=4-16/4', '--down', 'speed=300,100', '--workpiece', '100x80']
    const { code, out: told } = await ran('testcard', ...asked, '-o', out, '--json')
    expect(code).toBe(0)
    expect(JSON.parse(told)).toMatchObject({
      cells: 8,
      trial: { across: { setting: 'power', values: [0.04, 0.08, 0.12, 0.16] } },
    })
    const { job, assets } = unpackJob(new Uint8Array(readFileSync(out)))
    const { text } = programOf(
      job,
      assetsSupply((name) => assets.get(name)),
    )
    const { machine, bed } = driven(text)
    expect(machine.counts.alarms).toBe(0)
    // On the simulated material each cell has a tone of its own.
    const { pose } = mainPiece(job)
    const box = { x0: pose.xMm, y0: 400 - pose.yMm - 80, x1: pose.xMm + 100, y1: 400 - pose.yMm }
    const piece = new Workpiece({ material: 'birch-ply', thickness: 3, ...box }, bed, 0)
    const tone = async (id: string): Promise<number> => {
      const { xMm, yMm, widthMm, heightMm } = job.placements[id]
      const side = 0.1
      const n = Math.floor((0.6 * widthMm) / side)
      const x = box.x0 + xMm + 0.2 * widthMm
      const y = box.y1 - yMm - 0.2 * heightMm - n * side
      const seen = await piece.picture(x, y, n, n, side)
      return seen.tone.reduce((sum: number, v: number) => sum + v, 0) / (255 * n * n)
    }
    const tones: number[][] = []
    for (const row of [1, 2]) {
      tones.push([])
      for (const column of [1, 2, 3, 4]) tones[row - 1].push(await tone(`cell-${row}-${column}`))
    }
    for (const row of tones) expect(row).toEqual([...row].sort((a, b) => a - b))
    expect(tones[1][0]).toBeGreaterThan(tones[0][0])
    expect(tones[0][3] - tones[0][0]).toBeGreaterThan(0.1)
  }, 120_000)

  it('is made around an operation of a job, on scrap of something cheaper where that is said', async () => {
    const wedge = join(folder, 'wedge.neotaxis')
    const asked = ['--job', out, '--operation', 'cell-2-3', '--kind', 'wedge', '--steps', '8', '--material', 'grey-card-1']
    expect((await ran('testcard', ...asked, '-o', wedge)).code).toBe(0)
    const { job } = unpackJob(new Uint8Array(readFileSync(wedge)))
    expect(Object.keys(job.materials)).toEqual(['grey-card-1'])
    expect(job.trial!.across.values).toHaveLength(8)
    const strip = await ran('testcard', '--job', out, '--operation', 'cell-2-3', '--kind', 'strip', '--json')
    expect(JSON.parse(strip.out)).toMatchObject({ cells: 9, patch: { width: expect.any(Number) } })
    expect((await ran('testcard', '--job', out, '--operation', 'none', '--json')).err).toContain('no operation “none”')
    expect((await ran('testcard', '--job', out, '--operation', 'cell-2-3', '--kind', 'kerf', '--json')).err).toContain(
      'nothing of this kind to try',
    )
  })

  it('of what cannot be tried is refused with a sentence', async () => {
    const bad = async (...asked: string[]): Promise<string> => (await ran('testcard', ...asked, '-o', out)).err
    expect(await bad('--process', 'area', '--across', 'colour=1,2')).toContain('power, speed, interval, passes, pulses')
    expect(await bad('--process', 'area', '--across', 'power=20-140/4')).toContain('A power of 140 % cannot be tried')
    expect(await bad('--process', 'area', '--across', 'power=1-90/90')).toContain('does not fit')
    expect(await bad('--across', 'power=10')).toContain('say what is tried')
    expect(await bad('--process', 'area', '--across', 'power=10', '--workpiece', 'large')).toContain(
      '--workpiece is written like',
    )
  })
})
