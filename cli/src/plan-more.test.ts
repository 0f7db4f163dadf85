// More of a plan: a good order with its reasons, a zone, times learned from runs, and what another tool cuts.
import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { encodePng, packJob, readDrawing, stepAdded } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { main } from './main.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-plan-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)

async function cli(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  const told = { out: '', err: '' }
  const io = {
    out: (text: string) => {
      told.out += text
    },
    err: (text: string) => {
      told.err += text
    },
  }
  return { code: await main(args, io), ...told }
}

beforeAll(async () => {
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  writeFileSync(at('square.png'), png)
  const sample = sampleJob({ picture, widthMm: 30 })
  const asset = createHash('sha256').update(png).digest('hex')
  const source = { ...sample.nodes.source, asset } as (typeof sample.nodes)[string]
  const wrong = { ...sample, nodes: { ...sample.nodes, source }, order: ['cut', 'engrave'] }
  const { job } = stepAdded(wrong, { kind: 'elsewhere', text: 'Route it', tool: 'router', of: ['edge'], toolMm: 3 })
  writeFileSync(
    at('job.neotaxis'),
    packJob(job, () => png),
  )
})

const plan = async (...args: string[]) =>
  JSON.parse((await cli('plan', at('job.neotaxis'), '--json', '-o', at('x.nc'), ...args)).out)

describe('plan', () => {
  it('puts operations in a good order, each with its reasons', async () => {
    expect((await plan()).operations.map(({ id }: { id: string }) => id)).toEqual(['cut', 'engrave'])
    const told = await plan('--order')
    expect(told.operations.map(({ id }: { id: string }) => id)).toEqual(['engrave', 'cut'])
    expect(told.places.engrave.reasons).toEqual(['before 2, which frees what it marks'])
    const text = (await cli('plan', at('job.neotaxis'), '--order', '-o', at('x.nc'))).err
    expect(text).toContain('after 1: it frees what that marks')
  })

  it('burns only what lies in a zone', async () => {
    const [whole, part] = [await plan(), await plan('--zone', '100,50,110,60')]
    expect(part.burnMm).toBeGreaterThan(0)
    expect(part.burnMm).toBeLessThan(whole.burnMm / 4)
    expect((await cli('plan', at('job.neotaxis'), '--zone', '5,5,2,9')).err).toContain('left,top,right,bottom')
  })

  it('tells how long it really takes, by runs', async () => {
    const runs = Array.from({ length: 8 }, (_, i) => ({
      seconds: 1.1 * (50 + 20 * i),
      operations: [
        { process: 'cut', seconds: 20 + 20 * i },
        { process: 'picture', seconds: 30 },
      ],
    }))
    writeFileSync(at('runs.json'), JSON.stringify(runs))
    const { seconds, returnSeconds = 0, really, operations } = await plan('--times', at('runs.json'))
    const told = operations.reduce((sum: number, op: { seconds: number }) => sum + op.seconds, 0)
    expect(really.seconds / told).toBeCloseTo(1.1, 1)
    expect(really.from).toBeLessThan(really.seconds)
    expect(seconds).toBeGreaterThan(told - 1 - returnSeconds)
    writeFileSync(at('few.json'), JSON.stringify(runs.slice(0, 2)))
    expect((await cli('plan', at('job.neotaxis'), '--times', at('few.json'), '-o', at('x.nc'))).err).toContain('too few')
    writeFileSync(at('bad.json'), '{"seconds": 3}')
    expect((await cli('plan', at('job.neotaxis'), '--times', at('bad.json'))).err).toContain('--times wants a JSON list of runs')
  })

  it('draws what another tool cuts', async () => {
    for (const name of ['out.svg', 'out.dxf']) {
      expect((await cli('plan', at('job.neotaxis'), '--elsewhere', '-o', at(name))).code).toBe(0)
      expect(readDrawing(readFileSync(at(name))).widthMm).toBeCloseTo(300, 0)
    }
    expect((await cli('plan', at('job.neotaxis'), '--elsewhere', '-o', at('out.txt'))).err).toContain('-o OUT.svg')
  })
})
