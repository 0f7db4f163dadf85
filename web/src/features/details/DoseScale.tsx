import { Box } from '@mui/material'
import type { DoseWindow } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Words } from '../../parts/words.tsx'
import { EDGE, TYPE } from '../../theme/tokens.ts'

interface Props {
  readonly dose: number
  readonly unit: string
  readonly window: DoseWindow
  readonly below: string
  readonly within: string
  readonly above: string
}

/** Where the dose stands against the material's window. */
export function DoseScale({ dose, unit, window, below, within, above }: Props) {
  const top = window.to * 1.6
  const at = (v: number): string => `${Math.min(100, Math.max(0, (100 * v) / top))}%`
  const state = dose < window.from ? below : dose > window.to ? above : within
  return (
    <Words top="room" role="img" aria-label={`Dose ${dose.toFixed(2)} ${unit}: ${state}`}>
      <Row align="stretch" gap="none" pack="space-between" bottom="snug">
        <span>Dose</span>
        <b data-testid="dose">
          {dose.toFixed(2)} {unit}
        </b>
      </Row>
      <Box sx={{ position: 'relative', height: 10, borderRadius: `${EDGE.pill}px`, bgcolor: 'divider' }}>
        <Box
          sx={{
            position: 'absolute',
            left: at(window.from),
            width: `calc(${at(window.to)} - ${at(window.from)})`,
            top: 0,
            bottom: 0,
            borderRadius: `${EDGE.pill}px`,
            bgcolor: 'primary.main',
            opacity: 0.42,
          }}
        />
        <Box
          sx={{
            position: 'absolute',
            left: `calc(${at(dose)} - 2px)`,
            top: -4,
            bottom: -4,
            width: 4,
            borderRadius: `${EDGE.card}px`,
            bgcolor: 'text.primary',
          }}
        />
      </Box>
      <Box sx={{ position: 'relative', height: 18, color: 'text.secondary', fontSize: TYPE.tiny, mt: 0.4 }}>
        <span>{below}</span>
        <Box component="span" sx={{ position: 'absolute', left: '46%', transform: 'translateX(-50%)' }}>
          {within}
        </Box>
        <Box component="span" sx={{ position: 'absolute', right: 0 }}>
          {above}
        </Box>
      </Box>
    </Words>
  )
}
