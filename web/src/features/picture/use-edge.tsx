import { Box } from '@mui/material'
import { type Affine, type Bounds, mapped } from '@neotaxis/core'
import { useState } from 'react'
import type { Layer } from '../../stage/layer.ts'
import type { Tool } from '../../stage/tool.ts'
import { EDGE } from '../../theme/tokens.ts'

/** The edge is meant from this far, CSS px. */
const NEAR = 14
/** It goes so far beyond the picture, CSS px. */
const MORE = 14

const within = (share: number): number => Math.min(0.98, Math.max(0.02, share))

/**
 * The edge between two ways to see a picture, moved by hand and by arrows. It goes before other tools: a press on it never paints.
 * @param shown the picture that is seen in two ways, in the space; undefined where it is not
 * @returns where it stands, share of the stage's width, with what moves it and what shows it
 */
export function useEdge(
  space: Affine,
  shown: Bounds | undefined,
  label: string,
  colours: { readonly raised: string },
): { readonly edge: number; readonly tool: Tool; readonly layer: Layer } {
  const [edge, setEdge] = useState(0.5)
  return {
    edge,
    tool: {
      name: 'edge',
      space,
      press: ({ px }, { size }) => {
        if (!shown || Math.abs(px - edge * size.width) >= NEAR) return undefined
        return { slack: 0, move: (spot) => setEdge(within(spot.px / size.width)) }
      },
    },
    layer: {
      name: 'edge',
      space,
      paint: (context, { map, size }) => {
        if (!shown) return
        const [, top] = mapped(map, shown.x0, shown.y0)
        const [, bottom] = mapped(map, shown.x0, shown.y1)
        context.fillStyle = colours.raised
        context.fillRect(edge * size.width - 1, top - MORE, 2, bottom - top + 2 * MORE)
      },
      over: ({ size }) =>
        shown && (
          <Box
            role="slider"
            tabIndex={0}
            aria-label={label}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(edge * 100)}
            onKeyDown={(event) => {
              const by = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0
              if (by === 0) return
              event.preventDefault()
              setEdge((now) => within(now + by))
            }}
            style={{ left: edge * size.width - 7 }}
            sx={{
              position: 'absolute',
              top: '50%',
              width: 14,
              height: 44,
              mt: '-22px',
              borderRadius: `${EDGE.small}px`,
              bgcolor: 'shop.raised',
              border: 2,
              borderColor: 'primary.main',
              cursor: 'ew-resize',
            }}
          />
        ),
    },
  }
}
