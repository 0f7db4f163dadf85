import { faceBox, type JobDocument, mainPieceId, materialOf } from '@neotaxis/core'
import { useEffect, useRef } from 'react'
import type { Layer } from '../layer.ts'
import type { StageHandle } from '../use-stage.ts'
import { piecePath, pieceSpace, standUpright } from './face.ts'
import { SeenForecast } from './seen-forecast.ts'
import { layOnBed } from './workpiece-layer.ts'

/** The workpieces that are not looked at, after the burn, where they lie on the bed; fainter, because nothing on them is in hand. */
export function useOtherPieces(stage: StageHandle, job: JobDocument, bed: string, shown: () => boolean): Layer[] {
  const { repaint } = stage
  const seen = useRef(new Map<string, SeenForecast>())
  const others = Object.keys(job.workpieces).filter((id) => id !== mainPieceId(job))
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
