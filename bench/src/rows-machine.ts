import { type JobDocument, MACHINES, ResultCache, writeProgram } from '@neotaxis/core'
import { sampleJob } from '@neotaxis/core/testing/sample-job'
import { Machine, TRUTHS } from '@neotaxis/stand-ins'
import type { Row } from './measure.ts'
import { randomFrom } from './random.ts'
import { glyphPicture } from './shapes.ts'

/** The time estimate against what the simulated machine took, its truth equal to the profile. */
export function machineRows(seed: number): Row[] {
  const { picture } = glyphPicture(1000, randomFrom(seed))
  return MACHINES.map((machine): Row => {
    const engrave = { power: 0.3, speedMmS: 250, intervalMm: 0.127 }
    const cut = { node: 'edge', power: 0.7, speedMmS: 60, kerfMm: 0.15 }
    const sample = sampleJob({ picture, widthMm: 150, xMm: 5, yMm: 5, engrave, cut })
    const job: JobDocument = { ...sample, machine, onBed: { xMm: 20, yMm: 20 } }
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
}
