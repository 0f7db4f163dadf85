import { Button, Tooltip } from '@mui/material'
import { cellsOf, chartOf, type JobDocument, mapped, QUANTITY_WORDS, type TrialQuantity, trialOf } from '@neotaxis/core'
import { useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { useDesk } from '../../api/use-live.ts'
import { useDoing } from '../run/use-doing.ts'

interface Props {
  readonly job: JobDocument
  readonly quantity: TrialQuantity
  readonly onRead: (readings: ReadonlyMap<string, number>) => void
}

/** A gauge reads over this side in the middle of a cell, mm. */
const SIDE_MM = 4

/** Of a simulated machine: a gauge in a simulated hand, where a real card is measured at the bench. */
export function ReadGauge({ job, quantity, onRead }: Props) {
  const doing = useDoing()
  const desk = useDesk(job.machine.id)
  const [busy, setBusy] = useState(false)
  if (!desk?.simulated || (quantity !== 'depth' && quantity !== 'tone')) return null
  const read = () =>
    doing(async () => {
      const { toAxes } = chartOf(job)
      const read = new Map<string, number>()
      for (const cell of cellsOf(trialOf(job))) {
        const { xMm, yMm, widthMm, heightMm } = job.placements[job.operations[cell].at?.[0] ?? cell]
        const [x, y] = mapped(toAxes, xMm + widthMm / 2, yMm + heightMm / 2)
        const { value } = await machineOrders.panel(job.machine.id, { do: 'gauge', what: quantity, x, y, side: SIDE_MM })
        if (value !== undefined) read.set(cell, Number(value.toFixed(4)))
      }
      onRead(read)
    })
  return (
    <Tooltip title="The card lies in the simulated machine: its gauge tells what a real one would at the bench">
      <span>
        <Button
          variant="outlined"
          color="secondary"
          disabled={busy}
          onClick={() => {
            setBusy(true)
            void read().finally(() => setBusy(false))
          }}
          data-testid="read-gauge"
        >
          {busy ? 'Measuring…' : `Simulated ${QUANTITY_WORDS[quantity].name} gauge`}
        </Button>
      </span>
    </Tooltip>
  )
}
