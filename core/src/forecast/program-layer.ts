import { type Ring, ringBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument, ProgramOperation } from '../job/document.ts'
import { programFrame, programOfNode } from '../job/program.ts'
import { spotMm, wattsAt } from '../machine/machine.ts'
import { lineDose } from '../material/material.ts'
import { band } from './band.ts'
import type { KerfLayer } from './scene.ts'

/** What a program from elsewhere burns: cut open where its dose cuts this material, scorched where it only marks. */
export function programLayer(job: JobDocument, id: string, operation: ProgramOperation, bench: Bench): KerfLayer {
  const read = programOfNode(job, operation.node, bench)
  const { count, x, y, s, speed } = read.moves
  const place = programFrame(job, operation.node, read)
  const half = spotMm(job.machine) / 2
  const kerf: Ring[] = []
  const rim: Ring[] = []
  for (let i = 1; i < count; i++) {
    if (s[i] === 0 || speed[i] === 0) continue
    const power = Math.min(1, (s[i] * operation.power) / job.machine.fullPowerS)
    const dose = lineDose(wattsAt(job.machine, power), speed[i]) * operation.passes
    const cuts = dose >= job.material.cutDose.from
    const ends = [place.x(x[i - 1] / 1000), place.y(y[i - 1] / 1000), place.x(x[i] / 1000), place.y(y[i] / 1000)] as const
    rim.push(band(...ends, cuts ? half + 0.15 : half))
    if (cuts) kerf.push(band(...ends, half))
  }
  return { kind: 'kerf', operation: id, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
}
