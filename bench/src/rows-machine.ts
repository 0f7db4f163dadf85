import {
  burningsOf,
  compareBurn,
  dotsKept,
  forecastMaps,
  forecastScene,
  MACHINES,
  processOf,
  ResultCache,
  writeProgram,
} from '@neotaxis/core'
import { onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import type { Row } from './measure.ts'
import { randomFrom } from './random.ts'
import { glyphPicture } from './shapes.ts'

/** The time estimate against what the simulated machine took, its truth equal to the profile. */
export async function machineRows(seed: number): Promise<Row[]> {
  const { picture } = glyphPicture(1000, randomFrom(seed))
  const estimates = MACHINES.map((machine): Row => {
    const engrave = { power: 0.3, speedMmS: 250, intervalMm: 0.127 }
    const cut = { of: ['edge'], power: 0.7, speedMmS: 60, kerfMm: 0.15 }
    const small = machine.axes.x.travelMm < 200
    const sample = sampleJob({ picture, widthMm: small ? 90 : 150, xMm: 5, yMm: 5, engrave, cut })
    const job = onRectangle({ ...sample, machine }, small ? { xMm: 2, yMm: 2 } : { xMm: 20, yMm: 20 })
    const witness = new Machine(TRUTHS[machine.id])
    const decoder = new TextDecoder()
    let rest = ''
    const report = writeProgram(job, { picture: () => picture, cache: new ResultCache() }, (bytes) => {
      const lines = (rest + decoder.decode(bytes)).split('\n')
      rest = lines.pop()!
      for (const line of lines) {
        while (!witness.hasRoom) witness.finishMove()
        witness.take(line)
      }
    })
    while (witness.finishMove());
    return {
      what: `time estimate, glyphs engraved and cut on ${machine.id}: off by`,
      ours: 100 * Math.abs(report.seconds / witness.counts.seconds - 1),
      reference: 0.5,
      unit: '%',
      target: 1,
      note: `reference: what is allowed; ${report.seconds.toFixed(1)} s estimated, ${witness.counts.seconds.toFixed(1)} s taken, ${witness.counts.lines} lines`,
    }
  })
  return [...estimates, ...(await burnRows(seed))]
}

/** Forecast and burn of a cut-out picture, at 0.02 mm. */
async function burnRows(seed: number): Promise<Row[]> {
  const { picture } = glyphPicture(400, randomFrom(seed))
  const cell = 0.02
  const sample = sampleJob({ picture, widthMm: 40, xMm: 10, yMm: 10, engrave: { intervalMm: 0.2 }, cut: { kerfMm: 0.18 } })
  const job = onRectangle(sample, { widthMm: 60, heightMm: 60, xMm: 20, yMm: 20 })
  const work = { picture: () => picture, cache: new ResultCache() }
  const bed = new Bed(600, 400, cell, 0.12)
  const witness = new Machine(TRUTHS['bench-60'], bed)
  let text = ''
  writeProgram(job, work, (bytes) => {
    text += new TextDecoder().decode(bytes)
  })
  for (const line of text.split('\n')) {
    while (!witness.hasRoom) witness.finishMove()
    witness.take(line)
  }
  while (witness.finishMove());
  const laid = { material: 'birch-ply', thickness: 3, x0: 20, y0: 320, x1: 80, y1: 380 }
  const side = 3000
  const seen = await new Workpiece(laid, bed, 0).picture(laid.x0, laid.y0, side, side, cell)
  const burned = { ...seen, x0: 0, y0: 0, cellMm: cell }
  const maps = forecastMaps(forecastScene(job, work), side, side, cell)
  const { cutOverlap } = compareBurn(maps, burned)
  const [engraved] = burningsOf(job, 'engrave', work)
  const { marks, field } = processOf(engraved.operation).dots!(engraved)
  const dots = dotsKept(marks, field, burned, maps)
  return [
    {
      what: 'burn against forecast, cuts of glyphs: not shared',
      ours: 100 * (1 - (cutOverlap ?? 0)),
      reference: 3,
      unit: '%',
      target: 1,
      note: `reference: what is allowed; intersection over union ${(cutOverlap ?? 0).toFixed(4)}`,
    },
    {
      what: 'burn against forecast, pictures: dots that differ',
      ours: 100 * (1 - (dots ?? 0)),
      reference: 0.001,
      unit: '%',
      target: 1,
      note: 'reference: none may',
    },
  ]
}
