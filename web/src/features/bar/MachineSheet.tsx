import { List, ListItemButton, ListItemText, Popover, Typography } from '@mui/material'
import { type JobDocument, onMachine } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Sheet } from '../../parts/Sheet.tsx'
import { useEdit } from '../use-edit.ts'
import { toldOfChange } from './changed-settings.ts'
import { useCatalogue } from './use-catalogue.ts'

interface Props {
  readonly job: JobDocument
  readonly anchor: HTMLElement | null
  readonly onClose: () => void
}

/** Which machine the job is planned for. Operations take the recipes for it. */
export function MachineSheet({ job, anchor, onClose }: Props) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const machines = useCatalogue()?.machines ?? [job.machine]
  return (
    <Popover open={anchor !== null} anchorEl={anchor} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      <Sheet width={320}>
        <Typography variant="h2">Machine</Typography>
        <List dense>
          {machines.map((machine) => (
            <ListItemButton
              key={machine.id}
              selected={machine.id === job.machine.id}
              onClick={() => {
                onClose()
                if (machine.id === job.machine.id) return
                const told = toldOfChange(job, onMachine(job, machine), machine.name)
                edit(`machine ${machine.name}`, (base) => onMachine(base, machine))
                for (const each of told) enqueueSnackbar(each, { autoHideDuration: 12_000 })
              }}
            >
              <ListItemText
                primary={machine.name}
                secondary={`bed ${machine.axes.x.travelMm} × ${machine.axes.y.travelMm} mm, up to ${machine.axes.x.speedMmS} mm/s`}
              />
            </ListItemButton>
          ))}
        </List>
      </Sheet>
    </Popover>
  )
}
