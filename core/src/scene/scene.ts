import { throughPiece } from '../edits/second-side.ts'
import type { GoneLayer, Layer, Scene } from '../forecast/layers.ts'
import { type Ring, reversed, ringBounds } from '../geometry/ring.ts'
import { jobPieces } from '../hold/pieces.ts'
import { burnOrder, type JobDocument, mainPieceId, materialOf } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { faceSize, onceAround, outlineOfFace } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningOf, processOf } from '../process/table.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { comeRound } from './come-round.ts'

/** The forecast of a job. @param only ids of operations to show, default all @param workpiece default the main one */
export function forecastScene(job: JobDocument, supply: Supply, only?: ReadonlySet<string>, workpiece = mainPieceId(job)): Scene {
  const layers = burnOrder(job).flatMap((id): Layer[] => {
    if (only && !only.has(id)) return []
    const operation = job.operations[id]
    return burnedPieces(job, operation, id)
      .filter(({ workpieceId }) => workpieceId === workpiece)
      .flatMap((piece) => processOf(operation).layers(burningOf(job, id, piece, supply)))
  })
  const all = [...layers, ...goneLayers(job, supply, only, workpiece)]
  const around = onceAround(job.workpieces[workpiece])
  return { ...bareScene(job, workpiece), layers: around === undefined ? all : all.flatMap((layer) => comeRound(layer, around)) }
}

/**
 * The forecast of a job as a workpiece is seen: of a second side with the holes that were cut from the front before it was turned over.
 * @param workpiece default the main one
 */
export function seenScene(job: JobDocument, supply: Supply, workpiece = mainPieceId(job)): Scene {
  const scene = forecastScene(job, supply, undefined, workpiece)
  const { back } = job.workpieces[workpiece]
  const front = back && job.workpieces[back.of]
  if (!back || !front) return scene
  const order = burnOrder(job)
  const on = (id: string): string[] => burnedPieces(job, job.operations[id], id).map(({ workpieceId }) => workpieceId)
  const first = order.findIndex((id) => on(id).includes(workpiece))
  const before = new Set(first < 0 ? order : order.slice(0, first))
  const through = throughPiece(front, back.way)
  // Seen from behind outlines run the other way round.
  const behind = (rings: readonly Ring[]): Ring[] => mappedRings(through, rings).map(reversed)
  const holes = forecastScene(job, supply, before, back.of).layers.flatMap((layer): Layer[] => {
    if (layer.kind === 'gone') {
      const rings = behind(layer.rings)
      return [{ ...layer, rings, bounds: rings.map(ringBounds) }]
    }
    if (layer.kind !== 'kerf' || layer.lineMm !== undefined) return []
    const [kerf, rim] = [behind(layer.kerf), behind(layer.rim)]
    return [{ ...layer, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }]
  })
  return { ...scene, layers: [...holes, ...scene.layers] }
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
