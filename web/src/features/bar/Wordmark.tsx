import { Link } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { Words } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

/** The name of the product; it leads back to the job board. */
export function Wordmark() {
  return (
    <Link
      component={RouterLink}
      to="/jobs"
      underline="none"
      sx={{ fontWeight: WEIGHT.heavy, fontSize: TYPE.title, color: 'text.primary', letterSpacing: '-0.01em' }}
      aria-label="Neotaxis, to the job board"
    >
      <Words as="span" tone="done">
        n
      </Words>
      eotaxis
    </Link>
  )
}
