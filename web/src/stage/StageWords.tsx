import { useTheme } from '@mui/material'
import { WEIGHT } from '../theme/tokens.ts'
import type { Showing } from './layer.ts'
import { Overlay } from './Overlay.tsx'

/** A word beside what a hand draws on the stage, readable over anything. CSS px. */
export function StageWord({
  x,
  y,
  text,
  isCentred,
}: {
  readonly x: number
  readonly y: number
  readonly text: string
  readonly isCentred?: boolean
}) {
  const { palette } = useTheme()
  return (
    <text
      x={x}
      y={y}
      {...(isCentred && { textAnchor: 'middle' })}
      fill={palette.primary.main}
      stroke={palette.shop.halo}
      strokeWidth={4}
      paintOrder="stroke"
      fontWeight={WEIGHT.strong}
    >
      {text}
    </text>
  )
}

/** What the tool in hand waits for, in the middle above the stage's tools. */
export function StageHint({ at, text }: { readonly at: Showing; readonly text: string }) {
  return (
    <Overlay>
      <StageWord x={at.size.width / 2} y={at.size.height - 132} text={text} isCentred />
    </Overlay>
  )
}
