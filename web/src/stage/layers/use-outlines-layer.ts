import type { JobDocument } from '@neotaxis/core'
import { useCallback, useEffect } from 'react'
import type { Stroke } from '../../workers/shared.ts'
import { evaluatedNow, onEvaluated } from '../../workers/use-evaluation.ts'
import type { Layer } from '../layer.ts'
import type { StageHandle } from '../use-stage.ts'
import { faceSpace, standUpright } from './face.ts'
import { SeenOutlines } from './seen-outlines.ts'
import { useLasting } from './use-lasting.ts'

/**
 * Outlines of the job in the order of the strokes, however many there are.
 * @param place where their artwork stands by now, mm of the face: what is painted of it elsewhere goes along
 */
export function useOutlinesLayer(
  stage: StageHandle,
  job: JobDocument,
  name: string,
  strokes: readonly Stroke[],
  place?: { readonly x: number; readonly y: number },
): Layer {
  const { repaint } = stage
  const seen = useLasting(useCallback(() => new SeenOutlines(repaint), [repaint]))
  useEffect(
    () =>
      onEvaluated(() => {
        seen.current?.renew(evaluatedNow().drawing)
        repaint()
      }),
    [repaint, seen],
  )
  return {
    name,
    space: faceSpace(job),
    paint: (context, at) => {
      standUpright(context, at)
      // The newest outlines, even before the page shows what else comes of them.
      seen.current?.draw(context, at, evaluatedNow().drawing, strokes, place)
    },
    settled: () => seen.current?.settled ?? false,
  }
}
