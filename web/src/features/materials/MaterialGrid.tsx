import { Chip } from '@mui/material'
import { FINISH_STARTS, type Material, standingOf } from '@neotaxis/core'
import { type RefObject, useState } from 'react'
import { PickCard } from '../../parts/Card.tsx'
import { LongList } from '../../parts/LongList.tsx'
import { Row } from '../../parts/Row.tsx'
import { SearchField } from '../../parts/SearchField.tsx'
import { BurntGround, UnderPicture } from '../../parts/Tile.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { MaterialSample } from './MaterialSample.tsx'

interface Props {
  readonly materials: readonly Material[]
  readonly selected?: string | undefined
  readonly onSelect: (id: string) => void
  readonly scrolls: RefObject<HTMLElement | null>
}

const STATES = ['proven', 'doubtful', 'untried', 'never'] as const
type State = (typeof STATES)[number]
const STATE_WORDS: Readonly<Record<State, string>> = {
  proven: 'proven',
  doubtful: 'failed lately',
  untried: 'not tried yet',
  never: 'never lasered',
}

/** How well a material is known: by the best and the worst of its recipes. */
function stateOf({ recipes, forbidden }: Material): State | undefined {
  if (forbidden) return 'never'
  const kinds = recipes.map((recipe) => standingOf(recipe).kind)
  if (kinds.includes('doubtful')) return 'doubtful'
  if (kinds.includes('proven')) return 'proven'
  return 'untried'
}

/** What is known of its recipes, in a line. */
function recipeWords(material: Material): string {
  const { recipes, forbidden } = material
  if (forbidden) return 'must never be lasered'
  if (recipes.length === 0) return material.untried ? 'nothing is known of it yet' : 'no recipes yet'
  const proven = recipes.filter((recipe) => standingOf(recipe).kind === 'proven').length
  return proven === recipes.length
    ? `${proven === 1 ? 'its recipe' : `all ${proven} recipes`} proven`
    : `${proven} of ${recipes.length} recipes proven`
}

/** The shop's materials as they look, found by words and by how well they are known. */
export function MaterialGrid({ materials, selected, onSelect, scrolls }: Props) {
  const [search, setSearch] = useState('')
  const [state, setState] = useState<State>()
  const words = search.trim().toLowerCase()
  const shown = materials
    .filter(
      (material) =>
        (state === undefined || stateOf(material) === state) &&
        (words === '' ||
          [
            material.name,
            `${material.thicknessMm} mm`,
            ...material.layers.map(({ name }) => name),
            ...material.recipes.map(({ name }) => name),
          ].some((text) => text.toLowerCase().includes(words))),
    )
    .sort(
      (a, b) => Number(!!a.forbidden) - Number(!!b.forbidden) || a.name.localeCompare(b.name) || a.thicknessMm - b.thicknessMm,
    )
  return (
    <>
      <Row wraps bottom="wide">
        <SearchField
          label="Find a material"
          hint="Find: name, thickness, layer, recipe"
          text={search}
          onText={setSearch}
          width={290}
          testId="find-material"
        />
        {STATES.map((each) => (
          <Chip
            key={each}
            label={STATE_WORDS[each]}
            size="small"
            color={state === each ? 'primary' : 'default'}
            variant={state === each ? 'filled' : 'outlined'}
            onClick={() => setState(state === each ? undefined : each)}
          />
        ))}
      </Row>
      {shown.length === 0 && materials.length > 0 && (
        <Words tone="quiet" pad="open">
          There is no material like that in the shop.
        </Words>
      )}
      <LongList rows={shown} keyOf={({ id }) => id} height={206} gap={16} least={190} scrolls={scrolls} testId="materials">
        {(material) => (
          <PickCard
            chosen={selected === material.id}
            pad="none"
            gap="none"
            onClick={() => onSelect(material.id)}
            aria-pressed={selected === material.id}
            data-testid={`material-${material.id}`}
          >
            <BurntGround high={118}>
              <MaterialSample material={material} />
            </BurntGround>
            <UnderPicture>
              <Words weight="strong" cut>
                {material.name} {material.thicknessMm} mm
              </Words>
              <Quiet cut>
                {material.finish ? FINISH_STARTS[material.finish].name : material.layers.map(({ name }) => name).join(', ')}
              </Quiet>
              <Quiet cut tone={stateOf(material) === 'proven' ? 'quiet' : stateOf(material) === 'never' ? 'wrong' : 'ask'}>
                {recipeWords(material)}
              </Quiet>
            </UnderPicture>
          </PickCard>
        )}
      </LongList>
    </>
  )
}
