import { focusMm } from '../curved/in-focus.ts'
import { type ProgramWords, plain } from '../formats/gcode.ts'
import { type JobDocument, mainPiece, materialOf } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { processOf } from '../process/table.ts'

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
    lensUm: Math.round(1000 * focusMm(job)),
    operation: (id, driven) => {
      const operation = job.operations[id]
      if (!operation) return undefined
      const { passes, pulseHz, pulseNs } = operation
      const { power, speedMmS } = driven ?? operation
      const share = Number((power * 100).toFixed(1))
      const pulses = `${pulseHz === undefined ? '' : `, ${pulseHz} Hz`}${pulseNs === undefined ? '' : `, ${pulseNs} ns`}`
      return `operation ${id}: ${processOf(operation).inProgram}, ${share} %, ${speedMmS} mm/s, ${passes} pass${passes === 1 ? '' : 'es'}${pulses}${driven ? `, slower than set - the line takes no more` : ''}`
    },
  }
}
