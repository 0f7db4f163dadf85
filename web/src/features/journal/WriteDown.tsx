import { Autocomplete, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { runOrders } from '../../api/orders.ts'
import { useJobsQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useDoing } from '../run/use-doing.ts'

/** A run that happened elsewhere, at a machine that no cable leads to: written down at any time. */
export function WriteDown() {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button variant="outlined" color="secondary" onClick={() => setOpen(true)} data-testid="write-down">
        Write a run down…
      </Button>
      {open && <WriteDownSheet onClose={() => setOpen(false)} />}
    </>
  )
}

function WriteDownSheet({ onClose }: { readonly onClose: () => void }) {
  const doing = useDoing()
  const operator = useSelector((state) => state.view.operator)
  const { data: jobs = [] } = useKept(useJobsQuery, '')
  const whole = jobs.flatMap((job) => (job.trouble ? [] : [job]))
  const [id, setId] = useState<string>()
  const chosen = whole.find((job) => job.id === id)
  const write = (): void =>
    void doing(async () => {
      if (!chosen) return
      await runOrders.carried({ jobId: chosen.id, revision: chosen.revision })
      onClose()
    })
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="write-down-title">
      <DialogTitle id="write-down-title">A run at another machine</DialogTitle>
      <DialogContent>
        <Autocomplete
          autoHighlight
          options={whole}
          value={chosen ?? null}
          getOptionLabel={({ name }) => name}
          getOptionKey={(job) => job.id}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          onChange={(_, job) => setId(job?.id)}
          noOptionsText="No such job on the board"
          renderInput={(params) => <TextField {...params} autoFocus label="Which job ran" margin="dense" />}
        />
        <Words tone="quiet" size="small" top="snug">
          {operator === ''
            ? 'Say who you are first: the name stands at the top.'
            : 'As the job is now. Its real time, a photo and what came out are written beside it.'}
        </Words>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave it
        </Button>
        <Button variant="contained" disabled={!chosen || operator === ''} onClick={write} data-testid="write-down-do">
          Write it down
        </Button>
      </DialogActions>
    </Dialog>
  )
}
