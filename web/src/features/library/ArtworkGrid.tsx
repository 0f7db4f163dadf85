import { Box, ButtonBase, Chip, InputBase, Typography } from '@mui/material'
import type { Artwork } from '@neotaxis/contract'
import { useMemo, useState } from 'react'
import { artworkPicture } from '../../api/orders.ts'

interface Props {
  readonly artwork: readonly Artwork[]
  readonly selected?: string
  readonly onSelect: (artwork: Artwork) => void
}

/** What a licence allows, in few words. */
export const licenceWords = ({ licence: { name, sell, change, credit } }: Pick<Artwork, 'licence'>): string =>
  [name, sell ? '' : 'not to be sold', change ? '' : 'not to be changed', credit ? 'with credit' : ''].filter(Boolean).join(' · ')

/** The library's artwork as pictures, found by words or by its tags. */
export function ArtworkGrid({ artwork, selected, onSelect }: Props) {
  const [search, setSearch] = useState('')
  const [tag, setTag] = useState<string>()
  const tags = useMemo(() => [...new Set(artwork.flatMap((each) => each.tags))].sort(), [artwork])
  const words = search.trim().toLowerCase()
  const shown = artwork.filter(
    (each) =>
      (tag === undefined || each.tags.includes(tag)) &&
      (words === '' ||
        [each.name, each.origin, each.licence.name, ...each.tags].some((text) => text.toLowerCase().includes(words))),
  )
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <InputBase
          placeholder="Find artwork"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          inputProps={{ 'aria-label': 'Find artwork', 'data-testid': 'find-artwork' }}
          sx={{
            bgcolor: 'background.paper',
            border: 1,
            borderColor: 'divider',
            borderRadius: 5,
            px: 1.8,
            height: 38,
            width: 240,
          }}
        />
        {tags.map((each) => (
          <Chip
            key={each}
            label={each}
            size="small"
            color={tag === each ? 'primary' : 'default'}
            variant={tag === each ? 'filled' : 'outlined'}
            onClick={() => setTag(tag === each ? undefined : each)}
          />
        ))}
      </Box>
      {artwork.length > 0 && shown.length === 0 && (
        <Typography sx={{ color: 'text.secondary', py: 4 }}>Nothing in the library is called that.</Typography>
      )}
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: 'repeat(auto-fill, minmax(180px, 1fr))' }}>
        {shown.map((each) => (
          <ButtonBase
            key={each.id}
            onClick={() => onSelect(each)}
            aria-pressed={selected === each.id}
            data-testid={`artwork-${each.name}`}
            sx={{
              display: 'block',
              textAlign: 'left',
              bgcolor: 'background.paper',
              border: 2,
              borderColor: selected === each.id ? 'primary.main' : 'divider',
              borderRadius: 2,
              overflow: 'hidden',
            }}
          >
            <Box sx={{ bgcolor: '#f4efe4', height: 130, display: 'grid', placeItems: 'center', p: 1.5 }}>
              <img src={artworkPicture(each.id)} alt="" style={{ maxWidth: '100%', maxHeight: 106, objectFit: 'contain' }} />
            </Box>
            <Box sx={{ p: 1.2 }}>
              <Box sx={{ fontWeight: 700, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{each.name}</Box>
              <Box sx={{ color: 'text.secondary', fontSize: 12.5, minHeight: 18 }}>{each.tags.join(', ')}</Box>
              <Box sx={{ color: each.licence.sell ? 'text.secondary' : 'shop.ask', fontSize: 12.5 }}>{licenceWords(each)}</Box>
            </Box>
          </ButtonBase>
        ))}
      </Box>
    </Box>
  )
}
