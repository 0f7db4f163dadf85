import { type JobDocument, nearestOn, pathFromRing, piecesOf, placeOf, placeOn, type Ring, withNode } from '@neotaxis/core'
import { useMemo } from 'react'
import { faceSpace } from '../../stage/layers/face.ts'
import type { Grip, Tool } from '../../stage/tool.ts'
import { useChange, useEdit } from '../use-edit.ts'

const NONE: readonly Ring[] = []

/**
 * Bridges as handles on the edges they hold: dragged along the edge, moved by arrows, taken away by Delete.
 * @param rings outlines before the bridges, mm of the face
 */
export function useBridgeTool(job: JobDocument, id: string, rings: readonly Ring[] = NONE, scale = 1): Tool | undefined {
  const { show, finish, giveUp } = useChange()
  const edit = useEdit()
  const paths = useMemo(() => rings.map(pathFromRing), [rings])
  const node = job.nodes[id]
  if (node.kind !== 'bridged' || paths.length === 0) return undefined
  const place = placeOf(job, id)
  const movedTo = (bridge: string, xMm: number, yMm: number) => (base: JobDocument) => {
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
  const grips = Object.entries(node.bridges).map(([bridge, { x, y, widthMm }], i): Grip => {
    const [xMm, yMm] = [place.xMm + x * place.widthMm, place.yMm + y * place.heightMm]
    return {
      id: bridge,
      at: [xMm, yMm],
      look: 'ring',
      radius: Math.max(7, (widthMm / 2) * scale),
      cursor: 'grab',
      label: `Bridge ${i + 1}: arrows move it, Delete takes it away`,
      testId: `bridge-${bridge}`,
      hold: () => ({
        slack: 0,
        move: (spot) => show(movedTo(bridge, spot.x, spot.y)),
        end: (_, moved) => moved && finish('move a bridge'),
        cancel: giveUp,
      }),
      nudge: (dx, dy, far) => edit('move a bridge', movedTo(bridge, xMm + dx * (far ? 5 : 1), yMm + dy * (far ? 5 : 1))),
      remove: () => remove(bridge),
    }
  })
  return { name: 'bridges', space: faceSpace(job), grips }
}
