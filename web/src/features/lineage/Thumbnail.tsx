import { Box, type SxProps, useTheme } from '@mui/material'
import {
  activeSteps,
  type Bounds,
  type JobDocument,
  type LineageNode,
  type MeshNode,
  materialOf,
  type PictureNode,
  type Ring,
  ringLength,
} from '@neotaxis/core'
import { useEffect, useLayoutEffect, useRef } from 'react'
import { EDGE } from '../../theme/tokens.ts'
import { seenRings } from '../../workers/seen-rings.ts'
import { useSmallHeights } from '../picture/use-bench-picture.ts'
import { smallView } from './small-view.ts'

const SIDE = 38
/** Lines are so wide, px; where they would cover more than this share of the room they are thinner, down to this share. */
const LINE = 1.2
const MOST_INK = 0.4
const THINNEST = 0.3
/** A small picture is drawn at the latest after this. */
const LATEST_MS = 600

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly node: LineageNode
  readonly rings?: readonly Ring[]
  readonly box?: Bounds
}

const inverted = (node: PictureNode): boolean => activeSteps(node).filter(({ kind }) => kind === 'invert').length % 2 === 1

/** A piece of artwork in small: pictures as they are, outlines as lines. */
export function Thumbnail({ job, id, node, rings, box }: Props) {
  const { palette } = useTheme()
  const canvas = useRef<HTMLCanvasElement>(null)
  const filled = node.kind === 'picture'
  // Drawn when there is time: many outlines must not hold a drag up.
  useEffect(() => {
    const element = canvas.current
    if (!element || !rings || !box) return
    const draw = (): void => drawSmall(element, rings, box, filled)
    // Not every browser tells when it is idle.
    if (!('requestIdleCallback' in window)) {
      const timer = setTimeout(draw, LATEST_MS / 4)
      return () => clearTimeout(timer)
    }
    const asked = requestIdleCallback(draw, { timeout: LATEST_MS })
    return () => cancelIdleCallback(asked)
  }, [rings, box, filled])
  const look = {
    width: SIDE,
    height: SIDE,
    flex: 'none',
    borderRadius: `${EDGE.small}px`,
    bgcolor: `rgb(${materialOf(job).look.surface.join(' ')})`,
    overflow: 'hidden',
    border: `1px solid ${palette.shop.line}`,
  } as const
  if (node.kind === 'mesh') {
    const child = Object.keys(job.nodes).find((key) => {
      const each = job.nodes[key]
      return each.kind === 'picture' && each.from === id
    })
    return child ? <Heights job={job} id={child} root={node} look={look} /> : <Box sx={look} />
  }
  if ((node.kind === 'source' || node.kind === 'picture') && !rings) {
    const source = node.kind === 'source' ? node : job.nodes[node.from]
    if (source.kind === 'mesh') return <Heights job={job} id={id} root={source} look={look} />
    if (source.kind !== 'source') return <Box sx={look} />
    const { asset } = source
    return (
      <Box sx={look}>
        <Box
          component="img"
          src={`/api/assets/${asset}`}
          alt=""
          sx={{
            width: '100%',
            height: '100%',
            objectFit: 'contain',
            mixBlendMode: node.kind === 'picture' ? 'multiply' : undefined,
            filter: node.kind === 'picture' ? `grayscale(1)${inverted(node) ? ' invert(1)' : ''}` : undefined,
          }}
        />
      </Box>
    )
  }
  return (
    <Box sx={look}>
      <canvas ref={canvas} style={{ width: '100%', height: '100%' }} />
    </Box>
  )
}

/** The heights of a mesh as greys. @param id a picture made from it */
function Heights({
  job,
  id,
  root,
  look,
}: {
  readonly job: JobDocument
  readonly id: string
  readonly root: MeshNode
  readonly look: SxProps
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const bitmap = useSmallHeights(job, id, root, 2 * SIDE)
  useLayoutEffect(() => {
    if (canvas.current && bitmap) canvas.current.getContext('2d')!.drawImage(bitmap, 0, 0)
  }, [bitmap])
  return (
    <Box sx={look}>
      <canvas
        ref={canvas}
        width={bitmap?.width ?? 1}
        height={bitmap?.height ?? 1}
        style={{ width: '100%', height: '100%', objectFit: 'contain' }}
      />
    </Box>
  )
}

/** Outlines as large as they fit: lines, or the area within them. */
function drawSmall(element: HTMLCanvasElement, rings: readonly Ring[], box: Bounds, filled: boolean): void {
  const ratio = window.devicePixelRatio || 1
  element.width = SIDE * ratio
  element.height = SIDE * ratio
  const context = element.getContext('2d')!
  const room = (SIDE - 6) * ratio
  // In px of the page, then as fine as its screen.
  const view = smallView(rings, box, SIDE - 6)
  const scale = view.scale * ratio
  const middle = (from: number, size: number, corner: number | undefined): number =>
    size * scale > room && corner !== undefined ? 3 * ratio - corner * scale : (SIDE * ratio) / 2 - (from + size / 2) * scale
  context.setTransform(
    scale,
    0,
    0,
    scale,
    middle(box.x0, box.x1 - box.x0, view.from?.[0]),
    middle(box.y0, box.y1 - box.y0, view.from?.[1]),
  )
  const path = new Path2D()
  for (const ring of seenRings(rings, scale)) {
    path.moveTo(ring[0], ring[1])
    for (let i = 2; i < ring.length; i += 2) path.lineTo(ring[i], ring[i + 1])
    // What is open comes back the way that it went.
    path.closePath()
  }
  if (filled) {
    context.fillStyle = '#2a2018'
    context.fill(path, 'evenodd')
    return
  }
  context.strokeStyle = '#2a2018'
  // Many lines close together are drawn thinly: else they are one dark spot.
  const all = rings.reduce((sum, ring) => sum + ringLength(ring), 0)
  const seen = Math.min(1, room / scale / (box.x1 - box.x0)) * Math.min(1, room / scale / (box.y1 - box.y0))
  const ink = (all * seen * scale * LINE * ratio) / room ** 2
  context.lineWidth = ((LINE * ratio) / scale) * Math.min(1, Math.max(THINNEST, MOST_INK / ink))
  context.stroke(path)
}
