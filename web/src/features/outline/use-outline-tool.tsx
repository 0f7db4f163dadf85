import { Box } from '@mui/material'
import {
  type Bounds,
  boxBetween,
  flattenPath,
  type JobDocument,
  mapped,
  nearestOn,
  type OutlineStep,
  type Path,
  piecesOf,
  placeOf,
  placeOn,
  ringBounds,
} from '@neotaxis/core'
import { useEffect, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import type { Hold, Spot, Tool } from '../../stage/tool.ts'
import { nodeNear } from './nodes.ts'
import type { OutlineTool } from './OutlineTools.tsx'

/** A press this near to an outline means it, CSS px. */
const NEAR = 10
/** Round an outline that is taken away, mm. */
const MORE = 0.01

const NODE_EDITS = { add: 'add a node', remove: 'remove a node', corner: 'make a corner', smooth: 'make it smooth' } as const

interface Options {
  readonly job: JobDocument
  readonly node: string
  readonly paths: readonly Path[]
  readonly tool: OutlineTool | null
  readonly onStep: (name: string, step: OutlineStep) => void
  /** A bridge at a place, in shares of the artwork. */
  readonly onBridge: (x: number, y: number) => void
}

type Place = readonly [number, number]

/** Changes an outline by hand: what is in a box goes, stretches between two places, nodes, bridges, where it begins. */
export function useOutlineTool({ job, node, paths, tool, onStep, onBridge }: Options): Tool {
  const [box, setBox] = useState<Bounds>()
  /** Where a node is dragged to by now, and the first of two places of a stretch: mm of the face. */
  const [dragged, setDragged] = useState<Place>()
  const [first, setFirst] = useState<Place>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool begins anew
  useEffect(() => setFirst(undefined), [tool])
  const place = placeOf(job, node)
  const share = ([x, y]: Place): { x: number; y: number } => ({
    x: (x - place.xMm) / place.widthMm,
    y: (y - place.yMm) / place.heightMm,
  })
  const shareOf = (b: Bounds) => {
    const a = share([b.x0, b.y0])
    const z = share([b.x1, b.y1])
    return { ...a, width: z.x - a.x, height: z.y - a.y }
  }
  /** The place on the outlines nearest to a spot; undefined where none is near enough. */
  const onLine = ({ x, y, scale }: Spot): Place | undefined => {
    const found = nearestOn(paths, x, y)
    if (!found || found.distance * scale > NEAR) return undefined
    return placeOn(piecesOf(paths[found.path])[found.piece], found.t)
  }

  const takeOneAway = ({ x, y, scale }: Spot): void => {
    const found = nearestOn(paths, x, y)
    if (!found || found.distance * scale > NEAR) return
    const b = ringBounds(flattenPath(paths[found.path], 0.01))
    const around = shareOf({ x0: b.x0 - MORE, y0: b.y0 - MORE, x1: b.x1 + MORE, y1: b.y1 + MORE })
    onStep('take one away', { kind: 'erase', on: true, ...around, touched: false })
  }

  const boxing = (from: Spot): Hold => {
    return {
      move: (spot) => setBox(boxBetween(from, spot)),
      end: (spot, moved) => {
        setBox(undefined)
        if (!moved) takeOneAway(spot)
        else onStep('take away in a box', { kind: 'erase', on: true, ...shareOf(boxBetween(from, spot)), touched: spot.shift })
      },
      cancel: () => setBox(undefined),
    }
  }

  const movingNode = (from: Place): Hold => ({
    move: ({ x, y }) => setDragged([x, y]),
    end: (spot, moved) => {
      setDragged(undefined)
      if (moved) onStep('move a node', { kind: 'node', on: true, change: 'move', at: share(from), to: share([spot.x, spot.y]) })
    },
    cancel: () => setDragged(undefined),
  })

  const pressed = (spot: Spot): void => {
    if (tool?.kind === 'stretch') {
      const there = onLine(spot)
      if (!there) return
      setFirst(first ? undefined : there)
      if (first)
        onStep(tool.as === 'gone' ? 'cut a stretch away' : `a stretch ${tool.as}`, {
          kind: 'stretch',
          on: true,
          from: share(first),
          to: share(there),
          as: tool.as,
        })
    } else if (tool?.kind === 'node' && tool.change !== 'move') {
      const there = tool.change === 'add' ? onLine(spot) : nodeNear(paths, spot.x, spot.y, NEAR / spot.scale)
      if (there) onStep(NODE_EDITS[tool.change], { kind: 'node', on: true, change: tool.change, at: share(there) })
    } else {
      const there = onLine(spot)
      if (!there) return
      const at = share(there)
      if (tool?.kind === 'bridge') onBridge(at.x, at.y)
      if (tool?.kind === 'start') onStep('begin here', { kind: 'start', on: true, at })
    }
  }

  const press = (spot: Spot): Hold | undefined => {
    if (!tool) return undefined
    if (tool.kind === 'erase') return boxing(spot)
    const node = tool.kind === 'node' && tool.change === 'move' ? nodeNear(paths, spot.x, spot.y, NEAR / spot.scale) : undefined
    if (node) return movingNode(node)
    return { pans: true, end: (at, moved) => !moved && pressed(at) }
  }

  return {
    name: 'outline by hand',
    space: faceSpace(job),
    ...(tool && { cursor: 'crosshair' }),
    press,
    over: (at) => (
      <>
        {box && <BoxOf box={box} at={at} />}
        {dragged && <Dot place={dragged} at={at} />}
        {first && <Dot place={first} at={at} />}
      </>
    ),
  }
}

function BoxOf({ box, at }: { readonly box: Bounds; readonly at: Showing }) {
  const [left, top] = mapped(at.map, box.x0, box.y0)
  const [right, bottom] = mapped(at.map, box.x1, box.y1)
  return (
    <Box
      style={{ left, top, width: right - left, height: bottom - top }}
      sx={{ position: 'absolute', border: 2, borderStyle: 'dashed', borderColor: 'primary.main', pointerEvents: 'none' }}
    />
  )
}

function Dot({ place, at }: { readonly place: Place; readonly at: Showing }) {
  const [left, top] = mapped(at.map, place[0], place[1])
  return (
    <Box
      style={{ left: left - 7, top: top - 7 }}
      sx={{
        position: 'absolute',
        width: 14,
        height: 14,
        borderRadius: '50%',
        border: 2,
        borderColor: 'primary.main',
        pointerEvents: 'none',
      }}
    />
  )
}
