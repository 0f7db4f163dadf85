import { burnOrder, type JobDocument, placeOf } from '../job/document/document.ts'
import { programOfNode } from '../lineage/program.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Found } from './finding.ts'

/** What a program from elsewhere says that no machine would take, and power beyond what this one has. */
export function programProblems(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    const [node] = operation.of
    if (job.nodes[node].kind !== 'program') return []
    const read = programOfNode(job, node, supply)
    const place = placeOf(job, node)
    const at = { x: place.xMm, y: place.yMm, operation: id, fixes: [] }
    const found: Found[] = read.problems.map(({ line, severity, message }) => ({
      ...at,
      id: `program:${id}:${line}`,
      kind: 'program',
      severity,
      message: `Line ${line} of the program: ${message}`,
    }))
    const most = read.moves.s.reduce((top, s) => Math.max(top, s), 0)
    const full = job.machine.fullPowerS
    if (most * operation.power > full)
      found.push({
        ...at,
        id: `program-power:${id}`,
        kind: 'program-power',
        severity: 'ask',
        message: `The program asks for S ${most}, full power of ${job.machine.name} is S ${full}: what is above is cut off.`,
      })
    return found
  })
}
