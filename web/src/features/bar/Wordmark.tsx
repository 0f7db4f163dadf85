import { Box, Link } from '@mui/material'
import { Link as RouterLink } from 'react-router'

/** The name of the product; it leads back to the job board. */
export function Wordmark() {
  return (
    <Link
      component={RouterLink}
      to="/jobs"
      underline="none"
      sx={{ fontWeight: 800, fontSize: 19, color: 'text.primary', letterSpacing: '-0.01em' }}
      aria-label="Neotaxis, to the job board"
    >
      <Box component="span" sx={{ color: 'primary.main' }}>
        n
      </Box>
      eotaxis
    </Link>
  )
}
