import { useTheme } from '@mui/material'
import { outlineOfFace, outlineSize, type PieceOutline, poseMap, type Rgb, type StockPiece } from '@neotaxis/core'
import type { ReactNode } from 'react'

interface Props {
  readonly piece: Pick<StockPiece, 'outline' | 'keepOuts' | 'grainDeg'>
  /** As high and wide as it may be, CSS px. */
  readonly px: number
  /** How its surface looks. */
  readonly look?: { readonly surface: Rgb; readonly grain: Rgb }
  /** A line of 100 mm beside it, so that pieces can be told apart by their size. */
  readonly scaled?: boolean
  /** Drawn on it, in its own mm. */
  readonly children?: ReactNode
}

const rgb = ([r, g, b]: Rgb): string => `rgb(${r} ${g} ${b})`

/** An outline as SVG path data, mm. */
export const outlineData = (outline: PieceOutline): string =>
  outlineOfFace(outline)
    .map((ring) => {
      let d = ''
      for (let i = 0; i < ring.length; i += 2) d += `${i ? 'L' : 'M'}${ring[i].toFixed(2)} ${ring[i + 1].toFixed(2)}`
      return `${d}Z`
    })
    .join('')

/** A piece as it lies on the shelf: its true outline, what may not be burned on it, its grain. */
export function PieceShape({ piece, px, look, scaled, children }: Props) {
  const { palette } = useTheme()
  const { widthMm, heightMm } = outlineSize(piece.outline)
  const scale = px / Math.max(widthMm, heightMm)
  const edge = 1.2 / scale
  // The longest of 10, 50 and 100 mm that has room, with its name beside it.
  const barMm = [100, 50, 10].find((mm) => mm <= widthMm * 0.62) ?? 5
  const { grainDeg } = piece
  const long = Math.hypot(widthMm, heightMm)
  const id = `grain-${grainDeg}-${Math.round(scale * 1000)}`
  return (
    <svg
      width={widthMm * scale + 2}
      height={heightMm * scale + (scaled ? 16 : 2)}
      viewBox={`${-1 / scale} ${-1 / scale} ${widthMm + 2 / scale} ${heightMm + (scaled ? 16 : 2) / scale}`}
      aria-hidden="true"
    >
      {grainDeg !== undefined && look && (
        <defs>
          <pattern id={id} width={long} height={7 / scale} patternUnits="userSpaceOnUse" patternTransform={`rotate(${grainDeg})`}>
            <rect width={long} height={1 / scale} fill={rgb(look.grain)} />
          </pattern>
        </defs>
      )}
      <path
        d={outlineData(piece.outline)}
        fill={look ? rgb(look.surface) : palette.shop.sheet}
        fillRule="evenodd"
        stroke={palette.text.secondary}
        strokeWidth={edge}
      />
      {grainDeg !== undefined && look && (
        <path d={outlineData(piece.outline)} fill={`url(#${id})`} fillRule="evenodd" opacity={0.8} />
      )}
      {Object.entries(piece.keepOuts).map(([key, { outline, pose }]) => (
        <path
          key={key}
          d={outlineData(outline)}
          transform={`matrix(${poseMap(pose, outlineSize(outline)).join(' ')})`}
          fill="none"
          stroke={palette.shop.ask}
          strokeWidth={edge}
          strokeDasharray={`${4 / scale} ${3 / scale}`}
        />
      ))}
      {children}
      {scaled && (
        <>
          <path d={`M0 ${heightMm + 7 / scale}h${barMm}`} stroke={palette.text.primary} strokeWidth={2 / scale} />
          <text x={barMm + 4 / scale} y={heightMm + 11 / scale} fontSize={10 / scale} fill={palette.text.secondary}>
            {barMm} mm
          </text>
        </>
      )}
    </svg>
  )
}
