import { Button } from '@mui/material'
import { formatDuration } from '@neotaxis/core/units/duration'
import { Card } from '../../parts/Card.tsx'
import { Words } from '../../parts/words.tsx'

/** Less than this is begun anew, s. */
const LEAST_S = 1

interface Props {
  /** How far the job came. */
  readonly seconds: number
  readonly onLater: (fromSeconds: number) => void
}

/** After a run that ended early: what is left runs next, also when the piece was taken out meanwhile and is found again. */
export function GoOnLater({ seconds, onLater }: Props) {
  // To a millisecond, and never later than the last line that was driven.
  const from = Math.floor(seconds * 1000) / 1000
  if (from < LEAST_S) return null
  return (
    <Card mark="ask" data-testid="go-on-later">
      <Words>
        It came to <b>{formatDuration(from)}</b>. What is left can run next, from there on. If the piece was moved, find it by its
        corners or marks first.
      </Words>
      <Button variant="outlined" color="secondary" onClick={() => onLater(from)} data-testid="later">
        Run the rest next
      </Button>
    </Card>
  )
}
