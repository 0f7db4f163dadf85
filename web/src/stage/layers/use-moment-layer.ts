import { useTheme } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { useCallback, useEffect } from 'react'
import { momentNow, onMoment } from '../../features/rehearsal/moment.ts'
import { onTrack, trackOf } from '../../workers/tracks.ts'
import type { Layer } from '../layer.ts'
import type { StageHandle } from '../use-stage.ts'
import { faceSpace, standUpright } from './face.ts'
import { MomentPainter } from './moment-painter.ts'
import { useLasting } from './use-lasting.ts'

/** The workpiece at a moment of the run, with the head and its travel. @param burnedBefore operations that were burned before */
export function useMomentLayer(
  stage: StageHandle,
  job: JobDocument,
  trackJob: JobDocument,
  burnedBefore: readonly string[],
): Layer & { readonly at: () => number | undefined } {
  const { palette } = useTheme()
  const { repaint } = stage
  const painter = useLasting(useCallback(() => new MomentPainter(repaint), [repaint]))
  useEffect(() => {
    const stops = [onMoment(repaint), onTrack(repaint)]
    return () => {
      for (const stop of stops) stop()
    }
  }, [repaint])
  /** The moment that is shown, seconds; undefined: none, or the way to it is not known yet. */
  const at = (): number | undefined => (trackOf(trackJob) ? (momentNow().seconds ?? undefined) : undefined)
  return {
    name: 'moment',
    space: faceSpace(job),
    at,
    paint: (context, showing) => {
      const [seconds, track] = [at(), trackOf(trackJob)]
      if (seconds === undefined || !track) return
      standUpright(context, showing)
      const { bed, hot, halo } = palette.shop
      const look = { ratio: showing.ratio, bed, hot, halo, ink: palette.text.primary }
      painter.current?.draw(context, showing.upright, look, trackJob, track, { ...momentNow(), seconds }, burnedBefore)
    },
    settled: () => at() === undefined || (painter.current?.settled ?? false),
  }
}
