import {
  type Bounds,
  type BurnedThere,
  besideArc,
  boundsHold,
  boxBetween,
  burnedAt,
  burnOrder,
  faceBox,
  groupedWith,
  type JobDocument,
  mainPiece,
  moved,
  placeOf,
  resized,
  type SnapLine,
  snapped,
  sourceOf,
  turnedTo,
  turnOfPlace,
  unite,
} from '@neotaxis/core'
import { useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import type { Grip, Hold, Spot, StageKey, Tool } from '../../stage/tool.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { abandoned } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { anchored, selected, severalSelected } from '../../store/view-slice.ts'
import type { Drawing } from '../../workers/shared.ts'
import { SnapLines } from '../placing/SnapLines.tsx'
import { toggled } from '../selection.ts'
import { useChange, useEdit } from '../use-edit.ts'
import { DimensionLines } from './DimensionLines.tsx'
import { Boxes, onScreen, SelectionBox } from './SelectionBox.tsx'
import { openMenu } from './StageMenu.tsx'
import { turnArc } from './turn-arc.ts'

/** A line is meant from this far, CSS px. */
const NEAR = 7
/** The arc is meant from this far, CSS px. */
const NEAR_ARC = 11

const SPOTS = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
] as const

/** Artwork in hand comes to what is so near, CSS px. */
const SNAPS = 6
const NO_LINES: readonly SnapLine[] = []
const shifted = ({ x0, y0, x1, y1 }: Bounds, dx: number, dy: number): Bounds => ({
  x0: x0 + dx,
  y0: y0 + dy,
  x1: x1 + dx,
  y1: y1 + dy,
})

/** Which way a handle pulls. */
const cursorOf = (h: number, v: number): string =>
  h === 0 ? 'ns-resize' : v === 0 ? 'ew-resize' : h === v ? 'nwse-resize' : 'nesw-resize'

/** The angle of a way on the screen, degrees clockwise. */
const degOf = (dx: number, dy: number): number => (Math.atan2(dy, dx) * 180) / Math.PI

interface Options {
  readonly job: JobDocument
  readonly drawing: Drawing | undefined
  /** The one whose details are shown, and the box around it as it is shown, mm of the face. */
  readonly node: string | undefined
  readonly box: Bounds | undefined
  /** All that are selected, with their boxes. */
  readonly nodes: readonly string[]
  readonly boxes: readonly Bounds[]
}

/** Families of artwork that lie wholly in a box, mm of the face: of each the first that is drawn. */
export function artworkWithin(job: JobDocument, { bounds }: Pick<Drawing, 'bounds'>, box: Bounds): readonly string[] {
  const found = new Map<string, string>()
  for (const node of burnOrder(job).flatMap((id) => job.operations[id].of)) {
    const b = bounds[node]
    if (b && Number.isFinite(b.x0) && boundsHold(box, b.x0, b.y0) && boundsHold(box, b.x1, b.y1)) {
      const root = sourceOf(job, node)
      if (!found.has(root)) found.set(root, node)
    }
  }
  return [...found.values()]
}

/** Selects, moves, sizes and turns artwork on the workpiece. */
export function useSelectTool({ job, drawing, node, box, nodes, boxes }: Options): Tool {
  const dispatch = useDispatch()
  const anchor = useSelector((state) => state.view.anchor)
  const { show, finish, giveUp } = useChange()
  const edit = useEdit()

  const marginMm = useSelector((state) => state.view.marginMm)
  const [drawn, setDrawn] = useState<Bounds>()
  const [snaps, setSnaps] = useState<readonly SnapLine[]>(NO_LINES)
  const isSeveral = nodes.length > 1
  /** Families are moved once, whatever of them is selected; a group goes along with one of it. */
  const movedBy = (base: JobDocument, what: readonly string[], dx: number, dy: number): JobDocument => {
    const done = new Set<string>()
    return what.reduce((sum, id) => {
      const root = sourceOf(sum, id)
      if (done.has(root)) return sum
      for (const one of [root, ...groupedWith(sum, root)]) done.add(one)
      return moved(sum, id, dx, dy)
    }, base)
  }

  const moving = (what: readonly string[]): Hold => {
    // What it comes to: the face, and the boxes of all that stays.
    const going = new Set(what.flatMap((id) => [sourceOf(job, id), ...groupedWith(job, id)]))
    const burned = new Set(burnOrder(job).flatMap((id) => job.operations[id].of))
    const known = [...burned].flatMap((id) => {
      const box = drawing?.bounds[id]
      return box && Number.isFinite(box.x0) ? [{ root: sourceOf(job, id), box }] : []
    })
    const stays = new Map<string, Bounds>()
    for (const { root, box } of known) if (!going.has(root)) stays.set(root, unite(stays.get(root) ?? box, box))
    const from = known.filter(({ root }) => going.has(root)).map(({ box }) => box)
    const targets = { face: faceBox(mainPiece(job)), others: [...stays.values()], marginMm }
    return {
      move: ({ shift, ctrl, scale }, way) => {
        const across = Math.abs(way.dx) >= Math.abs(way.dy)
        const [dx, dy] = [shift && !across ? 0 : way.dx, shift && across ? 0 : way.dy]
        const now = from.length > 0 && !ctrl ? snapped(shifted(from.reduce(unite), dx, dy), targets, SNAPS / scale) : undefined
        const [sx, sy] = [shift && !across ? 0 : (now?.dx ?? 0), shift && across ? 0 : (now?.dy ?? 0)]
        setSnaps(now?.lines ?? NO_LINES)
        show((base) => movedBy(base, what, dx + sx, dy + sy))
      },
      end: (_, didMove) => {
        setSnaps(NO_LINES)
        if (didMove) finish('move the artwork')
      },
      cancel: () => {
        setSnaps(NO_LINES)
        giveUp()
      },
    }
  }

  const turningFrom = (what: string, spot: Spot): Hold => {
    const place = placeOf(job, what)
    const [cx, cy] = [place.xMm + place.widthMm / 2, place.yMm + place.heightMm / 2]
    const began = degOf(spot.x - cx, spot.y - cy)
    return {
      move: ({ x, y, shift, alt }) => {
        const by = degOf(x - cx, y - cy) - began
        const step = shift ? 15 : alt ? 0.1 : 1
        show((base) => turnedTo(base, what, Math.round(((place.deg ?? 0) + by) / step) * step))
      },
      end: (_, didMove) => didMove && finish('turn the artwork'),
      cancel: giveUp,
    }
  }

  const sizing = (what: string, from: Bounds, h: -1 | 0 | 1, v: -1 | 0 | 1): Hold => ({
    move: ({ alt: free }, { dx, dy }) => {
      const [w0, h0] = [from.x1 - from.x0, from.y1 - from.y0]
      const width = Math.max(1, w0 + h * dx)
      const height = Math.max(1, h0 + v * dy)
      const byWidth = h !== 0 && (v === 0 || width / w0 >= height / h0 || free)
      const wanted =
        free && h !== 0 && v !== 0 ? { widthMm: width, heightMm: height } : byWidth ? { widthMm: width } : { heightMm: height }
      show((base) => resized(base, what, from, wanted, { anchorX: (1 - h) / 2, anchorY: (1 - v) / 2, keepRatio: !free }))
    },
    end: (_, didMove) => (didMove ? finish('resize the artwork') : dispatch(anchored({ h, v }))),
    cancel: giveUp,
  })

  /** A box drawn around selects what lies in it. */
  const boxing = (from: Spot): Hold => {
    return {
      move: (spot) => setDrawn(boxBetween(from, spot)),
      end: (spot, didMove) => {
        setDrawn(undefined)
        if (!didMove || !drawing) return
        const inside = artworkWithin(job, drawing, boxBetween(from, spot))
        dispatch(severalSelected([...nodes.filter((id) => !inside.includes(id)), ...inside]))
      },
      cancel: () => setDrawn(undefined),
    }
  }

  const grips: Grip[] =
    node && box && !isSeveral
      ? SPOTS.map(([h, v]) => ({
          id: `${h},${v}`,
          at: [box.x0 + ((h + 1) / 2) * (box.x1 - box.x0), box.y0 + ((v + 1) / 2) * (box.y1 - box.y0)],
          look: 'round',
          chosen: anchor.h === h && anchor.v === v,
          cursor: cursorOf(h, v),
          hold: () => sizing(node, box, h, v),
        }))
      : []

  const press = (spot: Spot, at: Showing): Hold | undefined => {
    if (!drawing) return undefined
    const { x, y, px, py, scale } = spot
    if (node && box && !isSeveral && besideArc(turnArc(onScreen(box, at), at.size), px, py, NEAR_ARC))
      return turningFrom(node, spot)
    const hit = burnedAt(job, drawing, x, y, NEAR / scale)
    const hitNode = hit?.node
    const more = spot.shift || spot.ctrl
    if (more && hitNode) {
      dispatch(severalSelected(toggled(job, nodes, hitNode)))
      return {}
    }
    if (more) return boxing(spot)
    // What is selected already is dragged from anywhere in its box.
    const inside = boxes.some((one) => boundsHold(one, x, y))
    if (isSeveral && inside) {
      const hold = moving(nodes)
      return { ...hold, end: (at, didMove) => (didMove ? hold.end?.(at, didMove) : pick(hit)) }
    }
    if (hit && hitNode && !(inside && node && sourceOf(job, hitNode) === sourceOf(job, node))) pick(hit)
    if (inside && node) return moving([node])
    if (hitNode) return moving([hitNode])
    return { pans: true, end: (_, didMove) => !didMove && dispatch(selected(null)) }
  }

  /** What was pressed: its operation, or the one piece of several that this burns. */
  const pick = (hit: BurnedThere | undefined): void => {
    const alone = hit && job.operations[hit.id].of.length === 1
    dispatch(selected(hit ? (alone ? { kind: 'operation', id: hit.id } : { kind: 'node', id: hit.node }) : null))
  }

  /** The right button selects what lies there, unless that is selected already, and asks what to do. */
  const menu = ({ x, y, scale, px, py }: Spot, at: { readonly left: number; readonly top: number }): boolean => {
    const hit = drawing && burnedAt(job, drawing, x, y, NEAR / scale)
    if (!boxes.some((one) => boundsHold(one, x, y))) pick(hit)
    openMenu(at.left + px, at.top + py)
    return true
  }

  const key = ({ key, shift, alt }: StageKey): boolean => {
    const by = alt ? 0.1 : shift ? 10 : 1
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[key]
    if (way && node) edit(`move ${by} mm`, (base) => movedBy(base, nodes, way[0], way[1]))
    const turn = { PageUp: -1, PageDown: 1 }[key]
    if (turn && node) {
      const deg = turn * (alt ? 0.1 : shift ? 15 : 1)
      edit(`turn ${Math.abs(deg)}°`, (base) => turnedTo(base, node, turnOfPlace(base, node) + deg))
    }
    if (key === 'Escape') {
      const { document, base } = store.getState().job
      dispatch(document === base ? selected(null) : abandoned())
    }
    return node !== undefined && (way !== undefined || turn !== undefined)
  }

  return {
    name: 'select',
    space: faceSpace(job),
    grips,
    press,
    key,
    menu,
    over: (at) => {
      const came = <SnapLines lines={snaps} at={at} />
      if (isSeveral || drawn)
        return (
          <>
            <Boxes boxes={drawn ? [...boxes, drawn] : boxes} at={at} />
            {came}
          </>
        )
      if (!node || !box) return null
      return (
        <>
          {came}
          <SelectionBox box={box} at={at} middle={anchor.h === 0 && anchor.v === 0} />
          <DimensionLines job={job} node={node} box={box} at={at} />
        </>
      )
    },
  }
}
