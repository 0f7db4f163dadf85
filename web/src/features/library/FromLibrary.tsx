import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import type { Artwork } from '@neotaxis/contract'
import { useRef } from 'react'
import { useLibraryQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Words } from '../../parts/words.tsx'
import { ArtworkGrid } from './ArtworkGrid.tsx'

interface Props {
  readonly onClose: () => void
  readonly onChosen: (artwork: Artwork) => void
}

/** Artwork of the library, to be brought into the job at hand. */
export default function FromLibrary({ onClose, onChosen }: Props) {
  const { data: artwork, trouble } = useKept(useLibraryQuery, null)
  const scrolls = useRef<HTMLDivElement>(null)
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth data-testid="from-library">
      <DialogTitle>From the library</DialogTitle>
      <DialogContent ref={scrolls}>
        {trouble && !artwork && <Box role="alert">The library cannot be read now: {trouble.message}</Box>}
        {artwork?.length === 0 && (
          <Words tone="quiet">
            Nothing is kept yet. Select artwork in a job and keep it, or drop files on the library’s own screen.
          </Words>
        )}
        {artwork && artwork.length > 0 && <ArtworkGrid artwork={artwork} onSelect={onChosen} scrolls={scrolls} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>None of them</Button>
      </DialogActions>
    </Dialog>
  )
}
