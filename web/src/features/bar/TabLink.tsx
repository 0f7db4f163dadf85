import { Link } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { WEIGHT } from '../../theme/tokens.ts'

interface Props {
  readonly to: string
  readonly name: string
  /** Whether this is the screen one is on. */
  readonly here: boolean
  readonly testid?: string
}

/** One screen of several, the one that is open underlined. */
export function TabLink({ to, name, here, testid, ...rest }: Props) {
  return (
    <Link
      {...rest}
      component={RouterLink}
      to={to}
      underline="none"
      aria-current={here ? 'page' : undefined}
      data-testid={testid}
      sx={{
        display: 'grid',
        placeItems: 'center',
        px: { xs: 0.6, lg: 1.1 },
        fontWeight: here ? WEIGHT.strong : WEIGHT.plain,
        color: here ? 'text.primary' : 'text.secondary',
        boxShadow: here ? (theme) => `inset 0 -3px ${theme.palette.primary.main}` : 'none',
      }}
    >
      {name}
    </Link>
  )
}
