import { Box, useTheme } from '@mui/material'
import { type CurveStep, curveGrade } from '@neotaxis/core'
import { useRef } from 'react'
import { EDGE } from '../../theme/tokens.ts'
import { hold, pointIn } from './pointer.ts'

const SIDE = 220
const PAD = 10

interface Props {
  readonly step: CurveStep
  readonly onChange: (points: readonly number[]) => void
  readonly onDone: (name: string) => void
}

/** A free tone curve: dark in the lower left. A click adds a point, a drag moves it, Delete takes it away. */
export function CurveEditor({ step, onChange, onDone }: Props) {
  const { palette } = useTheme()
  const held = useRef(-1)
  const { points } = step
  const n = points.length / 2
  const x = (v: number): number => PAD + v * (SIDE - 2 * PAD)
  const y = (v: number): number => SIDE - PAD - v * (SIDE - 2 * PAD)
  const grade = curveGrade(step)
  const line = Array.from(
    { length: 65 },
    (_, i) => `${i ? 'L' : 'M'}${x(i / 64).toFixed(1)} ${y(grade(i / 64)).toFixed(1)}`,
  ).join('')
  const clamp = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000
  const put = (k: number, px: number, py: number): void => {
    const low = k > 0 ? points[2 * k - 2] + 0.01 : 0
    const high = k < n - 1 ? points[2 * k + 2] - 0.01 : 1
    const next = [...points]
    next[2 * k] = Math.min(high, Math.max(low, clamp(px)))
    next[2 * k + 1] = clamp(py)
    onChange(next)
  }
  const without = (k: number): void => {
    if (n <= 2) return
    onChange(points.filter((_, i) => i >> 1 !== k))
    onDone('curve: a point less')
  }
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${SIDE} ${SIDE}`}
      role="group"
      aria-label="Tone curve"
      sx={{
        width: '100%',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: `${EDGE.small}px`,
        touchAction: 'none',
      }}
    >
      <path d={`M${x(0)} ${y(0)}L${x(1)} ${y(1)}`} stroke={palette.divider} strokeDasharray="4 4" />
      <rect
        width={SIDE}
        height={SIDE}
        fill="transparent"
        style={{ cursor: 'copy' }}
        onPointerDown={(event) => {
          const scale = SIDE / event.currentTarget.ownerSVGElement!.getBoundingClientRect().width
          const [px, py] = pointIn(event)
          const vx = clamp((px * scale - PAD) / (SIDE - 2 * PAD))
          if (n >= 32) return
          const at = points.findIndex((v, i) => i % 2 === 0 && v > vx)
          const k = at < 0 ? n : at / 2
          const vy = clamp((SIDE - PAD - py * scale) / (SIDE - 2 * PAD))
          if (points.some((v, i) => i % 2 === 0 && Math.abs(v - vx) < 0.01)) return
          onChange([...points.slice(0, 2 * k), vx, vy, ...points.slice(2 * k)])
          onDone('curve: a point more')
        }}
      />
      <path d={line} fill="none" stroke={palette.primary.main} strokeWidth={2} pointerEvents="none" />
      {Array.from({ length: n }, (_, k) => (
        <circle
          role="slider"
          // biome-ignore lint/suspicious/noArrayIndexKey: points have no other name
          key={k}
          tabIndex={0}
          aria-label={`Point ${k + 1}: arrows move it, Delete takes it away`}
          aria-valuenow={Math.round(points[2 * k + 1] * 100)}
          cx={x(points[2 * k])}
          cy={y(points[2 * k + 1])}
          r={7}
          fill={palette.shop.raised}
          stroke={palette.primary.main}
          strokeWidth={2.5}
          style={{ cursor: 'grab' }}
          onPointerDown={(event) => {
            hold(event)
            held.current = k
          }}
          onPointerMove={(event) => {
            if (held.current !== k) return
            const scale = SIDE / event.currentTarget.ownerSVGElement!.getBoundingClientRect().width
            const [px, py] = pointIn(event)
            put(k, (px * scale - PAD) / (SIDE - 2 * PAD), (SIDE - PAD - py * scale) / (SIDE - 2 * PAD))
          }}
          onPointerUp={() => {
            if (held.current === k) onDone('tone curve')
            held.current = -1
          }}
          onDoubleClick={() => without(k)}
          onKeyDown={(event) => {
            if (event.key === 'Delete' || event.key === 'Backspace') return without(k)
            const dx = event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0
            const dy = event.key === 'ArrowDown' ? -0.01 : event.key === 'ArrowUp' ? 0.01 : 0
            if (dx === 0 && dy === 0) return
            event.preventDefault()
            put(k, points[2 * k] + dx, points[2 * k + 1] + dy)
            onDone('tone curve')
          }}
        />
      ))}
    </Box>
  )
}
