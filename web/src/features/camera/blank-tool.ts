import { edgeNodes, nodeGone, nodeMoved, painted, ringContains, SAME, type SeenBlank, sized } from '@neotaxis/core'
import type { Grip, Hold, Spot, Tool } from '../../stage/tool.ts'
import { type BedPhoto, chooseBlanks, correctBlank, showBlank, showStroke } from './bed-photo.ts'
import { edgesOf } from './photo-layers.ts'

/** Half the width of what is painted, CSS px: nearer to it, it is finer. */
const BRUSH_PX = 9
/** A hand at the keyboard moves a node so far, mm. */
const NUDGE_MM = 0.1

/** What the hand does with blanks that were found: chooses them, moves the nodes of one, paints to it or away. */
export function blankTool(photo: BedPhoto): Tool {
  const { hand, chosen } = photo
  const one = chosen.length === 1 ? chosen[0] : undefined
  if (one !== undefined && hand === 'nodes') return nodeTool(photo, one)
  if (one !== undefined && (hand === 'add' || hand === 'take')) return paintTool(photo, one, hand)
  return chooseTool(photo)
}

function chooseTool({ blanks, chosen }: BedPhoto): Tool {
  return {
    name: 'blanks',
    space: SAME,
    press: ({ x, y }) => {
      const hit = blanks.findIndex((blank) => {
        const rings = edgesOf(blank)
        return rings.filter((ring) => ringContains(ring, x, y)).length % 2 === 1
      })
      if (hit < 0) return undefined
      return {
        end: (_, moved) => {
          if (!moved)
            chooseBlanks(chosen.includes(hit) ? chosen.filter((i) => i !== hit) : [...chosen, hit].sort((a, b) => a - b))
        },
      }
    },
  }
}

/** The edge of a blank node by node: pulled, moved by arrows, taken away. */
function nodeTool({ blanks }: BedPhoto, one: number): Tool {
  const { seen } = blanks[one]
  const edges = [seen.edge, ...seen.holes]
  const withEdge = (k: number, edge: SeenBlank['edge']): SeenBlank =>
    sized(k === 0 ? { ...seen, edge } : { ...seen, holes: seen.holes.map((hole, i) => (i === k - 1 ? edge : hole)) })
  const grips = edges.flatMap((edge, k) =>
    edgeNodes(edge).map((at, node): Grip => {
      const moved = (dx: number, dy: number): SeenBlank => withEdge(k, nodeMoved(edge, node, dx, dy))
      return {
        id: `node ${k} ${node}`,
        at,
        look: 'round',
        radius: 5,
        cursor: 'move',
        label: `Node ${node + 1} of ${k === 0 ? 'the edge' : `hole ${k}`}: arrows move it, Delete takes it away`,
        testId: `blank-node-${k}-${node}`,
        hold: (): Hold => ({
          move: (_, { dx, dy }) => showBlank(one, moved(dx, dy)),
          end: (spot, isMoved) => isMoved && correctBlank(one, moved(spot.x - at[0], spot.y - at[1]), blanks),
          cancel: () => showBlank(one, seen),
        }),
        nudge: (dx, dy, far) => correctBlank(one, moved(dx * (far ? 10 : 1) * NUDGE_MM, dy * (far ? 10 : 1) * NUDGE_MM), blanks),
        remove: () => correctBlank(one, withEdge(k, nodeGone(edge, node)), blanks),
      }
    }),
  )
  return { name: 'nodes of a blank', space: SAME, grips }
}

function paintTool({ blanks }: BedPhoto, one: number, how: 'add' | 'take'): Tool {
  return {
    name: 'paint a blank',
    space: SAME,
    cursor: 'crosshair',
    press: (first: Spot): Hold => {
      const line = [first.x, first.y]
      const halfMm = BRUSH_PX / first.scale
      showStroke({ line: [...line], halfMm })
      return {
        slack: 0,
        move: ({ x, y }) => {
          line.push(x, y)
          showStroke({ line: [...line], halfMm })
        },
        end: () => {
          // A press alone is a dot.
          if (line.length === 2) line.push(line[0] + 1e-3, line[1])
          const made = painted(blanks[one].seen, Float64Array.from(line), halfMm, how)
          if (made) correctBlank(one, made, blanks)
          else showStroke(undefined)
        },
        cancel: () => showStroke(undefined),
      }
    },
  }
}
