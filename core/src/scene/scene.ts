import type { GoneLayer, Layer, Scene } from '../forecast/layers.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import { jobPieces } from '../hold/pieces.ts'
import { burnOrder, type JobDocument, mainPieceId, materialOf } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { faceSize, outlineOfFace } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningOf, processOf } from '../process/table.ts'

/** The forecast of a job. @param only ids of operations to show, default all @param workpiece default the main one */
export function forecastScene(job: JobDocument, supply: Supply, only?: ReadonlySet<string>, workpiece = mainPieceId(job)): Scene {
  const layers = burnOrder(job).flatMap((id): Layer[] => {
    if (only && !only.has(id)) return []
    const operation = job.operations[id]
    return burnedPieces(job, operation, id)
      .filter(({ workpieceId }) => workpieceId === workpiece)
      .flatMap((piece) => processOf(operation).layers(burningOf(job, id, piece, supply)))
  })
  return { ...bareScene(job, workpiece), layers: [...layers, ...goneLayers(job, supply, only, workpiece)] }
}

/** The workpiece before anything is burned. */
export function bareScene(job: JobDocument, workpiece = mainPieceId(job)): Scene {
  const { outline } = job.workpieces[workpiece]
  return {
    ...faceSize({ outline }),
    ...(outline.kind === 'rect' ? {} : { outline: outlineOfFace(outline) }),
    look: materialOf(job, workpiece).look,
    layers: [],
  }
}

/** What is not there any more after the cuts: what falls out of parts and stencils, wanted or not. */
function goneLayers(job: JobDocument, supply: Supply, only: ReadonlySet<string> | undefined, workpiece: string): GoneLayer[] {
  const layers = new Map<string, Ring[]>()
  for (const { fate, operation, outer, holes } of jobPieces(job, supply, workpiece)) {
    if (!operation || (fate !== 'waste' && fate !== 'lost') || (only && !only.has(operation))) continue
    const list = layers.get(operation) ?? []
    layers.set(operation, list)
    list.push(outer, ...holes)
  }
  return [...layers].map(([operation, rings]) => ({ kind: 'gone', operation, rings, bounds: rings.map(ringBounds) }))
}
