import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import type { Found } from './finding.ts'
import { TOLD_SETTINGS, type ToldSettings } from './told-settings.ts'

/**
 * Cuts, or lines, on the same material that are set otherwise than the first of them: one of them may not come out as the others do. A
 * further pass over the same artwork is meant.
 */
export function differ(job: JobDocument): Found[] {
  const firsts = new Map<string, string>()
  return burnOrder(job).flatMap((id, place): Found[] => {
    if (isTried(job, id)) return []
    const operation = job.operations[id]
    const process = processOf(operation)
    const piece = burnedPieces(job, operation, id)[0]
    if (!piece || process.follows === undefined || process.dots || 'intervalMm' in operation) return []
    const key = `${process.name} ${piece.material.id} ${'keeps' in operation ? operation.keeps : ''}`
    const first = firsts.get(key)
    if (first === undefined) {
      firsts.set(key, id)
      return []
    }
    const other = job.operations[first]
    if (isSameArtwork(operation, other)) return []
    const changed = TOLD_SETTINGS.filter(([name]) => (operation as ToldSettings)[name] !== (other as ToldSettings)[name])
    if (changed.length === 0) return []
    const { x0, x1, y0 } = poseBounds(piece.placement, piece.placement)
    const told = changed.map(
      ([name, word, tell]) => `${word} ${tell((operation as ToldSettings)[name]!)}, not ${tell((other as ToldSettings)[name]!)}`,
    )
    return [
      {
        id: `differ:${id}`,
        kind: 'differ',
        severity: 'note',
        operation: id,
        x: (x0 + x1) / 2,
        y: y0,
        message: `${place + 1} is set otherwise than ${burnOrder(job).indexOf(first) + 1}, on the same material: ${told.join('; ')}.`,
        fixes: [
          {
            label: `As ${burnOrder(job).indexOf(first) + 1}`,
            patches: changed.map(([name]) => ({ path: ['operations', id, name], value: (other as ToldSettings)[name]! })),
          },
        ],
      },
    ]
  })
}

const isSameArtwork = (a: Operation, b: Operation): boolean => a.of.some((node) => b.of.includes(node))
