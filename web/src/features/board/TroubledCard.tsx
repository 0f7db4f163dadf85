import { Button } from '@mui/material'
import type { JobBrief } from '@neotaxis/contract'
import { Card } from '../../parts/Card.tsx'
import { Name, Words } from '../../parts/words.tsx'

/** A job that this version cannot bring up: it stays as it was, says why, and can be saved as a file. */
export function TroubledCard({ job }: { readonly job: JobBrief }) {
  return (
    <Card mark="hint" data-testid={`card-${job.id}`}>
      <Name>{job.name}</Name>
      <Words weight="firm" tone="ask">
        cannot be opened by this version
      </Words>
      <Words size="plain" tone="quiet" grow>
        {job.trouble} It stays as it was.
      </Words>
      <Button component="a" href={`/api/jobs/${job.id}/file`} variant="outlined" size="small" sx={{ alignSelf: 'start' }}>
        Save it as a file
      </Button>
    </Card>
  )
}
