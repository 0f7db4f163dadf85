import { useTheme } from '@mui/material'
import { type Bounds, boxBetween, type JobDocument, mapped } from '@neotaxis/core'
import { useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Tool } from '../../stage/tool.ts'

/** The smallest box that is meant, mm. */
const LEAST_MM = 0.5

/** The box that a run is limited to: shown, and drawn by hand where somebody wants it. */
export function useRunZone(job: JobDocument, zone: Bounds | undefined, onZone: ((zone: Bounds) => void) | undefined): Tool {
  const [drawn, setDrawn] = useState<Bounds>()
  const space = faceSpace(job)
  const shown = drawn ?? zone
  return {
    name: 'zone of the run',
    space,
    ...(onZone && {
      cursor: 'crosshair',
      press: (from) => ({
        move: (spot) => setDrawn(boxBetween(from, spot)),
        end: (spot, moved) => {
          setDrawn(undefined)
          const box = boxBetween(from, spot)
          if (moved && box.x1 - box.x0 > LEAST_MM && box.y1 - box.y0 > LEAST_MM) onZone(rounded(box))
        },
        cancel: () => setDrawn(undefined),
      }),
    }),
    over: (at) => shown && <Zone box={shown} at={at} />,
  }
}

const rounded = ({ x0, y0, x1, y1 }: Bounds): Bounds => {
  const tenth = (mm: number): number => Math.round(10 * mm) / 10
  return { x0: tenth(x0), y0: tenth(y0), x1: tenth(x1), y1: tenth(y1) }
}

function Zone({ box, at }: { readonly box: Bounds; readonly at: Showing }) {
  const { palette } = useTheme()
  const corners = [
    [box.x0, box.y0],
    [box.x1, box.y0],
    [box.x1, box.y1],
    [box.x0, box.y1],
  ].map(([x, y]) => mapped(at.map, x, y).join(','))
  return (
    <Overlay>
      <polygon
        points={corners.join(' ')}
        fill={palette.primary.main}
        fillOpacity={0.1}
        stroke={palette.shop.halo}
        strokeWidth={4}
      />
      <polygon points={corners.join(' ')} fill="none" stroke={palette.primary.main} strokeWidth={2} data-testid="run-zone" />
    </Overlay>
  )
}
