import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material'
import { useEffect, useState } from 'react'
import { type Artwork, libraryApi } from '../../api/library.ts'
import { ArtworkGrid } from './ArtworkGrid.tsx'

interface Props {
  readonly onClose: () => void
  readonly onChosen: (artwork: Artwork) => void
}

/** Artwork of the library, to be brought into the job at hand. */
export default function FromLibrary({ onClose, onChosen }: Props) {
  const [artwork, setArtwork] = useState<readonly Artwork[]>()
  const [error, setError] = useState<string>()
  useEffect(() => {
    let gone = false
    libraryApi.all().then(
      (found) => {
        if (!gone) setArtwork(found.artwork)
      },
      () => {
        if (!gone) setError('The library cannot be read now: the server is not answering.')
      },
    )
    return () => {
      gone = true
    }
  }, [])
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth data-testid="from-library">
      <DialogTitle>From the library</DialogTitle>
      <DialogContent>
        {error && <Box role="alert">{error}</Box>}
        {artwork?.length === 0 && (
          <Typography sx={{ color: 'text.secondary' }}>
            Nothing is kept yet. Select artwork in a job and keep it, or drop files on the library’s own screen.
          </Typography>
        )}
        {artwork && artwork.length > 0 && <ArtworkGrid artwork={artwork} onSelect={onChosen} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>None of them</Button>
      </DialogActions>
    </Dialog>
  )
}
