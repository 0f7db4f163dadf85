import { Box } from '@mui/material'
import type { DoseWindow } from '@neotaxis/core'

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
    <Box sx={{ mt: 1.6 }} role="img" aria-label={`Dose ${dose.toFixed(2)} ${unit}: ${state}`}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', mb: 0.8 }}>
        <span>Dose</span>
        <b data-testid="dose">
          {dose.toFixed(2)} {unit}
        </b>
      </Box>
      <Box sx={{ position: 'relative', height: 10, borderRadius: 5, bgcolor: 'divider' }}>
        <Box
          sx={{
            position: 'absolute',
            left: at(window.from),
            width: `calc(${at(window.to)} - ${at(window.from)})`,
            top: 0,
            bottom: 0,
            borderRadius: 5,
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
            borderRadius: 2,
            bgcolor: 'text.primary',
          }}
        />
      </Box>
      <Box sx={{ position: 'relative', height: 18, color: 'text.secondary', fontSize: 12, mt: 0.4 }}>
        <span>{below}</span>
        <Box component="span" sx={{ position: 'absolute', left: '46%', transform: 'translateX(-50%)' }}>
          {within}
        </Box>
        <Box component="span" sx={{ position: 'absolute', right: 0 }}>
          {above}
        </Box>
      </Box>
    </Box>
  )
}
