import { Box, Tooltip } from '@mui/material'
import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { onCommand } from './commands.ts'
import { TabLink } from './TabLink.tsx'

/** The job's screens: the same table, turned. */
export function JobTabs({ id, isTrial }: { readonly id: string; readonly isTrial: boolean }) {
  const { pathname } = useLocation()
  const navigate = useNavigate()
  useEffect(() =>
    onCommand({
      compose: () => void navigate(`/jobs/${id}/compose`),
      picture: () => void navigate(`/jobs/${id}/picture`),
      outline: () => void navigate(`/jobs/${id}/outline`),
      run: () => void navigate(`/jobs/${id}/run`),
      journal: () => void navigate('/journal'),
      library: () => void navigate('/library'),
      machines: () => void navigate('/machines'),
    }),
  )
  return (
    <Box component="nav" aria-label="Screens of this job" sx={{ display: 'flex', gap: 0.5, alignSelf: 'stretch' }}>
      {(
        [
          ['compose', 'Compose', 'Artwork, operations, their order'],
          ['picture', 'Picture', 'Treat a picture: frame, tones, dots  (B)'],
          ['outline', 'Outline', 'Trace, clean up and combine outlines  (O)'],
          ['run', 'Run', 'At the machine  (G)'],
          ['measure', 'Measure', 'What came out on this card'],
        ] as const
      )
        // A card of trials is measured; there is nothing of it to treat or to trace.
        .filter(([screen]) => (isTrial ? screen !== 'picture' && screen !== 'outline' : screen !== 'measure'))
        .map(([screen, name, hint]) => (
          <Tooltip key={screen} title={hint}>
            <div style={{ display: 'grid' }}>
              <TabLink
                to={`/jobs/${id}/${screen}`}
                name={name}
                here={pathname.startsWith(`/jobs/${id}/${screen}`)}
                testid={`tab-${screen}`}
              />
            </div>
          </Tooltip>
        ))}
    </Box>
  )
}
