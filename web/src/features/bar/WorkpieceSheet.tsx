import { Popover } from '@mui/material'
import { faceSize, type JobDocument, mainPiece, materialOf, onMaterial, type Pose, RANGES, withPiece } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Sheet } from '../../parts/Sheet.tsx'
import { Title } from '../../parts/Title.tsx'
import { MaterialField } from '../field/MaterialField.tsx'
import { DegreesField, LengthField } from '../field/quantities.tsx'
import { StockFields } from '../stock/StockFields.tsx'
import { useEdit } from '../use-edit.ts'
import { toldOfChange } from './changed-settings.ts'
import { FreeFields } from './FreeFields.tsx'
import { JigFields } from './JigFields.tsx'
import { PieceList } from './PieceList.tsx'
import { ShapeFields } from './ShapeFields.tsx'
import { useCatalogue } from './use-catalogue.ts'

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly anchor: HTMLElement | null
  readonly onClose: () => void
}

/** Material and shape of the workpiece, and how it lies on the bed. */
export function WorkpieceSheet({ job, id, anchor, onClose }: Props) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const material = materialOf(job)
  const materials = useCatalogue()?.materials ?? [material]
  const piece = mainPiece(job)
  const { pose } = piece
  const { widthMm, heightMm } = faceSize(piece)
  const lay = (name: string, change: Partial<Pose>): void =>
    edit(name, (base) => withPiece(base, { pose: { ...mainPiece(base).pose, ...change } }))
  return (
    <Popover open={anchor !== null} anchorEl={anchor} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      <Sheet width={340}>
        <Title variant="h2" bottom="room">
          Workpiece
        </Title>
        <PieceList job={job} />
        <StockFields job={job} />
        <MaterialField
          materials={materials}
          value={material.id}
          onChoose={(chosen) => {
            if (chosen.id === material.id) return
            const told = toldOfChange(job, onMaterial(job, chosen), chosen.name)
            edit(`material ${chosen.name}`, (base) => onMaterial(base, chosen))
            for (const each of told) enqueueSnackbar(each, { autoHideDuration: 12_000 })
          }}
        />
        <ShapeFields job={job} onDraw={onClose} />
        <LengthField
          label="Thickness"
          value={piece.thicknessMm}
          range={RANGES.thicknessMm}
          step={0.1}
          onCommit={(v) => edit('workpiece thickness', (base) => withPiece(base, { thicknessMm: v }))}
        />
        <Title variant="h3" top="wide">
          {pose.deg
            ? `Its box of ${Number(widthMm.toFixed(1))} × ${Number(heightMm.toFixed(1))} mm on the bed, before it is turned`
            : 'Its rear left corner on the bed'}
        </Title>
        <LengthField
          label="From the left"
          value={pose.xMm}
          range={RANGES.positionMm}
          onCommit={(v) => lay('workpiece on the bed', { xMm: v })}
        />
        <LengthField
          label="From the rear"
          value={pose.yMm}
          range={RANGES.positionMm}
          onCommit={(v) => lay('workpiece on the bed', { yMm: v })}
        />
        <DegreesField
          label="Lies turned"
          value={pose.deg ?? 0}
          range={RANGES.degrees}
          hint="How it lies on the bed, clockwise about its middle. What is on it turns along."
          onCommit={(v) => lay('workpiece turned on the bed', { deg: v === 0 ? undefined : v })}
        />
        <FreeFields job={job} />
        <JigFields job={job} id={id} />
      </Sheet>
    </Popover>
  )
}
