import { useTheme } from '@mui/material'
import { mapped, type SnapLine } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { TYPE } from '../../theme/tokens.ts'

/** What the artwork in hand came to: lines along edges and middles, and gaps that are alike, with how wide they are. */
export function SnapLines({ lines, at }: { readonly lines: readonly SnapLine[]; readonly at: Showing }) {
  const { palette } = useTheme()
  if (lines.length === 0) return null
  return (
    <Overlay>
      <g data-testid="snaps" data-count={lines.length}>
        {lines.map(({ x0, y0, x1, y1, isGap }) => {
          const [[ax, ay], [bx, by]] = [mapped(at.map, x0, y0), mapped(at.map, x1, y1)]
          const key = `${x0} ${y0} ${x1} ${y1}`
          if (!isGap)
            return (
              <g key={key}>
                <line x1={ax} y1={ay} x2={bx} y2={by} stroke={palette.shop.halo} strokeWidth={4} />
                <line x1={ax} y1={ay} x2={bx} y2={by} stroke={palette.shop.ask} strokeWidth={1.8} strokeDasharray="9 4" />
              </g>
            )
          return (
            <g key={key} stroke={palette.shop.ask} strokeWidth={1.6}>
              <line x1={ax} y1={ay} x2={bx} y2={by} />
              <circle cx={ax} cy={ay} r={3} fill={palette.shop.ask} />
              <circle cx={bx} cy={by} r={3} fill={palette.shop.ask} />
              <text
                x={(ax + bx) / 2}
                y={(ay + by) / 2 - 6}
                textAnchor="middle"
                fill={palette.shop.ask}
                stroke={palette.shop.halo}
                strokeWidth={4}
                paintOrder="stroke"
                fontSize={TYPE.small}
              >
                {Math.hypot(x1 - x0, y1 - y0).toFixed(1)}
              </text>
            </g>
          )
        })}
      </g>
    </Overlay>
  )
}
