import { Box, MenuItem, Popover, TextField, Typography } from '@mui/material'
import { givesLines, type JobDocument, type Material, RANGES, recipeFor, scoreOperation } from '@neotaxis/core'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { useCatalogue } from './use-catalogue.ts'

interface Props {
  readonly job: JobDocument
  readonly anchor: HTMLElement | null
  readonly onClose: () => void
}

/** The job on another material: its snapshot changes, and operations take its recipes. */
export function onMaterial(job: JobDocument, material: Material): JobDocument {
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, op]) => {
      if (op.kind === 'program') return [id, op]
      // Lines that are scored must never become cuts.
      if (op.kind === 'cut' && givesLines(job, op.node)) {
        const { recipe, ...scored } = scoreOperation(op.node, material, job.machine)
        return [id, { ...op, ...scored, recipe }]
      }
      const recipe = recipeFor(material, op.kind, job.machine.id)
      if (!recipe) return [id, { ...op, recipe: undefined }]
      const { power, speedMmS, passes, air } = recipe
      const more =
        op.kind === 'picture' ? { intervalMm: recipe.intervalMm ?? op.intervalMm } : { kerfMm: recipe.kerfMm ?? op.kerfMm }
      return [id, { ...op, ...more, recipe: recipe.id, power, speedMmS, passes, air }]
    }),
  ) as JobDocument['operations']
  return { ...job, material, operations, workpiece: { ...job.workpiece, thicknessMm: material.thicknessMm } }
}

/** Material and size of the workpiece, and where it lies on the bed. */
export function WorkpieceSheet({ job, anchor, onClose }: Props) {
  const edit = useEdit()
  const materials = useCatalogue()?.materials ?? [job.material]
  const { workpiece, onBed } = job
  return (
    <Popover open={anchor !== null} anchorEl={anchor} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      <Box sx={{ p: 2, width: 320 }}>
        <Typography variant="h2" sx={{ mb: 1.5 }}>
          Workpiece
        </Typography>
        <TextField
          select
          fullWidth
          size="small"
          label="Material"
          value={job.material.id}
          onChange={(event) => {
            const material = materials.find(({ id }) => id === event.target.value)
            if (material) edit(`material ${material.name}`, (base) => onMaterial(base, material))
          }}
          sx={{ mb: 1 }}
        >
          {materials.map(({ id, name, thicknessMm }) => (
            <MenuItem key={id} value={id}>
              {name}, {thicknessMm} mm
            </MenuItem>
          ))}
        </TextField>
        <LengthField
          label="Width"
          value={workpiece.widthMm}
          range={RANGES.workpieceMm}
          onCommit={(v) => edit('workpiece width', (base) => ({ ...base, workpiece: { ...base.workpiece, widthMm: v } }))}
        />
        <LengthField
          label="Height"
          value={workpiece.heightMm}
          range={RANGES.workpieceMm}
          onCommit={(v) => edit('workpiece height', (base) => ({ ...base, workpiece: { ...base.workpiece, heightMm: v } }))}
        />
        <LengthField
          label="Thickness"
          value={workpiece.thicknessMm}
          range={RANGES.thicknessMm}
          step={0.1}
          onCommit={(v) => edit('workpiece thickness', (base) => ({ ...base, workpiece: { ...base.workpiece, thicknessMm: v } }))}
        />
        <Typography variant="h3" sx={{ mt: 2 }}>
          Its rear left corner on the bed
        </Typography>
        <LengthField
          label="From the left"
          value={onBed.xMm}
          range={RANGES.positionMm}
          onCommit={(v) => edit('workpiece on the bed', (base) => ({ ...base, onBed: { ...base.onBed, xMm: v } }))}
        />
        <LengthField
          label="From the rear"
          value={onBed.yMm}
          range={RANGES.positionMm}
          onCommit={(v) => edit('workpiece on the bed', (base) => ({ ...base, onBed: { ...base.onBed, yMm: v } }))}
        />
      </Box>
    </Popover>
  )
}
