import { Box, Link, Tooltip } from '@mui/material'
import { useEffect } from 'react'
import { Link as RouterLink, useLocation, useNavigate } from 'react-router'
import { onCommand } from './commands.ts'

/** The job's screens: the same table, turned. */
export function JobTabs({ id }: { readonly id: string }) {
  const { pathname } = useLocation()
  const navigate = useNavigate()
  useEffect(() =>
    onCommand({
      compose: () => void navigate(`/jobs/${id}/compose`),
      run: () => void navigate(`/jobs/${id}/run`),
      journal: () => void navigate('/journal'),
      machines: () => void navigate('/machines'),
    }),
  )
  return (
    <Box component="nav" aria-label="Screens of this job" sx={{ display: 'flex', gap: 0.5, alignSelf: 'stretch' }}>
      {(
        [
          ['compose', 'Compose', 'Artwork, operations, their order'],
          ['run', 'Run', 'At the machine  (G)'],
        ] as const
      ).map(([screen, name, hint]) => {
        const here = pathname.endsWith(`/${screen}`)
        return (
          <Tooltip key={screen} title={hint}>
            <Link
              component={RouterLink}
              to={`/jobs/${id}/${screen}`}
              underline="none"
              aria-current={here ? 'page' : undefined}
              data-testid={`tab-${screen}`}
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
          </Tooltip>
        )
      })}
    </Box>
  )
}
