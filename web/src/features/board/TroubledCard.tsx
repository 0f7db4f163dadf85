import { Box, Button } from '@mui/material'
import type { JobBrief } from '@neotaxis/contract'

/** A job that this version cannot bring up: it stays as it was, says why, and can be saved as a file. */
export function TroubledCard({ job }: { readonly job: JobBrief }) {
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: '1px dashed',
        borderColor: 'shop.ask',
        borderRadius: 3,
        p: 1.8,
        minHeight: 180,
        display: 'flex',
        flexDirection: 'column',
        gap: 1,
      }}
      data-testid={`card-${job.id}`}
    >
      <Box sx={{ fontWeight: 700, fontSize: 16 }}>{job.name}</Box>
      <Box sx={{ color: 'shop.ask', fontWeight: 650 }}>cannot be opened by this version</Box>
      <Box sx={{ fontSize: 13.5, color: 'text.secondary', flex: 1 }}>{job.trouble} It stays as it was.</Box>
      <Button component="a" href={`/api/jobs/${job.id}/file`} variant="outlined" size="small" sx={{ alignSelf: 'start' }}>
        Save it as a file
      </Button>
    </Box>
  )
}
