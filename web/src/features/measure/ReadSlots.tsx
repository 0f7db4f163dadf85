import PhotoIcon from '@mui/icons-material/PhotoCameraOutlined'
import { Button, Tooltip } from '@mui/material'
import { counted, type JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useCameraQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { atHead } from '../camera/bed-photo.ts'
import { useDoing } from '../run/use-doing.ts'
import { slotsOfCard } from './slots-of-card.ts'

interface Props {
  readonly job: JobDocument
  readonly onSlots: (widths: ReadonlyMap<string, number>) => void
}

/** Measures the slots of a card with the camera at the head, where the card lies as it was cut. */
export function ReadSlots({ job, onSlots }: Props) {
  const doing = useDoing()
  const { enqueueSnackbar } = useSnackbar()
  const [busy, setBusy] = useState('')
  const { data: camera } = useKept(useCameraQuery, atHead(job.machine.id))
  const calibration = camera?.calibration
  if (!camera) return null
  const read = () =>
    doing(async () => {
      const { widths, missed } = await slotsOfCard(job, calibration!.camera, (n, of) => setBusy(`Slot ${n} of ${of}`))
      if (widths.size > 0) onSlots(widths)
      enqueueSnackbar(
        missed === 0
          ? `Measured: ${counted(widths.size, 'slot')}.`
          : `Measured: ${counted(widths.size, 'slot')}. Not seen: ${missed}. Leave the card where it was cut, and its parts in it.`,
        { variant: missed === 0 ? 'default' : 'warning' },
      )
    })
  return (
    <Tooltip
      title={
        calibration
          ? 'The card still lies where it was cut, its parts in it: the head goes from cell to cell, dark. Edges charred as dark as the slot are counted with it.'
          : 'Calibrate the camera at the head first, at Machines'
      }
    >
      <span>
        <Button
          variant="outlined"
          startIcon={<PhotoIcon fontSize="small" />}
          disabled={!calibration || busy !== ''}
          onClick={() => {
            setBusy('Measuring…')
            void read().finally(() => setBusy(''))
          }}
          data-testid="read-slots"
        >
          {busy || 'Slots, with the head'}
        </Button>
      </span>
    </Tooltip>
  )
}
