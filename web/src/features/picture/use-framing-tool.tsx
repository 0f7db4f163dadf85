import { useTheme } from '@mui/material'
import { type CropStep, type JobDocument, mapped, picturedRoot, type StraightenStep, withFraming } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Grip, Hold, Tool } from '../../stage/tool.ts'
import { type Change, useChange } from '../use-edit.ts'
import type { BenchSpaces } from './bench-spaces.ts'

/** The smallest side of what a crop keeps, px. */
const LEAST = 4

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

/**
 * A crop with a border, a corner (−1, 1) or all of it (0, 0) pulled, within its frame.
 * @param ratio height by width that is kept, or null; @param dx,dy px of the frame
 */
export function croppedBy(
  from: CropStep,
  [h, v]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  frame: { readonly widthPx: number; readonly heightPx: number },
  ratio: number | null,
): Partial<CropStep> {
  const { widthPx, heightPx } = frame
  if (h === 0 && v === 0)
    return {
      x: Math.round(Math.min(widthPx - from.width, Math.max(0, from.x + dx))),
      y: Math.round(Math.min(heightPx - from.height, Math.max(0, from.y + dy))),
    }
  let left = from.x
  let top = from.y
  let right = from.x + from.width
  let bottom = from.y + from.height
  if (h < 0) left = Math.min(right - LEAST, Math.max(0, left + dx))
  if (h > 0) right = Math.max(left + LEAST, Math.min(widthPx, right + dx))
  if (v < 0) top = Math.min(bottom - LEAST, Math.max(0, top + dy))
  if (v > 0) bottom = Math.max(top + LEAST, Math.min(heightPx, bottom + dy))
  if (ratio === null) {
    left = Math.round(left)
    top = Math.round(top)
    return { x: left, y: top, width: Math.round(right) - left, height: Math.round(bottom) - top }
  }
  // In a fixed ratio the side that is not pulled follows, as far as the picture goes.
  const width = Math.min(h !== 0 ? right - left : (bottom - top) / ratio, widthPx, heightPx / ratio)
  const height = width * ratio
  const x = h < 0 ? right - width : left
  const y = v < 0 ? bottom - height : top
  return { width, height, x: Math.max(0, Math.min(widthPx - width, x)), y: Math.max(0, Math.min(heightPx - height, y)) }
}

interface Step {
  readonly node: string
  readonly index: number
  readonly step: CropStep | StraightenStep
}

/** The framing step that is open, by hand: the part that is kept, or the corners of a photographed page. */
export function useFramingTool(spaces: BenchSpaces, open: Step | undefined, keepRatio: boolean): Tool | undefined {
  const { show, finish, giveUp } = useChange()
  if (!open) return undefined
  const { node, index, step } = open
  const { frame, space } = spaces
  const hold = (name: string, move: Hold['move']): Hold => ({
    slack: 0,
    ...(move && { move }),
    end: (_, moved) => moved && finish(name),
    cancel: giveUp,
  })
  if (step.kind === 'crop') {
    const ratio = keepRatio ? step.height / step.width : null
    const pull = (h: number, v: number, dx: number, dy: number): void =>
      show(withFramingStep(node, index, croppedBy(step, [h, v], [dx, dy], frame, ratio)))
    const hands = (h: number, v: number): Pick<Grip, 'hold' | 'nudge'> => ({
      hold: () => hold('crop', (_, { dx, dy }) => pull(h, v, dx, dy)),
      nudge: (dx, dy, far) => {
        pull(h, v, dx * (far ? 10 : 1), dy * (far ? 10 : 1))
        finish('crop')
      },
    })
    const [x1, y1] = [step.x + step.width, step.y + step.height]
    const grips: Grip[] = [
      {
        id: 'kept',
        at: { x0: step.x, y0: step.y, x1, y1 },
        look: 'unseen',
        cursor: 'move',
        label: 'The part that is kept: arrows move it',
        ...hands(0, 0),
      },
    ]
    for (const v of [-1, 0, 1])
      for (const h of [-1, 0, 1])
        if (h !== 0 || v !== 0)
          grips.push({
            id: `${h} ${v}`,
            at: [h === 0 ? (step.x + x1) / 2 : h < 0 ? step.x : x1, v === 0 ? (step.y + y1) / 2 : v < 0 ? step.y : y1],
            look: 'square',
            radius: 7,
            cursor: h && v ? (h === v ? 'nwse-resize' : 'nesw-resize') : h ? 'ew-resize' : 'ns-resize',
            label: `${v < 0 ? 'Upper ' : v > 0 ? 'Lower ' : ''}${h < 0 ? 'left' : h > 0 ? 'right' : ''} ${h && v ? 'corner' : 'border'}: arrows move it`,
            testId: `crop-${h}-${v}`,
            ...hands(h, v),
          })
    return { name: 'crop', space, grips, over: (at) => <Kept step={step} frame={frame} at={at} /> }
  }
  const put = (k: number, x: number, y: number): void => {
    const corners = [...step.corners]
    corners[2 * k] = Math.round(Math.min(frame.widthPx, Math.max(0, x)) * 10) / 10
    corners[2 * k + 1] = Math.round(Math.min(frame.heightPx, Math.max(0, y)) * 10) / 10
    show((job) => {
      try {
        return withFramingStep(node, index, { corners })(job)
      } catch {
        // Three corners on a line: the page would have no face.
        return job
      }
    })
  }
  const name = 'corners of the page'
  const grips = ['Upper left', 'Upper right', 'Lower right', 'Lower left'].map((corner, k): Grip => {
    const [x, y] = [step.corners[2 * k], step.corners[2 * k + 1]]
    return {
      id: corner,
      at: [x, y],
      look: 'ring',
      radius: 11,
      cursor: 'move',
      label: `${corner} corner of the page: arrows move it`,
      testId: `corner-${k}`,
      hold: () => hold(name, (spot) => put(k, spot.x, spot.y)),
      nudge: (dx, dy, far) => {
        put(k, x + dx * (far ? 10 : 1), y + dy * (far ? 10 : 1))
        finish(name)
      },
    }
  })
  return { name: 'corners', space, grips, over: (at) => <Page corners={step.corners} at={at} /> }
}

/** What a crop takes away is shaded. */
function Kept({ step, frame, at }: { readonly step: CropStep; readonly frame: BenchSpaces['frame']; readonly at: Showing }) {
  const { palette } = useTheme()
  const box = (x0: number, y0: number, x1: number, y1: number): string => {
    const [ax, ay] = mapped(at.map, x0, y0)
    const [bx, by] = mapped(at.map, x1, y1)
    return `M${ax} ${ay}H${bx}V${by}H${ax}Z`
  }
  const kept = box(step.x, step.y, step.x + step.width, step.y + step.height)
  return (
    <Overlay>
      <path
        d={box(0, 0, frame.widthPx, frame.heightPx) + kept}
        fill={palette.shop.surround}
        fillOpacity={0.72}
        fillRule="evenodd"
      />
      <path d={kept} fill="none" stroke={palette.primary.main} strokeWidth={2} />
    </Overlay>
  )
}

/** The page between its corners. */
function Page({ corners, at }: { readonly corners: readonly number[]; readonly at: Showing }) {
  const { palette } = useTheme()
  const points = [0, 1, 2, 3].map((k) => mapped(at.map, corners[2 * k], corners[2 * k + 1]).join(','))
  return (
    <Overlay>
      <polygon
        points={points.join(' ')}
        fill={palette.primary.main}
        fillOpacity={0.12}
        stroke={palette.primary.main}
        strokeWidth={2}
      />
    </Overlay>
  )
}
