import { Button, Tooltip } from '@mui/material'
import { canBeCutAround, type JobDocument } from '@neotaxis/core'
import { useState } from 'react'
import { AroundSheet } from './AroundSheet.tsx'

/** One outline around all of it or some of it: by the artwork, or as a shape. */
export function CutAround({ job }: { readonly job: JobDocument }) {
  const [isOpen, setOpen] = useState(false)
  if (canBeCutAround(job).length === 0) return null
  return (
    <>
      <Tooltip title="One outline around all of it or some of it, at a distance, cut last">
        <Button
          fullWidth
          variant="outlined"
          color="secondary"
          onClick={() => setOpen(true)}
          data-testid="cut-around"
          style={{ marginTop: 16 }}
        >
          Cut around…
        </Button>
      </Tooltip>
      {isOpen && <AroundSheet job={job} onClose={() => setOpen(false)} />}
    </>
  )
}
