import { Box, Button, MenuItem, TextField } from '@mui/material'
import { grouped, groupedWith, isRoot, type JobDocument, sourceOf, tellArtwork, ungrouped } from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'
import { RowFields } from './RowFields.tsx'

/** What moves and grows together with a piece of artwork. */
export function GroupFields({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const root = sourceOf(job, node)
  const mates = groupedWith(job, node)
  const others = Object.keys(job.nodes).filter((id) => isRoot(job.nodes[id]) && id !== root && !mates.includes(id))
  const rows = <RowFields job={job} node={node} />
  if (mates.length === 0 && others.length === 0) return rows
  return (
    <>
      {rows}
      <Heading>Moves and grows with</Heading>
      {mates.length > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: TYPE.plain }} data-testid="group-mates">
          <Words grow>{mates.map((id) => tellArtwork(job, id)).join(', ')}</Words>
          <Button
            size="small"
            color="secondary"
            onClick={() => edit(`take ${tellArtwork(job, root)} out of its group`, (base) => ungrouped(base, node))}
            data-testid="ungroup"
          >
            Let it go
          </Button>
        </Box>
      )}
      {others.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          label={mates.length > 0 ? 'And with' : 'Nothing yet'}
          value=""
          onChange={(event) => {
            const other = event.target.value
            edit(`group with ${tellArtwork(job, other)}`, (base) => grouped(base, node, other, newId()))
          }}
          margin="dense"
          data-testid="group-with"
        >
          {others.map((id) => (
            <MenuItem key={id} value={id}>
              {tellArtwork(job, id)}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  )
}
