import { useTheme } from '@mui/material'
import {
  type BridgedNode,
  type JobDocument,
  nearestOn,
  pathFromRing,
  piecesOf,
  placeOf,
  placeOn,
  type Ring,
  withNode,
} from '@neotaxis/core'
import { type KeyboardEvent, type PointerEvent, useMemo, useRef } from 'react'
import type { StageView } from '../stage/stage-view.ts'
import { useChange, useEdit } from '../use-edit.ts'

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly node: BridgedNode
  /** Outlines before the bridges, job mm. */
  readonly rings: readonly Ring[]
  readonly view: StageView
}

/** Bridges as handles on the edges they hold: dragged along the edge, moved by arrows, taken away by Delete. */
export function BridgeHandles({ job, id, node, rings, view }: Props) {
  const { palette } = useTheme()
  const { show, finish } = useChange()
  const edit = useEdit()
  const place = placeOf(job, id)
  const paths = useMemo(() => rings.map(pathFromRing), [rings])
  const held = useRef<string>(undefined)
  const moved = (bridge: string, xMm: number, yMm: number) => (base: JobDocument) => {
    const found = nearestOn(paths, xMm, yMm)
    const now = base.nodes[id]
    if (!found || now.kind !== 'bridged') return base
    const [x, y] = placeOn(piecesOf(paths[found.path])[found.piece], found.t)
    const at = { x: (x - place.xMm) / place.widthMm, y: (y - place.yMm) / place.heightMm }
    return withNode(base, id, { bridges: { ...now.bridges, [bridge]: { ...now.bridges[bridge], ...at } } })
  }
  const remove = (bridge: string): void =>
    edit('take a bridge away', (base) => {
      const now = base.nodes[id]
      if (now.kind !== 'bridged') return base
      const { [bridge]: _, ...bridges } = now.bridges
      return withNode(base, id, { bridges })
    })
  const mm = (event: PointerEvent<SVGElement>): readonly [number, number] => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
    return [view.x + (event.clientX - box.left) / view.scale, view.y + (event.clientY - box.top) / view.scale]
  }
  const keys = (bridge: string, x: number, y: number) => (event: KeyboardEvent) => {
    const by = event.shiftKey ? 5 : 1
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key]
    if (way) edit('move a bridge', moved(bridge, x + way[0], y + way[1]))
    else if (event.key === 'Delete' || event.key === 'Backspace') remove(bridge)
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of handles over a drawing
    <svg
      width="100%"
      height="100%"
      role="group"
      aria-label="Bridges"
      style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
    >
      {Object.entries(node.bridges).map(([bridge, { x, y, widthMm }], i) => {
        const xMm = place.xMm + x * place.widthMm
        const yMm = place.yMm + y * place.heightMm
        return (
          // biome-ignore lint/a11y/useSemanticElements: a handle on a drawing
          <circle
            key={bridge}
            role="button"
            tabIndex={0}
            aria-label={`Bridge ${i + 1}: arrows move it, Delete takes it away`}
            data-testid={`bridge-${bridge}`}
            cx={(xMm - view.x) * view.scale}
            cy={(yMm - view.y) * view.scale}
            r={Math.max(7, (widthMm / 2) * view.scale)}
            fill={palette.background.paper}
            fillOpacity={0.75}
            stroke={palette.primary.main}
            strokeWidth={2}
            style={{ pointerEvents: 'auto', cursor: 'grab' }}
            onKeyDown={keys(bridge, xMm, yMm)}
            onPointerDown={(event) => {
              event.stopPropagation()
              event.currentTarget.setPointerCapture(event.pointerId)
              held.current = bridge
            }}
            onPointerMove={(event) => {
              if (held.current === bridge) show(moved(bridge, ...mm(event)))
            }}
            onPointerUp={() => {
              if (held.current) finish('move a bridge')
              held.current = undefined
            }}
            onPointerCancel={() => {
              held.current = undefined
            }}
          />
        )
      })}
    </svg>
  )
}
