import MoreIcon from '@mui/icons-material/ExpandMore'
import { Button, ButtonGroup, Menu, MenuItem } from '@mui/material'
import { type JobDocument, type Material, mainPiece, proofOf } from '@neotaxis/core'
import { useRef, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { jobOrders } from '../../api/orders.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { useDoing } from './use-doing.ts'

interface Tried {
  /** The job that this one is a proof of. */
  readonly of: { readonly id: string; readonly name: string }
}

/** The job tried out on something cheap before: as a job of its own, from which one press leads back. */
export function ProofFirst({ id, job }: { readonly id: string; readonly job: JobDocument }) {
  const doing = useDoing()
  const navigate = useNavigate()
  const tried = (useLocation().state as { proof?: Tried } | null)?.proof
  const button = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const { material } = mainPiece(job)
  const others = (useCatalogue()?.materials ?? []).filter((each) => each.id !== material && each.forbidden === undefined)
  // Card costs next to nothing; where the shop has none, whatever stands first.
  const cheap = others.find(({ finish }) => finish === 'card') ?? others[0]
  const prove = (on: Material): void => {
    setOpen(false)
    void doing(async () => {
      const proof: Tried = { of: { id, name: job.name } }
      void navigate(`/jobs/${(await jobOrders.create(proofOf(job, on))).id}/run`, { state: { proof } })
    })
  }
  if (tried)
    return (
      <Button size="small" onClick={() => void navigate(`/jobs/${tried.of.id}/run`)} data-testid="proof-back">
        Back to “{tried.of.name}”
      </Button>
    )
  if (others.length === 0) return null
  return (
    <>
      <ButtonGroup fullWidth size="small" variant="text">
        <Button onClick={() => prove(cheap)} data-testid="proof-first">
          A proof on {cheap.name.toLowerCase()} first
        </Button>
        <Button
          ref={button}
          style={{ flex: '0 0 36px' }}
          onClick={() => setOpen(true)}
          aria-label="A proof on something else"
          aria-haspopup="menu"
          data-testid="proof-on"
        >
          <MoreIcon fontSize="small" />
        </Button>
      </ButtonGroup>
      <Menu anchorEl={() => button.current!} open={open} onClose={() => setOpen(false)}>
        {others.map((each) => (
          <MenuItem key={each.id} onClick={() => prove(each)} data-testid={`proof-on-${each.id}`}>
            on {each.name}, {each.thicknessMm} mm
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
