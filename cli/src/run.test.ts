import type { AddressInfo, Server } from 'node:net'
import {
  compareBurn,
  dotsKept,
  forecastMaps,
  forecastScene,
  type JobDocument,
  MACHINES,
  ResultCache,
  type Supply,
  writeProgram,
} from '@neotaxis/core'
import { burning, fieldOf, greyPicture, marksOf, onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import { MachineLink, ProgramRun, programOf } from '@neotaxis/link'
import { Bed, Machine, serveMachine, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import { afterEach, describe, expect, it } from 'vitest'

let server: Server | undefined
afterEach(() => server?.close())

async function send(machine: Machine, text: string): Promise<{ state: string; reason: string; lines: number; seconds: number }> {
  server = await serveMachine(machine, { port: 0, pace: Infinity })
  const link = await MachineLink.open(`tcp://127.0.0.1:${(server.address() as AddressInfo).port}`)
  try {
    const run = await ProgramRun.start(link, programOf(text), { token: 'test', askMs: 30 })
    const { phase, reason, place, seconds } = await run.finished
    return { state: phase, reason, lines: place?.driven ?? 0, seconds }
  } finally {
    link.close()
  }
}

/** A picture of dots or soft tones, engraved and cut around. */
function jobOf(side: number, grey: (x: number, y: number) => number, change: (job: JobDocument) => JobDocument = (job) => job) {
  const picture = greyPicture(side, side, grey)
  const engrave = { power: 0.5, speedMmS: 300, intervalMm: 0.2 }
  const sample = sampleJob({ picture, widthMm: 40, xMm: 30, yMm: 20, distanceMm: 2, engrave, cut: { kerfMm: 0.18 } })
  const job = change(onRectangle(sample, { xMm: 40, yMm: 60 }))
  const supply: Supply = { picture: () => picture, cache: new ResultCache() }
  const decoder = new TextDecoder()
  let text = ''
  const report = writeProgram(job, supply, (bytes) => {
    text += decoder.decode(bytes)
  })
  return { job, supply, text, report }
}

const disc = (x: number, y: number): number => (Math.hypot(x - 100, y - 100) < 70 ? 40 + ((x * 7 + y * 3) % 60) : 255)

describe('the forecast', () => {
  it('is what the machine burns: cuts agree by 97 % and more, pictures in every dot', { timeout: 60_000 }, async () => {
    const { job, supply, text } = jobOf(200, disc, (job) => onRectangle(job, { widthMm: 90, heightMm: 80 }))
    const cell = 0.02
    const bed = new Bed(600, 400, cell, 0.12)
    const machine = new Machine(TRUTHS['bench-60'], bed)
    expect((await send(machine, text)).state).toBe('done')
    const laid = { material: 'birch-ply', thickness: 3, x0: 40, y0: 400 - 60 - 80, x1: 130, y1: 400 - 60 }
    const workpiece = new Workpiece(laid, bed, 0)
    const columns = 3000
    const rows = 3000
    // The middle of the workpiece, where it is burned.
    const x0 = 20
    const y0 = 10
    const seen = await workpiece.picture(laid.x0 + x0, laid.y1 - y0 - rows * cell, columns, rows, cell)
    const burned = { ...seen, x0, y0, cellMm: cell }
    const maps = forecastMaps(forecastScene(job, supply), columns, rows, cell, x0, y0)
    const { cutOverlap, toneOff } = compareBurn(maps, burned)
    expect(cutOverlap).toBeGreaterThan(0.97)
    expect(toneOff).toBeLessThan(0.005)
    const operation = job.operations.engrave
    expect(dotsKept(marksOf(job, operation, supply), fieldOf(job, operation), burned, maps)).toBe(1)
  })
})

describe('a job on the simulated machine', () => {
  it('takes the time that was estimated, within 0.5 %, and burns every dot of the picture and no other', async () => {
    const { job, supply, text, report } = jobOf(200, disc, (job) => burning(job, 'engrave'))
    const bed = new Bed(600, 400, 0.1, 0.12)
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const result = await send(machine, text)
    expect(result).toMatchObject({ state: 'done', reason: '' })
    expect(Math.abs(result.seconds / report.seconds - 1)).toBeLessThan(0.005)
    expect(machine.counts.burnMm).toBeCloseTo(report.burnMm, 0)
    expect(machine.counts.alarms).toBe(0)
    const marks = marksOf(job, job.operations.engrave as never, supply)
    let wrong = 0
    for (let r = 0; r < marks.rows; r++) {
      for (let c = 0; c < marks.columns; c++) {
        const x = 40 + 30 + (c + 0.5) * 0.2
        const y = 400 - (60 + 20 + (r + 0.5) * 0.2)
        // The cell left of the dot's middle lies within its bar.
        const burned = bed.energy(Math.floor((x - 0.05) / 0.1), Math.floor(y / 0.1)) > 0
        if (burned !== marks.levels[r * marks.columns + c] > 0) wrong++
      }
    }
    expect(wrong).toBe(0)
  })

  it.each([
    ['a fine and fast raster', { engrave: { speedMmS: 580, intervalMm: 0.1 } }, 'bench-60'],
    ['one way only, slow', { engrave: { speedMmS: 60, bothWays: false } }, 'bench-60'],
    ['curves at speed, many passes', { cut: { speedMmS: 150, passes: 4 } }, 'bench-60'],
    [
      'a machine that looks only 32 moves ahead',
      { engrave: { speedMmS: 280, intervalMm: 0.1 }, cut: { speedMmS: 120 } },
      'corner-20',
    ],
    ['a scan head', { engrave: { speedMmS: 900, intervalMm: 0.1 }, cut: { speedMmS: 120, passes: 2 } }, 'scan-20'],
  ] as const)('estimates %s within 0.5 %', async (_what, change, id) => {
    const base = jobOf(200, disc).job
    const operations = {
      engrave: { ...base.operations.engrave, ...('engrave' in change ? change.engrave : {}) },
      cut: { ...base.operations.cut, ...('cut' in change ? change.cut : {}) },
    } as JobDocument['operations']
    const { text, report } = jobOf(200, disc, (job) =>
      onRectangle(
        { ...job, operations, machine: MACHINES.find((m) => m.id === id)! },
        id === 'scan-20' ? { xMm: 0, yMm: 0 } : { xMm: 40, yMm: 60 },
      ),
    )
    const { state, seconds } = await send(new Machine(TRUTHS[id]), text)
    expect(state).toBe('done')
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
  })

  it('estimates thousands of tiny moves within 0.5 %', async () => {
    // A rough outline: traced from hard pixels, offset by nothing.
    const base = jobOf(200, (x, y) =>
      Math.hypot(x - 100, y - 100) < 60 + 12 * Math.sin(60 * Math.atan2(y - 100, x - 100)) ? 0 : 255,
    ).job
    const cut = { ...base.operations.cut, of: ['edge'], speedMmS: 90, kerfMm: 0.1 } as JobDocument['operations'][string]
    const { text, report } = jobOf(
      200,
      (x, y) => (Math.hypot(x - 100, y - 100) < 60 + 12 * Math.sin(60 * Math.atan2(y - 100, x - 100)) ? 0 : 255),
      (job) => burning({ ...job, operations: { cut } }, 'cut'),
    )
    const { seconds, lines } = await send(new Machine(TRUTHS['bench-60']), text)
    expect(lines).toBeGreaterThan(500)
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
  })
})
