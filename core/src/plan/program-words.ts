import { type ProgramWords, plain } from '../formats/gcode.ts'
import { type JobDocument, mainPiece, materialOf } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { processOf } from '../process/table.ts'
import { hasSlowLine } from './line-limit.ts'

/** What a job's program says in its comments. */
export function programWords(job: JobDocument): ProgramWords {
  const piece = mainPiece(job)
  const { widthMm, heightMm } = faceSize(piece)
  return {
    head: [
      `${plain(job.name)} - made by Neotaxis`,
      `${plain(materialOf(job).name)} ${piece.thicknessMm} mm, ${widthMm} x ${heightMm} mm, on ${plain(job.machine.name)}`,
    ],
    // In focus on the piece where the plan's z is 0.
    lensUm: Math.round(1000 * piece.thicknessMm),
    operation: (id) => {
      const operation = job.operations[id]
      if (!operation) return undefined
      const { power, speedMmS, passes, pulseHz, pulseNs } = operation
      const share = Number((power * 100).toFixed(1))
      // What the line cannot take at this speed is driven slower, with the same dose.
      const atMost = hasSlowLine(job.machine) ? ' at most' : ''
      const pulses = `${pulseHz === undefined ? '' : `, ${pulseHz} Hz`}${pulseNs === undefined ? '' : `, ${pulseNs} ns`}`
      return `operation ${id}: ${processOf(operation).inProgram}, ${share} %${atMost}, ${speedMmS} mm/s${atMost}, ${passes} pass${passes === 1 ? '' : 'es'}${pulses}`
    },
  }
}
