import { useTheme } from '@mui/material'
import { type Affine, composed, type JobDocument, mapped, placeOf, poseMap, scaling, withNode, type Zone } from '@neotaxis/core'
import { unitInView } from '../../stage/in-view.ts'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Grip, Hold, Tool } from '../../stage/tool.ts'
import { useChange } from '../use-edit.ts'

/** The smallest side of a zone, share of the picture. */
const LEAST = 0.01

/** A zone with one of its corners (−1, 1) or all of it (0, 0) moved, within the picture. */
export function movedZone(zone: Zone, h: number, v: number, dx: number, dy: number): Zone {
  const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
  const right = zone.x + zone.width
  const bottom = zone.y + zone.height
  if (h === 0 && v === 0)
    return { ...zone, x: within(zone.x + dx, 0, 1 - zone.width), y: within(zone.y + dy, 0, 1 - zone.height) }
  const x0 = h < 0 ? within(zone.x + dx, 0, right - LEAST) : zone.x
  const y0 = v < 0 ? within(zone.y + dy, 0, bottom - LEAST) : zone.y
  const x1 = h > 0 ? within(right + dx, zone.x + LEAST, 1) : right
  const y1 = v > 0 ? within(bottom + dy, zone.y + LEAST, 1) : bottom
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 }
}

/** From a picture, in shares of its sides, to the bed. */
const pictureSpace = (job: JobDocument, trace: string): Affine => {
  const place = placeOf(job, trace)
  return composed(composed(scaling(place.widthMm, place.heightMm), poseMap(place, place)), faceSpace(job))
}

/** The share of what is seen of a picture that a zone leaves free around itself at first. */
const AROUND = 0.15

/** A zone as it begins: in the middle of what is seen of the picture. */
export function firstZone(job: JobDocument, trace: string): Zone {
  const { x, y, width, height } = unitInView(pictureSpace(job, trace)) ?? { x: 0, y: 0, width: 1, height: 1 }
  return {
    x: x + AROUND * width,
    y: y + AROUND * height,
    width: Math.max(LEAST, (1 - 2 * AROUND) * width),
    height: Math.max(LEAST, (1 - 2 * AROUND) * height),
  }
}

const CORNERS = [
  [-1, -1, 'upper left'],
  [1, -1, 'upper right'],
  [1, 1, 'lower right'],
  [-1, 1, 'lower left'],
] as const

/** The part of a picture that is traced, drawn over it: moved and sized by hand. Its space is the artwork, in shares of its size. */
export function useZoneTool(job: JobDocument, trace: string | undefined): Tool | undefined {
  const { show, finish, giveUp } = useChange()
  const node = trace === undefined ? undefined : job.nodes[trace]
  if (trace === undefined || node?.kind !== 'trace' || !node.zone) return undefined
  const { zone } = node
  const name = 'zone of the trace'
  const put = (next: Zone): void => show((base) => withNode(base, trace, { zone: next }))
  const hold = (h: number, v: number) => (): Hold => ({
    slack: 0,
    move: (_, { dx, dy }) => put(movedZone(zone, h, v, dx, dy)),
    end: (_, moved) => moved && finish(name),
    cancel: giveUp,
  })
  const nudge = (h: number, v: number) => (dx: number, dy: number, far: boolean) => {
    const by = far ? 0.05 : 0.005
    put(movedZone(zone, h, v, dx * by, dy * by))
    finish(name)
  }
  const [right, bottom] = [zone.x + zone.width, zone.y + zone.height]
  const grips: Grip[] = [
    {
      id: 'zone',
      at: { x0: zone.x, y0: zone.y, x1: right, y1: bottom },
      look: 'area',
      cursor: 'move',
      label: 'Zone of the trace: arrows move it',
      testId: 'zone-box',
      hold: hold(0, 0),
      nudge: nudge(0, 0),
    },
    ...CORNERS.map(
      ([h, v, corner]): Grip => ({
        id: `zone ${corner}`,
        at: [h < 0 ? zone.x : right, v < 0 ? zone.y : bottom],
        look: 'square',
        radius: 6,
        cursor: h === v ? 'nwse-resize' : 'nesw-resize',
        label: `Zone, ${corner} corner: arrows move it`,
        testId: `zone-${corner.replace(' ', '-')}`,
        hold: hold(h, v),
        nudge: nudge(h, v),
      }),
    ),
  ]
  return {
    name: 'zone',
    space: pictureSpace(job, trace),
    grips,
    over: (at) => <OutsideShade zone={zone} at={at} />,
  }
}

/** What lies outside of the zone is shaded. */
function OutsideShade({ zone, at }: { readonly zone: Zone; readonly at: Showing }) {
  const { palette } = useTheme()
  const box = (x0: number, y0: number, x1: number, y1: number): string =>
    `M${[
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ]
      .map(([x, y]) => mapped(at.map, x, y).join(' '))
      .join('L')}Z`
  const shade = box(0, 0, 1, 1) + box(zone.x, zone.y, zone.x + zone.width, zone.y + zone.height)
  return (
    <Overlay>
      <path d={shade} fill={palette.shop.surround} fillOpacity={0.55} fillRule="evenodd" />
    </Overlay>
  )
}
