import { MenuItem, TextField } from '@mui/material'
import { type CombineNode, type JobDocument, othersFor, withNode } from '@neotaxis/core'
import { useEdit } from '../use-edit.ts'
import { COMBINED } from './outline-words.ts'

/** How two outlines are combined, and which is the other one. */
export function CombineFields({ job, id, node }: { readonly job: JobDocument; readonly id: string; readonly node: CombineNode }) {
  const edit = useEdit()
  const others = [...new Set([node.with, ...othersFor(job, node.from).filter((other) => other !== id)])]
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        label="What remains"
        value={node.op}
        onChange={(event) =>
          edit('combine outlines', (base) => withNode(base, id, { op: event.target.value as CombineNode['op'] }))
        }
        sx={{ my: 0.8 }}
        data-testid="combine-op"
      >
        {Object.entries(COMBINED).map(([op, words]) => (
          <MenuItem key={op} value={op}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        fullWidth
        size="small"
        label="The other one"
        value={node.with}
        onChange={(event) => edit('combine with another', (base) => withNode(base, id, { with: event.target.value }))}
      >
        {others.map((other) => (
          <MenuItem key={other} value={other}>
            {job.nodes[other].name}
          </MenuItem>
        ))}
      </TextField>
    </>
  )
}
