import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import type { Found } from './finding.ts'

const percent = (share: number): string => `${Number((100 * share).toFixed(1))} %`
const plain = (value: number): string => String(Number(value.toFixed(3)))

/** What is compared, and how it is told. */
const VALUES = [
  ['power', 'power', percent],
  ['speedMmS', 'speed in mm/s', plain],
  ['passes', 'passes', plain],
  ['kerfMm', 'kerf in mm', plain],
] as const satisfies readonly (readonly [string, string, (value: number) => string])[]

type Values = Partial<Record<(typeof VALUES)[number][0], number>>

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
    const changed = VALUES.filter(([name]) => (operation as Values)[name] !== (other as Values)[name])
    if (changed.length === 0) return []
    const { x0, x1, y0 } = poseBounds(piece.placement, piece.placement)
    const told = changed.map(
      ([name, word, tell]) => `${word} ${tell((operation as Values)[name]!)}, not ${tell((other as Values)[name]!)}`,
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
            patches: changed.map(([name]) => ({ path: ['operations', id, name], value: (other as Values)[name]! })),
          },
        ],
      },
    ]
  })
}

const isSameArtwork = (a: Operation, b: Operation): boolean => a.of.some((node) => b.of.includes(node))
