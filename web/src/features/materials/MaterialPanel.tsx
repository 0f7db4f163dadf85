import { Button, Menu, MenuItem, Tab, Tabs } from '@mui/material'
import { FIRST_TRIALS, type FirstTrial, type Machine, type Material, type Recipe } from '@neotaxis/core'
import { useRef, useState } from 'react'
import { Card } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { ChangesList } from './ChangesList.tsx'
import { CurvesMeasured } from './CurvesMeasured.tsx'
import { MaterialFacts } from './MaterialFacts.tsx'
import { RecipeList } from './RecipeList.tsx'
import { SafetyAndWork } from './SafetyAndWork.tsx'

const TABS = {
  recipes: 'Recipes',
  measured: 'Measured',
  facts: 'What it is',
  safety: 'Safety',
  changes: 'Changes',
} as const

interface Props {
  readonly material: Material
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
  readonly onChange: (change: Partial<Material>) => void
  readonly onKeepRecipe: (recipe: Recipe) => void
  readonly onRemoveRecipe: (recipe: Recipe) => void
  readonly onTry: (machine: Machine, process: FirstTrial) => void
  readonly onThickness: () => void
  readonly onRemove: () => void
}

/** All that the shop knows of a material. */
export function MaterialPanel({ material, materials, machines, onTry, onThickness, onRemove, ...rest }: Props) {
  const [tab, setTab] = useState<keyof typeof TABS>('recipes')
  const [trying, setTrying] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  const { forbidden, untried, recipes, name, thicknessMm } = material
  return (
    <Column gap="room">
      <Title variant="h2">
        {name} {thicknessMm} mm
      </Title>
      {forbidden && (
        <Card mark="stop" role="alert">
          <Words weight="strong">It must never be lasered</Words>
          <Words>{forbidden}</Words>
        </Card>
      )}
      {!forbidden && untried && recipes.length === 0 && (
        <Card mark="hint">
          <Words weight="strong">Nobody has tried it yet</Words>
          <Quiet>Its doses are those of most sheets. A card of trials on scrap tells what it really takes.</Quiet>
        </Card>
      )}
      <Row wraps>
        {!forbidden && (
          <Button
            ref={button}
            variant={recipes.length === 0 ? 'contained' : 'outlined'}
            onClick={() => setTrying(true)}
            data-testid="try-material"
          >
            Try it on scrap…
          </Button>
        )}
        <Spread />
        <Button size="small" color="secondary" onClick={onThickness} data-testid="other-thickness">
          Another thickness
        </Button>
        <Button size="small" color="secondary" onClick={onRemove} data-testid="remove-material">
          Take away
        </Button>
      </Row>
      <Menu anchorEl={() => button.current!} open={trying} onClose={() => setTrying(false)}>
        {machines.flatMap((machine) =>
          FIRST_TRIALS.map((process) => (
            <MenuItem
              key={`${machine.id} ${process}`}
              data-testid={`first-${machine.id}-${process}`}
              onClick={() => {
                setTrying(false)
                onTry(machine, process)
              }}
            >
              {PROCESS_WORDS[process].name}, with {machine.name}
            </MenuItem>
          )),
        )}
      </Menu>
      <Tabs
        value={tab}
        onChange={(_, next) => setTab(next)}
        variant="scrollable"
        scrollButtons="auto"
        aria-label="What is known of it"
      >
        {Object.entries(TABS).map(([key, words]) => (
          <Tab
            key={key}
            value={key}
            label={words}
            data-testid={`material-tab-${key}`}
            style={{ minWidth: 0, padding: '0 8px' }}
          />
        ))}
      </Tabs>
      {tab === 'recipes' && (
        <RecipeList
          material={material}
          materials={materials}
          machines={machines}
          onKeep={rest.onKeepRecipe}
          onRemove={rest.onRemoveRecipe}
        />
      )}
      {tab === 'measured' && <CurvesMeasured material={material} machines={machines} />}
      {tab === 'facts' && <MaterialFacts material={material} onChange={rest.onChange} />}
      {tab === 'safety' && <SafetyAndWork material={material} onChange={rest.onChange} />}
      {tab === 'changes' && <ChangesList id={material.id} />}
    </Column>
  )
}
