import { Link, styled } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { Words } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

/** The name of the product; it leads back to the job board. @param shortens beside a job its first letter does, where there is little room */
export function Wordmark({ shortens = false }: { readonly shortens?: boolean }) {
  return (
    <Mark component={RouterLink} to="/jobs" underline="none" aria-label="Neotaxis, to the job board">
      <Words as="span" tone="done">
        n
      </Words>
      {shortens ? <Rest>eotaxis</Rest> : 'eotaxis'}
    </Mark>
  )
}

const Rest = styled('span')(({ theme }) => ({ [theme.breakpoints.down('xl')]: { display: 'none' } }))

const Mark = styled(Link)(({ theme: { palette } }) => ({
  display: 'flex',
  alignItems: 'center',
  fontSize: TYPE.title,
  fontWeight: WEIGHT.heavy,
  letterSpacing: '-0.01em',
  color: palette.text.primary,
  '@media (pointer: coarse)': { minHeight: 44 },
})) as typeof Link
