import { type JobDocument, placeOf, usesOf } from '../job/document/document.ts'
import { isRoot } from '../job/document/nodes.ts'
import type { Found } from './finding.ts'

/** What the licences of artwork from the library ask for: pieces that must not be sold, artwork that must not be changed, credit. */
export function licences(job: JobDocument): Found[] {
  return Object.entries(job.nodes).flatMap(([id, node]): Found[] => {
    if (!isRoot(node) || node.kind === 'program' || !node.provenance) return []
    const [operation] = usesOf(job, id)
    if (operation === undefined) return []
    const { name, sell, change, credit } = node.provenance.licence
    const { xMm, yMm, widthMm, heightMm } = placeOf(job, id)
    const called = `“${node.name}”${name ? ` (${name})` : ''}`
    const of = (what: string, severity: Found['severity'], message: string): Found => ({
      id: `licence-${what}:${id}`,
      kind: 'licence',
      severity,
      operation,
      x: xMm + widthMm / 2,
      y: yMm + heightMm / 2,
      message,
      fixes: [],
    })
    return [
      ...(sell ? [] : [of('sell', 'ask', `The licence of ${called} does not allow pieces to be sold.`)]),
      ...(change ? [] : [of('change', 'note', `The licence of ${called} does not allow it to be changed: burn it as it is.`)]),
      ...(credit ? [of('credit', 'note', `The licence of ${called} asks for credit: ${credit}.`)] : []),
    ]
  })
}
