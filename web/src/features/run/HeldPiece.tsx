import { Button } from '@mui/material'
import { Link, useLocation } from 'react-router'
import { Quiet } from '../../parts/words.tsx'
import type { Holds } from '../bar/use-jig.ts'

/** Beside the run of a jig that was just made: the way on, to the piece that it holds. */
export function HeldPiece() {
  const { holds } = (useLocation().state ?? {}) as Partial<Holds>
  if (!holds) return null
  return (
    <section aria-label="What this jig holds">
      <Quiet>Once it is cut it stays where it lies, and the piece goes into it.</Quiet>
      <Button component={Link} to={`/jobs/${holds.id}/run`} fullWidth size="small" variant="outlined" data-testid="held-piece">
        On to “{holds.name}”
      </Button>
    </section>
  )
}
