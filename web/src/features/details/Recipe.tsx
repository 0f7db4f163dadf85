import { Box, Link } from '@mui/material'
import {
  borrowed,
  type JobDocument,
  knowsMore,
  type Operation,
  operationMaterial,
  processOf,
  RECIPE_PROCESSES,
  type Recipe as RecipeType,
  standingOf,
  withNewer,
  withOperation,
} from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { useEdit } from '../use-edit.ts'
import { standingText } from './standing-words.ts'

/** What a recipe says for some settings. */
const settingsOf = (names: readonly string[], recipe: RecipeType): Partial<Operation> =>
  Object.fromEntries(names.map((name) => [name, recipe[name as keyof RecipeType]]))

/** Which recipe the settings come from, how well it is known, and whether they left it. */
export function Recipe({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const catalogue = useCatalogue()
  const operation = job.operations[id]
  const material = operationMaterial(job, operation)
  const recipe = material.recipes.find((r) => r.id === operation.recipe)
  const away = recipe && processOf(operation).departs(operation, recipe).length > 0
  const standing = recipe && standingOf(recipe)
  const shop = catalogue?.materials.find((each) => each.id === material.id)
  const more = shop && knowsMore(shop, material, job.machine.id)
  const process = RECIPE_PROCESSES.find((each) => each === operation.process)
  const lent =
    !recipe && process && catalogue
      ? borrowed(shop ?? material, process, job.machine, catalogue.materials, catalogue.machines)
      : undefined
  const look =
    standing?.kind === 'proven'
      ? { bgcolor: 'shop.selected', border: '1px solid transparent' }
      : standing?.kind === 'doubtful'
        ? { bgcolor: 'transparent', border: '2px solid', borderColor: 'shop.ask' }
        : { bgcolor: 'transparent', border: '1px dashed', borderColor: 'text.secondary' }
  return (
    <Box sx={{ ...look, borderRadius: `${EDGE.card}px`, px: 1.5, py: 1, my: 1, fontSize: TYPE.plain }} data-testid="recipe">
      {recipe ? (
        <>
          <b>Recipe</b> {recipe.name}
          <Words tone={standing!.kind === 'doubtful' ? 'ask' : 'quiet'}>{away ? 'changed here' : standingText(standing!)}</Words>
          {away && (
            <Link
              component="button"
              onClick={() =>
                edit('back to the recipe', (base) =>
                  withOperation(base, id, settingsOf(processOf(operation).departs(operation, recipe), recipe)),
                )
              }
            >
              Back to the recipe
            </Link>
          )}
        </>
      ) : (
        <>
          <b>No recipe</b> for this process on {material.name} with {job.machine.name}.{' '}
          <Words tone="quiet">Try it on scrap first.</Words>
        </>
      )}
      {lent && (
        <Link
          component="button"
          onClick={() => edit('settings that are borrowed', (base) => withBorrowed(base, id, lent))}
          data-testid="borrow"
          style={{ textAlign: 'left', display: 'block' }}
        >
          Borrow from {lent.borrowedFrom}: {Number((100 * lent.power).toFixed(1))} %, {lent.speedMmS} mm/s, may be{' '}
          {Math.round(100 * lent.mayBeOff!)} % off
        </Link>
      )}
      {more && (
        <Link
          component="button"
          onClick={() => edit(`what the shop knows of ${shop.name}`, (base) => withNewer(base, shop))}
          data-testid="shop-knows-more"
          style={{ textAlign: 'left', display: 'block' }}
        >
          The shop knows more of {shop.name} by now: take it
        </Link>
      )}
    </Box>
  )
}

/** The job with a borrowed recipe in its own copy of the material, and an operation that follows it. */
function withBorrowed(job: JobDocument, id: string, lent: RecipeType): JobDocument {
  const operation = job.operations[id]
  const material = operationMaterial(job, operation)
  const recipe = { ...lent, id: `${material.id}-${operation.process}-lent`.slice(0, 40) }
  const recipes = [...material.recipes.filter((each) => each.id !== recipe.id), recipe]
  const materials = { ...job.materials, [material.id]: { ...material, recipes } }
  const followed = { ...operation, recipe: recipe.id, keptFrom: undefined } as Operation
  return withOperation({ ...job, materials }, id, {
    ...settingsOf(processOf(followed).departs(followed, recipe), recipe),
    recipe: recipe.id,
    keptFrom: undefined,
  })
}
