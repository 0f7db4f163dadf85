import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { decodePng, encodePng } from '@neotaxis/core'
import { squarePicture } from '@neotaxis/core/testing/sample-job'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { main } from './main.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-moments-'))
const file = (name: string): string => join(folder, name)
let said = ''
const call = async (...args: string[]): Promise<number> => {
  said = ''
  return main(args, { out: (text) => (said += text), err: (text) => (said += text) })
}
const dark = (name: string): number => {
  const { samples } = decodePng(new Uint8Array(readFileSync(file(name))))
  let sum = 0
  for (let i = 0; i < samples.length; i += 4) if (samples[i + 3] > 0) sum += 255 - samples[i]
  return sum
}

beforeAll(async () => {
  const { samples } = squarePicture(60, 10)
  writeFileSync(
    file('quay.png'),
    encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: samples as Uint8Array, full: 255 }),
  )
  expect(
    await call('propose', file('quay.png'), '--proposal', 'engrave-cut-around', '--size', '20x', '-o', file('quay.neotaxis')),
  ).toBe(0)
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

it('paints the workpiece at a moment: darker the later it is', async () => {
  for (const at of [0, 6, 12])
    expect(await call('forecast', file('quay.neotaxis'), '--dpi', '60', '--at', String(at), '-o', file(`${at}.png`))).toBe(0)
  expect(dark('6.png')).toBeGreaterThan(dark('0.png'))
  expect(dark('12.png')).toBeGreaterThan(dark('6.png'))
})

it('writes the rest of a program from a moment on, dark to its place, and refuses one after the end', async () => {
  expect(await call('plan', file('quay.neotaxis'), '-o', file('all.gcode'))).toBe(0)
  expect(await call('plan', file('quay.neotaxis'), '--from', '6', '-o', file('rest.gcode'))).toBe(0)
  const all = readFileSync(file('all.gcode'), 'utf8')
  const rest = readFileSync(file('rest.gcode'), 'utf8')
  expect(rest.length).toBeLessThan(all.length)
  expect(rest.split('\n').slice(0, 2)).toEqual(['G21 G90', 'M5'])
  expect(rest.split('\n')[3]).toMatch(/^G0 X\d/)
  // What follows the line that was cut short is the same, to the end.
  const code = (text: string): string[] => text.split('\n').filter((line) => line !== '' && !line.startsWith(';'))
  expect(code(rest).slice(-200)).toEqual(code(all).slice(-200))
  expect(await call('plan', file('quay.neotaxis'), '--from', '9999', '-o', file('none.gcode'))).toBe(2)
  expect(said).toContain('lies after the end')
})
