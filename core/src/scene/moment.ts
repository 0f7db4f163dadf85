import type { Scene } from '../forecast/layers.ts'
import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { moveAt, partOf, type Track } from '../motion/track.ts'
import { burningOf, processOf } from '../process/table.ts'
import { forecastScene } from './scene.ts'

/** The workpiece as it is at a moment of the run: what is burned by then, and nothing else. */
export function sceneAt(job: JobDocument, supply: Supply, track: Track, seconds: number, workpiece = mainPieceId(job)): Scene {
  const move = moveAt(track, seconds)
  const part = partOf(track, Math.min(move, track.count - 1))
  const done = track.parts.slice(0, move >= track.count ? undefined : part).map(({ id }) => id)
  const scene = forecastScene(job, supply, new Set(done), workpiece)
  const id = track.parts[part]?.id
  const operation = id === undefined ? undefined : job.operations[id]
  if (move >= track.count || !operation) return scene
  const stretch = { track, first: track.parts[part].firstMove, move, end: track.parts[part + 1]?.firstMove ?? track.count }
  const pieces = burnedPieces(job, operation, id).filter(({ workpieceId }) => workpieceId === workpiece)
  if (pieces.length === 0) return scene
  const layers = processOf(operation).layersUntil(
    pieces.map((piece) => burningOf(job, id, piece, supply)),
    stretch,
  )
  return { ...scene, layers: [...scene.layers, ...layers] }
}
