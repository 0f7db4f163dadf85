import { Button, MenuItem, TextField } from '@mui/material'
import { covering, edgeOf, edgesFor, type JobDocument, keptWhole, keptWithin, RANGES, tellArtwork } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { LengthField } from '../field/quantities.tsx'
import { SHOWS_EMPTY } from '../field/shows-empty.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'

const FACE = ''
/** What is meant by default: the edge of a blank is seldom exact, mm. */
const FIRST_MARGIN_MM = 2

/** The edge that some artwork is kept within, behind which it is moved, grown and turned. */
export function WithinFields({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const edge = edgeOf(job, id)
  const set = (name: string, change: Partial<NonNullable<typeof edge>>): void => {
    const made = newId().slice(0, 8)
    edit(name, (base) => keptWithin(base, id, { marginMm: FIRST_MARGIN_MM, ...edgeOf(base, id), ...change }, made))
  }
  if (!edge)
    return (
      <Row wraps gap="tight" top="snug">
        <Button size="small" onClick={() => set('keep it within the workpiece', {})} data-testid="keep-within">
          Cut off at an edge…
        </Button>
        <Button
          size="small"
          onClick={() => {
            const made = newId().slice(0, 8)
            edit('fill the workpiece with it', (base) =>
              keptWithin(covering(base, id), id, { marginMm: FIRST_MARGIN_MM, ...edgeOf(base, id) }, made),
            )
          }}
          data-testid="fill-blank"
        >
          Fill the workpiece
        </Button>
      </Row>
    )
  return (
    <>
      <Heading>Kept within an edge</Heading>
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Edge"
        value={edge.to ?? FACE}
        slotProps={SHOWS_EMPTY}
        onChange={({ target }) => set('keep it within another edge', { to: target.value === FACE ? undefined : target.value })}
        data-testid="within-edge"
      >
        <MenuItem value={FACE}>of the workpiece</MenuItem>
        {edgesFor(job, id).map((other) => (
          <MenuItem key={other} value={other}>
            “{tellArtwork(job, other)}”
          </MenuItem>
        ))}
      </TextField>
      <LengthField
        label="So far inside it"
        value={edge.marginMm}
        range={RANGES.insideMm}
        hint="Less than nothing: beyond it, as for a bleed."
        onCommit={(marginMm) => set('margin of the edge', { marginMm })}
      />
      {edge.fadeMm !== undefined && (
        <LengthField
          label="Fades over"
          value={edge.fadeMm}
          range={RANGES.fadeMm}
          hint="From the edge inwards; 0: it ends there."
          onCommit={(fadeMm) => set('fade at the edge', { fadeMm })}
        />
      )}
      <Button size="small" onClick={() => edit('show all of it again', (base) => keptWhole(base, id))} data-testid="keep-whole">
        Show all of it again
      </Button>
    </>
  )
}
