import { Button, Chip, Link } from '@mui/material'
import {
  borrowed,
  type Evidence,
  type Machine,
  type Material,
  RECIPE_PROCESSES,
  type Recipe,
  recipeFor,
  standingOf,
} from '@neotaxis/core'
import { useState } from 'react'
import { Card } from '../../parts/Card.tsx'
import { BareList, Column } from '../../parts/Column.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { dayText, standingText } from '../details/standing-words.ts'

interface Props {
  readonly material: Material
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
  readonly onKeep: (recipe: Recipe) => void
  readonly onRemove: (recipe: Recipe) => void
}

const ANSWERS: Readonly<Record<Exclude<Evidence['kind'], 'earlier'> | string, string>> = {
  yes: 'as it should',
  partly: 'in places',
  no: 'not',
  light: 'too light',
  dark: 'too dark',
}

/** The settings of a recipe or of something that was tried, in a line. */
const settingWords = ({
  power,
  speedMmS,
  passes,
  intervalMm,
}: Pick<Recipe, 'power' | 'speedMmS' | 'passes' | 'intervalMm'>): string =>
  [
    `${Number((100 * power).toFixed(1))} %`,
    `${speedMmS} mm/s`,
    ...(passes > 1 ? [`${passes} passes`] : []),
    ...(intervalMm === undefined ? [] : [`${intervalMm} mm apart`]),
  ].join(' · ')

/** One line of evidence: when, what, how it came out. */
function evidenceWords(one: Evidence): string {
  if (one.kind === 'earlier') return `worked ${one.times} times before days were written down`
  const measured = [
    ...(one.depthMm === undefined ? [] : [`${one.depthMm} mm deep`]),
    ...(one.tone === undefined ? [] : [`${Math.round(100 * one.tone)} % dark`]),
    ...(one.warpMm === undefined ? [] : [`warped ${one.warpMm} mm`]),
  ]
  return [
    `${dayText(one.date)}: ${ANSWERS[one.answer]}`,
    settingWords(one.set),
    ...measured,
    ...(one.kind === 'run' ? ['in a run'] : []),
    ...(one.note ? [one.note] : []),
  ].join(' · ')
}

function RecipeCard({
  recipe,
  machine,
  onRemove,
}: {
  readonly recipe: Recipe
  readonly machine: Machine | undefined
  readonly onRemove: () => void
}) {
  const [open, setOpen] = useState(false)
  const standing = standingOf(recipe)
  const lens = machine?.lenses.find(({ id }) => id === recipe.lens)?.name
  return (
    <Card
      as="li"
      gap="hair"
      mark={standing.kind === 'proven' ? 'plain' : standing.kind === 'doubtful' ? 'ask' : 'hint'}
      data-testid={`recipe-${recipe.id}`}
      data-standing={standing.kind}
    >
      <Row align="baseline">
        <Words weight="strong" grow>
          {recipe.name}
        </Words>
        <Chip size="small" variant="outlined" label={PROCESS_WORDS[recipe.process].name} />
      </Row>
      <Words>
        {settingWords(recipe)}
        {recipe.kerfMm === undefined ? '' : ` · kerf ${recipe.kerfMm} mm`}
        {recipe.air ? ' · air' : ''}
      </Words>
      <Quiet>
        {machine?.name ?? recipe.machine}
        {lens ? `, ${lens}` : ''}
        {recipe.prepared ? ` · ${recipe.prepared}` : ''}
      </Quiet>
      <Quiet tone={standing.kind === 'doubtful' ? 'ask' : 'quiet'}>{standingText(standing)}</Quiet>
      <Row>
        {recipe.evidence.length > 0 && (
          <Link component="button" onClick={() => setOpen(!open)} aria-expanded={open}>
            {open ? 'Less' : `What it rests on (${recipe.evidence.length})`}
          </Link>
        )}
        <Spread />
        <Button size="small" color="secondary" onClick={onRemove}>
          Take away
        </Button>
      </Row>
      {open && (
        <BareList gap="hair">
          {[...recipe.evidence].reverse().map((one, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a list that only grows at its end
            <Quiet as="li" key={recipe.evidence.length - i}>
              {evidenceWords(one)}
            </Quiet>
          ))}
        </BareList>
      )}
    </Card>
  )
}

/** What is known to work on a material: by machine and process, with what it rests on; and what could be borrowed. */
export function RecipeList({ material, materials, machines, onKeep, onRemove }: Props) {
  const lent = machines.flatMap((machine) =>
    RECIPE_PROCESSES.flatMap((process) => {
      if (recipeFor(material, process, machine)) return []
      const recipe = borrowed(material, process, machine, materials, machines)
      return recipe ? [{ machine, recipe }] : []
    }),
  )
  const order = [...material.recipes].sort((a, b) => a.machine.localeCompare(b.machine) || a.process.localeCompare(b.process))
  return (
    <Column gap="room">
      {order.length === 0 && (
        <Words tone="quiet">No recipes yet: burn a card of trials on scrap, and mark the cell that came out best.</Words>
      )}
      <BareList gap="room">
        {order.map((recipe) => (
          <RecipeCard
            key={recipe.id}
            recipe={recipe}
            machine={machines.find(({ id }) => id === recipe.machine)}
            onRemove={() => onRemove(recipe)}
          />
        ))}
      </BareList>
      {lent.length > 0 && <Quiet weight="strong">Can be worked out from others</Quiet>}
      {lent.map(({ machine, recipe }) => (
        <Card key={`${machine.id} ${recipe.process}`} mark="hint" gap="hair">
          <Words weight="strong">
            {PROCESS_WORDS[recipe.process].name} with {machine.name}
          </Words>
          <Words>{settingWords(recipe)}</Words>
          <Quiet>
            scaled from {recipe.borrowedFrom}, may be {Math.round(100 * recipe.mayBeOff!)} % off
          </Quiet>
          <Row pack="end">
            <Button size="small" onClick={() => onKeep(recipe)} data-testid={`borrow-${machine.id}-${recipe.process}`}>
              Borrow it
            </Button>
          </Row>
        </Card>
      ))}
    </Column>
  )
}
