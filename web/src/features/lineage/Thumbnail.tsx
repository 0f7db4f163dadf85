import { Box, useTheme } from '@mui/material'
import { activeSteps, type Bounds, type JobDocument, type LineageNode, type PictureNode, type Ring } from '@neotaxis/core'
import { useLayoutEffect, useRef } from 'react'
import { outlinePath } from '../stage/outline-paths.ts'

const SIDE = 38

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly node: LineageNode
  readonly rings?: readonly Ring[]
  readonly box?: Bounds
}

const inverted = (node: PictureNode): boolean => activeSteps(node).filter(({ kind }) => kind === 'invert').length % 2 === 1

/** A piece of artwork in small: pictures as they are, outlines as lines. */
export function Thumbnail({ job, node, rings, box }: Props) {
  const { palette } = useTheme()
  const canvas = useRef<HTMLCanvasElement>(null)
  useLayoutEffect(() => {
    const element = canvas.current
    if (!element || !rings || !box) return
    const ratio = window.devicePixelRatio || 1
    element.width = SIDE * ratio
    element.height = SIDE * ratio
    const context = element.getContext('2d')!
    const scale = ((SIDE - 6) / Math.max(box.x1 - box.x0, box.y1 - box.y0, 1e-6)) * ratio
    context.setTransform(
      scale,
      0,
      0,
      scale,
      (SIDE * ratio) / 2 - ((box.x0 + box.x1) / 2) * scale,
      (SIDE * ratio) / 2 - ((box.y0 + box.y1) / 2) * scale,
    )
    context.strokeStyle = '#2a2018'
    context.lineWidth = (1.6 * ratio) / scale
    context.stroke(outlinePath(rings))
  }, [rings, box])
  const look = {
    width: SIDE,
    height: SIDE,
    flex: 'none',
    borderRadius: 1,
    bgcolor: `rgb(${job.material.look.surface.join(' ')})`,
    overflow: 'hidden',
    border: `1px solid ${palette.shop.line}`,
  } as const
  if (node.kind === 'source' || node.kind === 'picture') {
    const source = node.kind === 'source' ? node : job.nodes[node.from]
    // A mesh is no picture that the page could show by itself.
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
