import { Button } from '@mui/material'
import { type JobDocument, RANGES, withPiece } from '@neotaxis/core'
import { useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEdit } from '../use-edit.ts'
import { useDoing } from './use-doing.ts'

interface Props {
  readonly job: JobDocument
  readonly canMove: boolean
}

/** The head touches the piece: as thick as it is there, the job has it from then on, and the focus goes by it. */
export function ProbeThickness({ job, canMove }: Props) {
  const doing = useDoing()
  const edit = useEdit()
  const jobId = useSelector((state) => state.job.id)
  const [told, setTold] = useState<string>()
  const probe = (): void =>
    void doing(async () => {
      if (jobId === null) return
      const { thicknessMm } = await machineOrders.probe(job.machine.id, jobId)
      if (thicknessMm < RANGES.thicknessMm.min) {
        setTold('The probe touched the bed: bring the head over the piece, and try again.')
        return
      }
      setTold(`It is ${thicknessMm.toFixed(2)} mm thick there.`)
      edit('thickness as it was probed', (base) => withPiece(base, { thicknessMm: Number(thicknessMm.toFixed(2)) }))
    })
  return (
    <>
      <Button fullWidth size="small" disabled={!canMove} onClick={probe} data-testid="probe">
        Touch the piece: how thick is it?
      </Button>
      {told && (
        <Quiet role="status" data-testid="probed">
          {told}
        </Quiet>
      )}
    </>
  )
}
