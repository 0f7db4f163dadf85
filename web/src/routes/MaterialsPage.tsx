import AddIcon from '@mui/icons-material/Add'
import { Button, Menu, MenuItem } from '@mui/material'
import {
  counted,
  type FirstTrial,
  inThickness,
  type Machine,
  type Material,
  type Recipe,
  readRecipesTable,
  recipesTable,
  untriedMaterial,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useCallback, useEffect, useRef, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { useNavigate, useSearchParams } from 'react-router'
import { bringIn, jobOrders, shopOrders } from '../api/orders.ts'
import { useMachinesQuery, useMaterialsQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { NothingYet } from '../features/bar/NothingYet.tsx'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { download, saveText } from '../features/bar/save-files.ts'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { MaterialGrid } from '../features/materials/MaterialGrid.tsx'
import { MaterialPanel } from '../features/materials/MaterialPanel.tsx'
import { readCatalogueFile } from '../features/materials/read-catalogue-file.ts'
import { newId } from '../features/new-id.ts'
import { offered } from '../features/offered.tsx'
import { DropVeil } from '../parts/DropVeil.tsx'
import { Page } from '../parts/Page.tsx'
import { Panel } from '../parts/Panel.tsx'
import { Spread } from '../parts/Row.tsx'
import { Words } from '../parts/words.tsx'
import { firstCardOn } from '../workers/engine.ts'

/** So many troubles of a file are told one by one. */
const MOST_TOLD = 3

const toldFirst = (troubles: readonly string[]): string => {
  const more = troubles.length - MOST_TOLD
  return [...troubles.slice(0, MOST_TOLD), ...(more > 0 ? [`And ${more} more.`] : [])].join(' ')
}

/** The shop's materials: what they are, what works on them, and what that rests on. */
export default function MaterialsPage() {
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const [params, setParams] = useSearchParams()
  const { data: materials, trouble, at } = useKept(useMaterialsQuery, null)
  const { data: machines = [] } = useKept(useMachinesQuery, null)
  const selected = materials?.find(({ id }) => id === params.get('material'))
  const select = useCallback((id: string) => setParams({ material: id }, { replace: true }), [setParams])
  const scrolls = useRef<HTMLDivElement>(null)
  const files = useRef<HTMLButtonElement>(null)
  const [filing, setFiling] = useState(false)
  useEffect(() => {
    document.title = 'Materials · Neotaxis'
  }, [])
  /** Does something; what goes wrong is told. */
  const doing = async (work: () => Promise<unknown>): Promise<void> => {
    try {
      await work()
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be done.', {
        variant: 'error',
        autoHideDuration: 12_000,
      })
    }
  }
  const keepNew = (material: Material): Promise<void> =>
    doing(async () => {
      await shopOrders.saveMaterial(material, null)
      select(material.id)
    })
  const change = (material: Material, to: Partial<Material>): Promise<void> =>
    doing(() => shopOrders.saveMaterial({ ...material, ...to }, material.version))
  const remove = (material: Material): Promise<void> =>
    doing(async () => {
      await shopOrders.removeMaterial(material.id)
      setParams({}, { replace: true })
      enqueueSnackbar(`${material.name} ${material.thicknessMm} mm is out of the shop. Jobs keep what they know of it.`, {
        action: offered(
          'Bring it back',
          () =>
            void doing(async () => {
              await shopOrders.saveMaterial(material, null)
              if (material.recipes.length > 0)
                await shopOrders.bringRecipes(material.recipes.map((recipe) => ({ material: material.id, recipe })))
            }),
        ),
      })
    })
  const removeRecipe = (material: Material, recipe: Recipe): Promise<void> =>
    doing(async () => {
      await shopOrders.removeRecipe(recipe.id)
      enqueueSnackbar(`“${recipe.name}” is taken away.`, {
        action: offered('Bring it back', () => void doing(() => shopOrders.bringRecipes([{ material: material.id, recipe }]))),
      })
    })
  const tryIt = (material: Material, machine: Machine, process: FirstTrial): Promise<void> =>
    doing(async () => {
      const { job, files } = await firstCardOn(material, machine, process)
      for (const file of files) await bringIn(new Blob([file]))
      void navigate(`/jobs/${(await jobOrders.create(job)).id}/compose`)
    })
  const take = (files: readonly File[]): Promise<void> =>
    doing(async () => {
      for (const file of files) {
        const text = await file.text()
        const told = /^\s*[{[]/.test(text)
          ? await readCatalogueFile(text, materials ?? [])
          : await (async () => {
              const { recipes, troubles } = readRecipesTable(text, materials ?? [], newId)
              if (recipes.length > 0) await shopOrders.bringRecipes(recipes)
              return {
                told: `Taken from “${file.name}”: ${counted(recipes.length, 'recipe')}`,
                troubles: troubles.map(({ message }) => message),
              }
            })()
        enqueueSnackbar(
          `${told.told}${told.troubles.length > 0 ? `; not taken: ${counted(told.troubles.length, 'row')}. ${toldFirst(told.troubles)}` : '.'}`,
          {
            variant: told.troubles.length > 0 ? 'warning' : 'default',
            autoHideDuration: told.troubles.length > 0 ? 20_000 : 5000,
          },
        )
      }
    })
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: (files) => void take(files),
  })
  return (
    <Page {...getRootProps()} style={{ height: '100vh', display: 'flex', flexDirection: 'column' }} data-testid="materials-page">
      <input {...getInputProps({ 'aria-label': 'Recipes or a catalogue' })} data-testid="recipes-file" />
      <ShopBar>
        <Spread />
        <Button ref={files} color="secondary" onClick={() => setFiling(true)} aria-haspopup="menu" data-testid="material-files">
          Files…
        </Button>
        <Menu anchorEl={() => files.current!} open={filing} onClose={() => setFiling(false)} onClick={() => setFiling(false)}>
          <MenuItem onClick={open}>Take recipes or a catalogue in…</MenuItem>
          <MenuItem onClick={() => saveText(recipesTable(materials ?? []), 'recipes.csv', 'text/csv')} data-testid="save-recipes">
            Save all recipes as a table (CSV)
          </MenuItem>
          <MenuItem
            onClick={() =>
              download(
                new Blob([JSON.stringify({ materials: materials ?? [] }, null, 1)], { type: 'application/json' }),
                'materials.json',
              )
            }
            data-testid="save-materials"
          >
            Save all that is known as a file (JSON)
          </MenuItem>
        </Menu>
        <Button
          variant="contained"
          startIcon={<AddIcon />}
          disabled={!materials}
          onClick={() => void keepNew(untriedMaterial(`new-${newId()}`))}
          data-testid="new-material"
        >
          A new material
        </Button>
      </ShopBar>
      <AwayNote trouble={trouble} at={at} />
      <main style={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <div ref={scrolls} style={{ flex: 1, overflow: 'auto', padding: 24 }}>
          {materials?.length === 0 && (
            <NothingYet title="There are no materials yet">
              Put one into the shop, or drop a catalogue or a table of recipes here.
            </NothingYet>
          )}
          {materials && materials.length > 0 && (
            <MaterialGrid materials={materials} selected={selected?.id} onSelect={select} scrolls={scrolls} />
          )}
        </div>
        <Panel
          side="right"
          width={452}
          pad="wide"
          as="aside"
          aria-label={selected ? `About ${selected.name}` : 'About materials'}
        >
          {selected ? (
            <MaterialPanel
              key={selected.id}
              material={selected}
              materials={materials ?? []}
              machines={machines}
              onChange={(to) => void change(selected, to)}
              onKeepRecipe={(recipe) =>
                void doing(() => shopOrders.bringRecipes([{ material: selected.id, recipe: { ...recipe, id: newId() } }]))
              }
              onRemoveRecipe={(recipe) => void removeRecipe(selected, recipe)}
              onTry={(machine, process) => void tryIt(selected, machine, process)}
              onThickness={() => void keepNew(inThickness(selected, selected.thicknessMm * 2, `new-${newId()}`))}
              onRemove={() => void remove(selected)}
            />
          ) : (
            <Words tone="quiet">
              Choose a material: what works on it and how often it did, what was measured, what it is made of, and what is to be
              known before it burns.
            </Words>
          )}
        </Panel>
      </main>
      {isDragActive && <DropVeil>Let go: its recipes come to their materials</DropVeil>}
    </Page>
  )
}
