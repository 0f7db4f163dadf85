import { useTheme } from '@mui/material'
import { burnsRows, type JobDocument } from '@neotaxis/core'
import { useCallback } from 'react'
import { type Layer, showing } from '../../stage/layer.ts'
import { faceSpace, standUpright } from '../../stage/layers/face.ts'
import { SeenForecast, wholeOf } from '../../stage/layers/seen-forecast.ts'
import { useLasting } from '../../stage/layers/use-lasting.ts'
import type { StageHandle } from '../../stage/use-stage.ts'

/** Half of it, CSS px. */
const RADIUS = 86
/** CSS px that a dot has under it at least. */
const DOT_PX = 7

/** Every dot, enlarged under the pointer. @param only operations that are burned; the same list until it changes */
export function useLoupeLayer(
  stage: StageHandle,
  job: JobDocument,
  { on, only, operation }: { readonly on: boolean; readonly only: readonly string[]; readonly operation: string | undefined },
): Layer {
  const { palette } = useTheme()
  const { repaint, standing } = stage
  const near = useLasting(useCallback(() => new SeenForecast(repaint, only), [repaint, only]))
  const burn = operation === undefined ? undefined : job.operations[operation]
  return {
    name: 'loupe',
    space: standing,
    followsPointer: on,
    paint: (context, { pointer, ratio, upright: { view } }) => {
      if (!on || !pointer) return
      const { px, py } = pointer
      const side = 2 * RADIUS
      const scale = Math.max(view.scale * 3, DOT_PX / (burnsRows(burn) ? burn.intervalMm : 0.1))
      const under = {
        scale,
        x: view.x + px / view.scale - RADIUS / scale,
        y: view.y + py / view.scale - RADIUS / scale,
      }
      const at = showing(faceSpace(job), { standing, view: under, size: { width: side, height: side }, ratio })
      context.save()
      context.beginPath()
      context.arc(px, py, RADIUS, 0, 2 * Math.PI)
      context.clip()
      context.translate(px - RADIUS, py - RADIUS)
      context.fillStyle = palette.shop.surround
      context.fillRect(0, 0, side, side)
      standUpright(context, at)
      near.current?.draw(context, at.upright, ratio, wholeOf(job))
      context.restore()
      context.lineWidth = 3
      context.strokeStyle = palette.shop.raised
      context.beginPath()
      context.arc(px, py, RADIUS, 0, 2 * Math.PI)
      context.stroke()
      const text = `${(side / scale).toFixed(1)} mm across`
      context.font = '600 12px "Atkinson Hyperlegible Next Variable", sans-serif'
      const wide = context.measureText(text).width + 14
      context.fillStyle = palette.shop.raised
      context.fillRect(px - wide / 2, py + RADIUS - 8, wide, 20)
      context.fillStyle = palette.text.primary
      context.textAlign = 'center'
      context.fillText(text, px, py + RADIUS + 6)
    },
  }
}
