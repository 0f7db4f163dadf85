import { Box } from '@mui/material'
import type { Affine } from '@neotaxis/core'
import { useState } from 'react'
import type { Layer } from '../../stage/layer.ts'
import type { Tool } from '../../stage/tool.ts'

/** The edge is meant from this far, CSS px. */
const NEAR = 14

const within = (share: number): number => Math.min(0.98, Math.max(0.02, share))

/**
 * The edge between two ways to see a picture, moved by hand and by arrows. It goes before other tools: a press on it never paints.
 * @param shown whether there are two ways just now
 * @returns where it stands, share of the stage's width, with what moves it and what shows it
 */
export function useEdge(
  space: Affine,
  shown: boolean,
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
      paint: (context, { size }) => {
        if (!shown) return
        context.fillStyle = colours.raised
        context.fillRect(edge * size.width - 1, 0, 2, size.height)
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
              borderRadius: 1.5,
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
