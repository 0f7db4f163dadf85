import PhotoIcon from '@mui/icons-material/PhotoCameraOutlined'
import { Button, Tooltip } from '@mui/material'
import { cardView, type JobDocument, mainPiece, tonesOfCard, trialOf } from '@neotaxis/core'
import { useState } from 'react'
import { useCameraQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { darkOnBed } from '../../workers/engine.ts'
import { jpegOf } from '../camera/bed-photo.ts'
import { cameraWork } from '../camera/camera-work.ts'
import { useDoing } from '../run/use-doing.ts'

interface Props {
  readonly job: JobDocument
  readonly onTones: (read: ReturnType<typeof tonesOfCard>) => void
}

const PX_PER_MM = 4

/** Reads the tones of the card from a photo of the bed, where it lies as it was burned. */
export function ReadPhoto({ job, onTones }: Props) {
  const doing = useDoing()
  const [busy, setBusy] = useState(false)
  const { data: camera } = useKept(useCameraQuery, job.machine.id)
  const calibration = camera?.calibration
  if (trialOf(job).full === undefined) return null
  const read = () =>
    doing(async () => {
      const jpeg = await jpegOf(job.machine.id)
      const view = cardView(job, PX_PER_MM)
      const dark = await darkOnBed(job, {
        x: view.x,
        y: view.y,
        columns: view.widthPx,
        rows: view.heightPx,
        cellMm: 1 / PX_PER_MM,
      })
      const light = await cameraWork().lightIn(jpeg, calibration!.camera, view, mainPiece(job).thicknessMm)
      onTones(tonesOfCard(job, light, dark, view))
    })
  const why = !camera
    ? `${job.machine.name} has no camera`
    : !calibration
      ? 'Calibrate the camera first, at Machines'
      : 'The card still lies where it was burned: its tones are read from a photo, each against the untouched material around it'
  return (
    <Tooltip title={why}>
      <span>
        <Button
          variant="outlined"
          startIcon={<PhotoIcon fontSize="small" />}
          disabled={!calibration || busy}
          onClick={() => {
            setBusy(true)
            void read().finally(() => setBusy(false))
          }}
          data-testid="read-photo"
        >
          {busy ? 'Reading…' : 'Tones from a photo'}
        </Button>
      </span>
    </Tooltip>
  )
}
