import { type JobDocument, MACHINES, MATERIALS, NEUTRAL_TONE, ResultCache, writeProgram } from '@neotaxis/core'
import { Machine, TRUTHS } from '@neotaxis/stand-ins'
import type { Row } from './measure.ts'
import { randomFrom } from './random.ts'
import { glyphPicture } from './shapes.ts'

/** The time estimate against what the simulated machine took, its truth equal to the profile. */
export function machineRows(seed: number): Row[] {
  const { picture } = glyphPicture(1000, randomFrom(seed))
  const asset = 'd'.repeat(64)
  return MACHINES.map((machine): Row => {
    const job: JobDocument = {
      format: 'neotaxis-job',
      version: 1,
      name: 'estimate',
      workpiece: { widthMm: 160, heightMm: 160, thicknessMm: 3 },
      onBed: { xMm: 20, yMm: 20 },
      material: MATERIALS[0],
      machine,
      nodes: {
        source: { kind: 'source', name: 'page', asset, widthPx: 1000, heightPx: 1000, hasAlpha: false },
        dots: { kind: 'picture', name: 'dots', from: 'source', tone: NEUTRAL_TONE, kernel: 'floyd-steinberg' },
        edge: {
          kind: 'trace',
          name: 'edge',
          from: 'source',
          channel: 'grey',
          threshold: 0.5,
          toleranceMm: 0,
          cornerDeg: 32,
          minAreaMm2: 0.2,
        },
      },
      placements: { source: { xMm: 5, yMm: 5, widthMm: 150, heightMm: 150 } },
      operations: {
        a: { kind: 'picture', node: 'dots', power: 0.3, speedMmS: 250, passes: 1, intervalMm: 0.127, bothWays: true, air: false },
        b: { kind: 'cut', node: 'edge', power: 0.7, speedMmS: 60, passes: 1, kerfMm: 0.15, air: true },
      },
      runOrder: ['a', 'b'],
      meant: {},
    }
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
