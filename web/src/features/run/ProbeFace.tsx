import { Button } from '@mui/material'
import {
  chartOf,
  faceSize,
  type Heights,
  heightsOf,
  type JobDocument,
  mainPiece,
  mapped,
  placesToProbe,
  RANGES,
  withHeights,
  withPiece,
} from '@neotaxis/core'
import { useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEdit } from '../use-edit.ts'
import { useDoing } from './use-doing.ts'

interface Props {
  readonly job: JobDocument
  readonly heights: Heights
  readonly canMove: boolean
}

/** The outermost places are probed so far inside the piece, mm. */
const INSET_MM = 3
const GO_MM_S = 100

/** The head touches an uneven face at the places of its grid, one after the other; Stop ends it, and nothing is changed. */
export function ProbeFace({ job, heights: { columns, rows }, canMove }: Props) {
  const doing = useDoing()
  const edit = useEdit()
  const jobId = useSelector((state) => state.job.id)
  const [told, setTold] = useState<string>()
  const machine = job.machine.id
  const probe = (): void =>
    void doing(async () => {
      if (jobId === null) return
      const piece = mainPiece(job)
      const { toAxes } = chartOf(job)
      const touched: (number | undefined)[] = Array.from({ length: columns * rows }, () => undefined)
      const places = placesToProbe(columns, rows, faceSize(piece), INSET_MM)
      for (const [i, { index, xMm, yMm }] of places.entries()) {
        setTold(`${i + 1} of ${places.length} places…`)
        const [x, y] = mapped(toAxes, xMm, yMm)
        await machineOrders.go(machine, { x, y, speedMmS: GO_MM_S })
        const { thicknessMm } = await machineOrders.probe(machine, jobId)
        touched[index] = thicknessMm < RANGES.thicknessMm.min ? undefined : thicknessMm
      }
      const found = heightsOf(columns, rows, touched)
      const low = found.heights.mm.reduce((a, b) => Math.min(a, b), 0)
      setTold(`Its highest place is ${found.thicknessMm.toFixed(2)} mm thick, its lowest lies ${(-low).toFixed(2)} mm under it.`)
      edit('a face as it was probed', (base) => withPiece(withHeights(base, found.heights), { thicknessMm: found.thicknessMm }))
    })
  return (
    <>
      <Button fullWidth size="small" disabled={!canMove} onClick={probe} data-testid="probe-face">
        Probe its face at {columns * rows} places
      </Button>
      {told && (
        <Quiet role="status" data-testid="face-probed">
          {told}
        </Quiet>
      )}
    </>
  )
}
