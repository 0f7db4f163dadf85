import { Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel } from '@mui/material'
import { canBeCutAround, formatLength, type JobDocument, outlineAround, RANGES, tellArtwork } from '@neotaxis/core'
import { useState } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { LengthField } from '../field/quantities.tsx'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'

/** One cut around several pieces of artwork together, whatever they are. */
export function AroundSheet({ job, onClose }: { readonly job: JobDocument; readonly onClose: () => void }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const roots = canBeCutAround(job)
  const [chosen, setChosen] = useState<readonly string[]>(roots)
  const [distanceMm, setDistance] = useState(3)
  const cut = (): void => {
    edit(`cut ${formatLength(distanceMm, unit)} around`, (base) => outlineAround(base, chosen, distanceMm, newId().slice(0, 8)))
    onClose()
  }
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth data-testid="around">
      <DialogTitle>Cut around these together</DialogTitle>
      <DialogContent>
        {roots.map((id) => (
          <FormControlLabel
            key={id}
            sx={{ display: 'flex' }}
            control={
              <Checkbox
                checked={chosen.includes(id)}
                onChange={(_, on) => setChosen((now) => (on ? [...now, id] : now.filter((each) => each !== id)))}
              />
            }
            label={tellArtwork(job, id)}
          />
        ))}
        <LengthField
          label="Distance"
          value={distanceMm}
          range={{ min: 0, max: RANGES.distanceMm.max }}
          digits={2}
          hint="From what is seen of them: pictures by what is opaque or dark, drawings and texts by their lines and areas."
          onCommit={setDistance}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={chosen.length === 0} onClick={cut} data-testid="around-it">
          Cut around
        </Button>
      </DialogActions>
    </Dialog>
  )
}
