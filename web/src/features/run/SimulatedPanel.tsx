import { Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material'
import type { DeskLive, PanelWish } from '@neotaxis/contract'
import { RANGES } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { LengthField } from '../field/quantities.tsx'
import { useDoing } from './use-doing.ts'

interface Props {
  readonly desk: DeskLive
  /** Its lens is set by hand, mm over the bed: where a job wants it first. Absent where the machine moves it. */
  readonly lens?: number | undefined
}

/** The outside of a simulated machine, which a real one has in reach of a hand: button, lid, emergency stop, and its clock. */
export function SimulatedPanel({ desk, lens }: Props) {
  const doing = useDoing()
  const [times, setTimes] = useState(1)
  const [height, setHeight] = useState(lens ?? 0)
  const at = (request: PanelWish): void => void doing(() => machineOrders.panel(desk.machine, request))
  useEffect(() => {
    machineOrders
      .panel(desk.machine, { do: 'state' })
      .then((state) => setTimes(state.times))
      .catch(() => {})
  }, [desk.machine])
  const lid = desk.report?.lidOpen ?? false
  const emergency = desk.report?.state === 'emergency'
  return (
    <Column as="section" aria-label="At the simulated machine">
      <Typography variant="h3">At the machine (simulated)</Typography>
      <Row align="stretch">
        <Button size="large" variant="outlined" fullWidth onClick={() => at({ do: 'press' })} data-testid="panel-press">
          Press start
        </Button>
        <Button size="large" variant="outlined" fullWidth onClick={() => at({ do: 'lid', open: !lid })} data-testid="panel-lid">
          {lid ? 'Close lid' : 'Open lid'}
        </Button>
        <Button
          size="large"
          fullWidth
          variant="outlined"
          color="error"
          onClick={() => at({ do: 'emergency', pressed: !emergency })}
        >
          {emergency ? 'Release' : 'Emergency'}
        </Button>
      </Row>
      {lens !== undefined && (
        <Row>
          <LengthField label="Lens at" value={height} range={{ ...RANGES.thicknessMm, min: 0 }} onCommit={setHeight} />
          <Button variant="outlined" onClick={() => at({ do: 'focus', mm: height })} data-testid="panel-lens">
            Set
          </Button>
        </Row>
      )}
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={times}
        onChange={(_, value) => {
          if (!value) return
          setTimes(value)
          at({ do: 'pace', times: value })
        }}
        aria-label="How fast its time passes"
      >
        {[1, 10, 60].map((value) => (
          <ToggleButton key={value} value={value}>
            {value} × time
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Column>
  )
}
