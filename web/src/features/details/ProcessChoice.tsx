import { MenuItem, TextField } from '@mui/material'
import { type JobDocument, type ProcessName, processesInstead } from '@neotaxis/core'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { changedTo } from '../becomes/becoming.ts'
import { useEdit } from '../use-edit.ts'

/** The process of an operation: another one takes its place, with the values of its recipe. */
export function ProcessChoice({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const { process } = job.operations[id]
  const others = processesInstead(job, id)
  if (others.length === 0) return null
  return (
    <TextField
      select
      fullWidth
      size="small"
      margin="dense"
      label="It is"
      value={process}
      onChange={(event) => {
        const { name, change } = changedTo(id, event.target.value as ProcessName)
        edit(name, change)
      }}
      data-testid="process-choice"
    >
      {[process, ...others].map((name) => (
        <MenuItem key={name} value={name}>
          {PROCESS_WORDS[name].made}
        </MenuItem>
      ))}
    </TextField>
  )
}
