import { Chip } from '@mui/material'
import type { Artwork } from '@neotaxis/contract'
import { type RefObject, useMemo, useState } from 'react'
import { artworkPicture } from '../../api/orders.ts'
import { PickCard } from '../../parts/Card.tsx'
import { LongList } from '../../parts/LongList.tsx'
import { Row } from '../../parts/Row.tsx'
import { SearchField } from '../../parts/SearchField.tsx'
import { PictureGround, UnderPicture } from '../../parts/Tile.tsx'
import { Quiet, Words } from '../../parts/words.tsx'

interface Props {
  readonly artwork: readonly Artwork[]
  readonly selected?: string
  readonly onSelect: (artwork: Artwork) => void
  /** What it scrolls in. */
  readonly scrolls: RefObject<HTMLElement | null>
}

/** What a licence allows, in few words. */
export const licenceWords = ({ licence: { name, sell, change, credit } }: Pick<Artwork, 'licence'>): string =>
  [name, sell ? '' : 'not to be sold', change ? '' : 'not to be changed', credit ? 'with credit' : ''].filter(Boolean).join(' · ')

/** The library's artwork as pictures, found by words or by its tags. */
export function ArtworkGrid({ artwork, selected, onSelect, scrolls }: Props) {
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
    <>
      <Row wraps bottom="wide">
        <SearchField label="Find artwork" text={search} onText={setSearch} width={240} testId="find-artwork" />
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
      </Row>
      {artwork.length > 0 && shown.length === 0 && (
        <Words tone="quiet" pad="open">
          Nothing in the library is called that.
        </Words>
      )}
      <LongList rows={shown} keyOf={({ id }) => id} height={218} gap={16} least={180} scrolls={scrolls} testId="artwork">
        {(each) => (
          <PickCard
            chosen={selected === each.id}
            pad="none"
            gap="none"
            onClick={() => onSelect(each)}
            aria-pressed={selected === each.id}
            data-testid={`artwork-${each.name}`}
          >
            <PictureGround high={130}>
              <img src={artworkPicture(each.id)} alt="" loading="lazy" />
            </PictureGround>
            <UnderPicture>
              <Words weight="strong" cut>
                {each.name}
              </Words>
              <Quiet cut>{each.tags.join(', ') || '\u00a0'}</Quiet>
              <Quiet tone={each.licence.sell ? 'quiet' : 'ask'}>{licenceWords(each)}</Quiet>
            </UnderPicture>
          </PickCard>
        )}
      </LongList>
    </>
  )
}
