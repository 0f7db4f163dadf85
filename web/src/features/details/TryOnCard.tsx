import { Button } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { bringIn, jobOrders } from '../../api/orders.ts'
import { cardOfTrials } from '../../workers/engine.ts'

/** One press from an operation to a card that tries its power and speed on scrap: a job of its own. */
export function TryOnCard({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const [making, setMaking] = useState(false)
  const make = async (): Promise<void> => {
    setMaking(true)
    try {
      const { job: card, files } = await cardOfTrials(job, id)
      for (const file of files) await bringIn(new Blob([file]))
      void navigate(`/jobs/${(await jobOrders.create(card)).id}/compose`)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'The card could not be made.', { variant: 'error' })
      setMaking(false)
    }
  }
  return (
    <Button
      fullWidth
      variant="outlined"
      color="secondary"
      disabled={making}
      onClick={() => void make()}
      data-testid="try-on-card"
      style={{ marginTop: 4, marginBottom: 8 }}
    >
      Try it on a card of scrap
    </Button>
  )
}
