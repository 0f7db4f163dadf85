import type { Bounds, JobDocument } from '@neotaxis/core'
import { useCallback } from 'react'
import { painted } from '../../workers/use-evaluation.ts'
import type { Layer, Showing } from '../layer.ts'
import type { StageHandle } from '../use-stage.ts'
import { facePath, faceSpace, standUpright } from './face.ts'
import { SeenForecast, wholeOf } from './seen-forecast.ts'
import { useLasting } from './use-lasting.ts'

interface ForecastOptions {
  readonly name?: string
  /** Operations that are burned, default all; the same list until it changes. */
  readonly only?: readonly string[]
  /** Default: always. */
  readonly shown?: () => boolean
  /** The part of the face that is shown, mm; default all, within its edge. */
  readonly part?: Bounds
  /** What of the stage it may cover. */
  readonly clip?: (context: CanvasRenderingContext2D, at: Showing) => void
  /** Its painting counts as the page's. */
  readonly counts?: boolean
}

interface ForecastShown extends Layer {
  /** Whether there is nothing to show yet. */
  readonly isEmpty: () => boolean
}

/** The workpiece after the burn. */
export function useForecastLayer(stage: StageHandle, job: JobDocument, options: ForecastOptions = {}): ForecastShown {
  const { name = 'forecast', only, shown = () => true, part, clip, counts = true } = options
  const { repaint } = stage
  const seen = useLasting(useCallback(() => new SeenForecast(repaint, only), [repaint, only]))
  return {
    name,
    space: faceSpace(job),
    paint: (context, at) => {
      if (!shown()) return
      clip?.(context, at)
      standUpright(context, at)
      if (!part) context.clip(facePath(job, at.upright.view), 'evenodd')
      seen.current?.draw(context, at.upright, at.ratio, part ?? wholeOf(job))
      if (counts && seen.current?.settled) painted('burn', job)
    },
    isEmpty: () => seen.current?.empty ?? true,
    settled: () => !shown() || (seen.current?.settled ?? false),
  }
}
