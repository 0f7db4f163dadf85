import { Chip } from '@mui/material'
import type { StockItem, StockKind } from '@neotaxis/contract'
import type { Material } from '@neotaxis/core'
import { type RefObject, useState } from 'react'
import { PickCard } from '../../parts/Card.tsx'
import { LongList } from '../../parts/LongList.tsx'
import { Row } from '../../parts/Row.tsx'
import { SearchField } from '../../parts/SearchField.tsx'
import { BurntGround, UnderPicture } from '../../parts/Tile.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { tellArea } from '../field/told.ts'
import { PieceShape } from './PieceShape.tsx'
import { KINDS, KINDS_MANY, sizeWords } from './stock-words.ts'

interface Props {
  readonly stock: readonly StockItem[]
  readonly materials: readonly Material[]
  readonly selected?: string
  readonly onSelect: (item: StockItem) => void
  /** What it scrolls in. */
  readonly scrolls: RefObject<HTMLElement | null>
}

/** A code as it may be typed: as labels write it. */
const asCode = (typed: string): string =>
  typed
    .toUpperCase()
    .replace(/^NEOTAXIS:/, '')
    .replaceAll(/[\s-]/g, '')

/** What lies on the shelf, as it lies there: found by words, by kind, by material, by its code. */
export function StockGrid({ stock, materials, selected, onSelect, scrolls }: Props) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const [search, setSearch] = useState('')
  const [kind, setKind] = useState<StockKind>()
  const [material, setMaterial] = useState<string>()
  const materialOf = (id: string): Material | undefined => materials.find((each) => each.id === id)
  const used = [...new Set(stock.map((item) => item.material))]
  const words = search.trim().toLowerCase()
  const shown = stock.filter(
    (item) =>
      (kind === undefined || item.kind === kind) &&
      (material === undefined || item.material === material) &&
      (words === '' ||
        item.code === asCode(search) ||
        [item.name, item.shelf, item.note, materialOf(item.material)?.name ?? ''].some((text) =>
          text.toLowerCase().includes(words),
        )),
  )
  return (
    <>
      <Row wraps bottom="wide">
        <SearchField
          label="Find a piece"
          hint="Find a piece: name, place, code"
          text={search}
          onText={setSearch}
          width={290}
          testId="find-stock"
        />
        {(Object.keys(KINDS_MANY) as StockKind[]).map((each) => (
          <Chip
            key={each}
            label={KINDS_MANY[each]}
            size="small"
            color={kind === each ? 'primary' : 'default'}
            variant={kind === each ? 'filled' : 'outlined'}
            onClick={() => setKind(kind === each ? undefined : each)}
          />
        ))}
        {used.length > 1 &&
          used.map((id) => (
            <Chip
              key={id}
              label={materialOf(id)?.name ?? id}
              size="small"
              color={material === id ? 'primary' : 'default'}
              variant={material === id ? 'filled' : 'outlined'}
              onClick={() => setMaterial(material === id ? undefined : id)}
            />
          ))}
      </Row>
      {stock.length > 0 && shown.length === 0 && (
        <Words tone="quiet" pad="open">
          Nothing like that lies on the shelf.
        </Words>
      )}
      <LongList rows={shown} keyOf={({ id }) => id} height={232} gap={16} least={190} scrolls={scrolls} testId="stock">
        {(item) => {
          const of = materialOf(item.material)
          return (
            <PickCard
              chosen={selected === item.id}
              pad="none"
              gap="none"
              onClick={() => onSelect(item)}
              aria-pressed={selected === item.id}
              data-testid={`stock-${item.name}`}
              style={item.count === 0 ? { opacity: 0.55 } : undefined}
            >
              <BurntGround high={132}>
                <PieceShape piece={item} px={104} look={of?.look} scaled />
              </BurntGround>
              <UnderPicture>
                <Words weight="strong" cut>
                  {item.count === 1 ? '' : `${item.count} × `}
                  {item.name}
                </Words>
                <Quiet cut>
                  {of?.name ?? item.material} {item.thicknessMm} mm
                </Quiet>
                <Quiet cut>
                  {sizeWords(item, unit)} · {tellArea(item.areaMm2)}
                </Quiet>
                <Quiet cut tone={item.count === 0 ? 'ask' : 'quiet'}>
                  {item.count === 0 ? 'none left' : item.shelf || KINDS[item.kind]}
                </Quiet>
              </UnderPicture>
            </PickCard>
          )
        }}
      </LongList>
    </>
  )
}
