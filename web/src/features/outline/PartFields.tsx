import { MenuItem, TextField } from '@mui/material'
import { type PartNode, withNode } from '@neotaxis/core'
import { useEdit } from '../use-edit.ts'

const AS: Readonly<Record<PartNode['as'], string>> = {
  edges: 'edges of parts; open lines as they are',
  lines: 'lines, followed as they are',
  seen: 'the area that is seen, with its strokes',
}

/** What the shapes of a drawing are taken for. */
export function PartFields({ id, node }: { readonly id: string; readonly node: PartNode }) {
  const edit = useEdit()
  return (
    <TextField
      select
      fullWidth
      size="small"
      label="Its shapes are"
      value={node.as}
      onChange={(event) =>
        edit('what the shapes are', (base) => withNode(base, id, { as: event.target.value as PartNode['as'] }))
      }
      margin="dense"
      data-testid="part-as"
    >
      {Object.entries(AS).map(([as, words]) => (
        <MenuItem key={as} value={as}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  )
}
