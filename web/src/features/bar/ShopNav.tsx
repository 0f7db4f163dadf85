import { Box, Link } from '@mui/material'
import { Link as RouterLink, useLocation } from 'react-router'

const SCREENS = [
  ['/jobs', 'Jobs'],
  ['/journal', 'Journal'],
  ['/machines', 'Machines'],
] as const

/** The screens of the shop. */
export function ShopNav() {
  const { pathname } = useLocation()
  return (
    <Box component="nav" aria-label="Screens of the shop" sx={{ display: 'flex', gap: 0.5, alignSelf: 'stretch' }}>
      {SCREENS.map(([to, name]) => {
        const here = pathname === to
        return (
          <Link
            key={to}
            component={RouterLink}
            to={to}
            underline="none"
            aria-current={here ? 'page' : undefined}
            sx={{
              display: 'grid',
              placeItems: 'center',
              px: 1.4,
              fontWeight: here ? 750 : 500,
              color: here ? 'text.primary' : 'text.secondary',
              boxShadow: here ? (theme) => `inset 0 -3px ${theme.palette.primary.main}` : 'none',
            }}
          >
            {name}
          </Link>
        )
      })}
    </Box>
  )
}
