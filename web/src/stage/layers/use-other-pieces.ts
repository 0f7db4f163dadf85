import { composed, faceBox, type JobDocument, mainPieceId, materialOf, throughPiece } from '@neotaxis/core'
import { useCallback, useEffect, useRef } from 'react'
import type { Layer } from '../layer.ts'
import type { StageHandle } from '../use-stage.ts'
import { piecePath, pieceSpace, standUpright } from './face.ts'
import { SeenForecast } from './seen-forecast.ts'
import { useLasting } from './use-lasting.ts'
import { layOnBed } from './workpiece-layer.ts'

/** Whether a workpiece is the other side of the one that is looked at: it lies in the same place, at another time. */
export function isOtherSide(job: JobDocument, id: string): boolean {
  const main = mainPieceId(job)
  return job.workpieces[main].back?.of === id || job.workpieces[id].back?.of === main
}

/** How much of the front is seen through its second side. */
const GHOST = 0.28

/** The front, as it would be seen through the second side that is looked at: so that both are in register. */
export function useGhostLayer(stage: StageHandle, job: JobDocument, shown: () => boolean): Layer[] {
  const { repaint } = stage
  const { back } = job.workpieces[mainPieceId(job)]
  const of = back?.of
  const seen = useLasting(useCallback(() => new SeenForecast(repaint, undefined, of ?? NOBODY), [repaint, of]))
  if (!back) return []
  const front = job.workpieces[back.of]
  const space = composed(throughPiece(front, back.way), pieceSpace(job.workpieces[mainPieceId(job)]))
  return [
    {
      name: 'front',
      space,
      paint: (context, at) => {
        if (!shown()) return
        standUpright(context, at)
        context.clip(piecePath(front, at.upright.view), 'evenodd')
        context.globalAlpha = GHOST
        seen.current?.draw(context, at.upright, at.ratio, faceBox(front))
      },
      settled: () => !shown() || (seen.current?.settled ?? false),
    },
  ]
}

/** No workpiece is called that: of a job without a second side nothing is painted. */
const NOBODY = ' '

/** The workpieces that are not looked at, after the burn, where they lie on the bed; fainter, because nothing on them is in hand. */
export function useOtherPieces(stage: StageHandle, job: JobDocument, bed: string, shown: () => boolean): Layer[] {
  const { repaint } = stage
  const seen = useRef(new Map<string, SeenForecast>())
  const others = Object.keys(job.workpieces).filter((id) => id !== mainPieceId(job) && !isOtherSide(job, id))
  const ids = others.join(' ')
  useEffect(() => {
    const wanted = ids === '' ? [] : ids.split(' ')
    for (const [id, forecast] of seen.current)
      if (!wanted.includes(id)) {
        forecast.end()
        seen.current.delete(id)
      }
    for (const id of wanted) if (!seen.current.has(id)) seen.current.set(id, new SeenForecast(repaint, undefined, id))
    repaint()
  }, [ids, repaint])
  useEffect(() => {
    const all = seen.current
    return () => {
      for (const forecast of all.values()) forecast.end()
      all.clear()
    }
  }, [])
  return others.map((id): Layer => {
    const piece = job.workpieces[id]
    return {
      name: `piece ${id}`,
      space: pieceSpace(piece),
      paint: (context, at) => {
        standUpright(context, at)
        const face = piecePath(piece, at.upright.view)
        const forecast = seen.current.get(id)
        const isBare = !shown() || (forecast?.empty ?? true)
        layOnBed(context, face, isBare ? `rgb(${materialOf(job, id).look.surface.join(' ')})` : bed)
        if (!shown()) return
        context.clip(face, 'evenodd')
        forecast?.draw(context, at.upright, at.ratio, faceBox(piece))
      },
      settled: () => !shown() || (seen.current.get(id)?.settled ?? false),
    }
  })
}
