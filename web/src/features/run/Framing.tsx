import { Box, Button, Slider, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material'
import type { FrameWish } from '@neotaxis/contract'
import { useState } from 'react'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { SpeedField } from '../field/quantities.tsx'

export type FrameHow = Pick<FrameWish, 'shape' | 'speedMmS' | 'power' | 'loop'>

export const FRAME_START: FrameHow = { shape: 'bounds', speedMmS: 80, power: 0, loop: false }

interface Props {
  readonly how: FrameHow
  /** What turns is framed no faster. */
  readonly mostMmS?: number | undefined
  readonly onHow: (how: FrameHow) => void
  readonly pulsing: boolean
  readonly disabled: boolean
  readonly onPulse: (power: number) => void
}

/** How the head goes around what will be burned, and a weak beam to find the focus by. */
export function Framing({ how, mostMmS, onHow, pulsing, disabled, onPulse }: Props) {
  const [pulse, setPulse] = useState(0.04)
  return (
    <Column as="section" aria-label="Framing and focus">
      <Typography variant="h3">Frame goes around</Typography>
      <ToggleButtonGroup
        exclusive
        value={how.shape}
        onChange={(_, shape) => shape && onHow({ ...how, shape })}
        aria-label="What the frame follows"
        size="large"
      >
        <ToggleButton value="bounds">box</ToggleButton>
        <ToggleButton value="hull">hull</ToggleButton>
        <ToggleButton value="outline">outline</ToggleButton>
      </ToggleButtonGroup>
      <ToggleButtonGroup
        exclusive
        value={how.loop}
        onChange={(_, loop) => loop !== null && onHow({ ...how, loop })}
        aria-label="How often"
        size="large"
      >
        <ToggleButton value={true}>again and again</ToggleButton>
        <ToggleButton value={false}>once</ToggleButton>
      </ToggleButtonGroup>
      <SpeedField
        label="Speed"
        value={how.speedMmS}
        range={{ min: 1, max: mostMmS ?? 600 }}
        onCommit={(speedMmS) => onHow({ ...how, speedMmS })}
      />
      <Row gap="room">
        <Box sx={{ whiteSpace: 'nowrap', width: 112 }}>
          {how.power === 0 ? 'dark' : `beam ${Number((how.power * 100).toFixed(1))} %`}
        </Box>
        <Slider
          size="small"
          aria-label="Beam while framing"
          value={how.power * 100}
          min={0}
          max={10}
          step={0.5}
          onChange={(_, value) => onHow({ ...how, power: (value as number) / 100 })}
        />
      </Row>
      <Row gap="room">
        <Button
          variant={pulsing ? 'contained' : 'outlined'}
          disabled={disabled && !pulsing}
          onClick={() => onPulse(pulse)}
          sx={{ width: 112, px: 0.5 }}
          size="large"
          data-testid="pulse"
        >
          {pulsing ? 'Stop pulses' : `Pulse ${Number((pulse * 100).toFixed(1))} %`}
        </Button>
        <Slider
          size="small"
          aria-label="Beam of a focus pulse"
          value={pulse * 100}
          min={0.5}
          max={10}
          step={0.5}
          onChange={(_, value) => setPulse((value as number) / 100)}
        />
      </Row>
    </Column>
  )
}
