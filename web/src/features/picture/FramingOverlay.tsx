import { useTheme } from '@mui/material'
import { type CropStep, type JobDocument, picturedRoot, type StraightenStep, withFraming } from '@neotaxis/core'
import { type KeyboardEvent, type PointerEvent as ReactPointerEvent, useRef } from 'react'
import { type Change, useChange } from '../use-edit.ts'
import type { BenchMap } from './bench-map.ts'
import { hold, pointIn } from './pointer.ts'

const HANDLE = 7

/** The job with one framing step changed. */
export const withFramingStep =
  (nodeId: string, index: number, change: Partial<CropStep> | Partial<StraightenStep>): Change =>
  (job: JobDocument) => {
    const { framing } = picturedRoot(job, nodeId)
    return withFraming(
      job,
      nodeId,
      framing.map((step, i) => (i === index ? ({ ...step, ...change } as typeof step) : step)),
    )
  }

interface Props {
  readonly map: BenchMap
  readonly node: string
  readonly index: number
}

/** The part that is kept, by its borders and corners; what goes is shaded. */
export function CropOverlay({
  map,
  node,
  index,
  step,
  ratio,
}: Props & { readonly step: CropStep; readonly ratio: number | null }) {
  const { palette } = useTheme()
  const { show, finish } = useChange()
  const start = useRef<{ x: number; y: number; step: CropStep } | undefined>(undefined)
  const { widthPx, heightPx } = map.frame
  const [x0, y0] = map.frameToScreen(step.x, step.y)
  const [x1, y1] = map.frameToScreen(step.x + step.width, step.y + step.height)
  const [ox0, oy0] = map.frameToScreen(0, 0)
  const [ox1, oy1] = map.frameToScreen(widthPx, heightPx)

  const dragged = (from: CropStep, dx: number, dy: number, h: number, v: number): Partial<CropStep> => {
    if (h === 0 && v === 0)
      return {
        x: Math.round(Math.min(widthPx - from.width, Math.max(0, from.x + dx))),
        y: Math.round(Math.min(heightPx - from.height, Math.max(0, from.y + dy))),
      }
    let left = from.x
    let top = from.y
    let right = from.x + from.width
    let bottom = from.y + from.height
    if (h < 0) left = Math.min(right - 4, Math.max(0, left + dx))
    if (h > 0) right = Math.max(left + 4, Math.min(widthPx, right + dx))
    if (v < 0) top = Math.min(bottom - 4, Math.max(0, top + dy))
    if (v > 0) bottom = Math.max(top + 4, Math.min(heightPx, bottom + dy))
    if (ratio === null) {
      left = Math.round(left)
      top = Math.round(top)
      return { x: left, y: top, width: Math.round(right) - left, height: Math.round(bottom) - top }
    }
    // In a fixed ratio the side that is not pulled follows, as far as the picture goes.
    let width = h !== 0 ? right - left : (bottom - top) / ratio
    width = Math.min(width, widthPx, heightPx / ratio)
    const height = width * ratio
    const x = h < 0 ? right - width : left
    const y = v < 0 ? bottom - height : top
    return {
      width,
      height,
      x: Math.max(0, Math.min(widthPx - width, x)),
      y: Math.max(0, Math.min(heightPx - height, y)),
    }
  }
  const handlers = (h: number, v: number) => ({
    onPointerDown: (event: ReactPointerEvent<SVGElement>) => {
      hold(event)
      const [px, py] = map.screenToFrame(...pointIn(event))
      start.current = { x: px, y: py, step }
    },
    onPointerMove: (event: ReactPointerEvent<SVGElement>) => {
      const from = start.current
      if (!from) return
      event.stopPropagation()
      const [px, py] = map.screenToFrame(...pointIn(event))
      show(withFramingStep(node, index, dragged(from.step, px - from.x, py - from.y, h, v)))
    },
    onPointerUp: () => {
      if (start.current) finish('crop')
      start.current = undefined
    },
    onKeyDown: (event: KeyboardEvent) => {
      const far = event.shiftKey ? 10 : 1
      const dx = event.key === 'ArrowLeft' ? -far : event.key === 'ArrowRight' ? far : 0
      const dy = event.key === 'ArrowUp' ? -far : event.key === 'ArrowDown' ? far : 0
      if (dx === 0 && dy === 0) return
      event.preventDefault()
      show(withFramingStep(node, index, dragged(step, dx, dy, h, v)))
      finish('crop')
    },
  })
  const shade = `M${ox0} ${oy0}H${ox1}V${oy1}H${ox0}Z M${x0} ${y0}V${y1}H${x1}V${y0}Z`
  return (
    <>
      <path d={shade} fill={palette.shop.surround} fillOpacity={0.72} fillRule="evenodd" pointerEvents="none" />
      {/* biome-ignore lint/a11y/useSemanticElements: a shape on the stage */}
      <rect
        role="button"
        aria-label="The part that is kept: arrows move it"
        tabIndex={0}
        x={Math.min(x0, x1)}
        y={Math.min(y0, y1)}
        width={Math.abs(x1 - x0)}
        height={Math.abs(y1 - y0)}
        fill="transparent"
        stroke={palette.primary.main}
        strokeWidth={2}
        style={{ cursor: 'move' }}
        {...handlers(0, 0)}
      />
      {[-1, 0, 1].flatMap((v) =>
        [-1, 0, 1].map((h) =>
          h === 0 && v === 0 ? null : (
            // biome-ignore lint/a11y/useSemanticElements: a handle on the stage
            <rect
              role="button"
              key={`${h} ${v}`}
              aria-label={`${v < 0 ? 'Upper ' : v > 0 ? 'Lower ' : ''}${h < 0 ? 'left' : h > 0 ? 'right' : ''} ${h && v ? 'corner' : 'border'}: arrows move it`}
              tabIndex={0}
              data-testid={`crop-${h}-${v}`}
              x={(h === 0 ? (x0 + x1) / 2 : h < 0 ? x0 : x1) - HANDLE}
              y={(v === 0 ? (y0 + y1) / 2 : v < 0 ? y0 : y1) - HANDLE}
              width={2 * HANDLE}
              height={2 * HANDLE}
              rx={3}
              fill={palette.shop.raised}
              stroke={palette.primary.main}
              strokeWidth={2}
              style={{ cursor: h && v ? (h === v ? 'nwse-resize' : 'nesw-resize') : h ? 'ew-resize' : 'ns-resize' }}
              {...handlers(h, v)}
            />
          ),
        ),
      )}
    </>
  )
}

/** The four corners of a photographed page. */
export function CornersOverlay({ map, node, index, step }: Props & { readonly step: StraightenStep }) {
  const { palette } = useTheme()
  const { show, finish } = useChange()
  const held = useRef(false)
  const screen = [0, 1, 2, 3].map((k) => map.frameToScreen(step.corners[2 * k], step.corners[2 * k + 1]))
  const put = (k: number, x: number, y: number): void => {
    const corners = [...step.corners]
    corners[2 * k] = Math.round(Math.min(map.frame.widthPx, Math.max(0, x)) * 10) / 10
    corners[2 * k + 1] = Math.round(Math.min(map.frame.heightPx, Math.max(0, y)) * 10) / 10
    show((job) => {
      try {
        return withFramingStep(node, index, { corners })(job)
      } catch {
        // Three corners on a line: the page would have no face.
        return job
      }
    })
  }
  return (
    <>
      <polygon
        points={screen.map(([x, y]) => `${x},${y}`).join(' ')}
        fill={palette.primary.main}
        fillOpacity={0.12}
        stroke={palette.primary.main}
        strokeWidth={2}
        pointerEvents="none"
      />
      {screen.map(([x, y], k) => (
        // biome-ignore lint/a11y/useSemanticElements: a handle on the stage
        <circle
          role="button"
          // biome-ignore lint/suspicious/noArrayIndexKey: corners have no other name
          key={k}
          aria-label={`${['Upper left', 'Upper right', 'Lower right', 'Lower left'][k]} corner of the page: arrows move it`}
          tabIndex={0}
          data-testid={`corner-${k}`}
          cx={x}
          cy={y}
          r={11}
          fill={palette.shop.raised}
          fillOpacity={0.6}
          stroke={palette.primary.main}
          strokeWidth={3}
          style={{ cursor: 'move' }}
          onPointerDown={(event) => {
            hold(event)
            held.current = true
          }}
          onPointerMove={(event) => {
            if (!held.current) return
            event.stopPropagation()
            put(k, ...map.screenToFrame(...pointIn(event)))
          }}
          onPointerUp={() => {
            if (held.current) finish('corners of the page')
            held.current = false
          }}
          onKeyDown={(event) => {
            const far = event.shiftKey ? 10 : 1
            const dx = event.key === 'ArrowLeft' ? -far : event.key === 'ArrowRight' ? far : 0
            const dy = event.key === 'ArrowUp' ? -far : event.key === 'ArrowDown' ? far : 0
            if (dx === 0 && dy === 0) return
            event.preventDefault()
            put(k, step.corners[2 * k] + dx, step.corners[2 * k + 1] + dy)
            finish('corners of the page')
          }}
        />
      ))}
    </>
  )
}
