import { Box, Link } from '@mui/material'
import {
  type JobDocument,
  type Operation,
  operationMaterial,
  processOf,
  type Recipe as RecipeType,
  type Standing,
  standingOf,
  withOperation,
} from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { tellDay } from '../field/told.ts'
import { useEdit } from '../use-edit.ts'

const times = (count: number): string => (count === 1 ? 'once' : `${count} times`)

/** A day in one piece. @param iso as evidence has it */
const dayText = (iso: string): string => tellDay(`${iso}T12:00:00`).replaceAll(' ', '\u00a0')

/** How well settings are known, in words. */
const standingText = (standing: Standing): string =>
  standing.kind === 'proven'
    ? `proven ${times(standing.times)}${standing.failed > 0 ? `, ${times(standing.failed)} not` : ''}${standing.last ? `, last on ${dayText(standing.last)}` : ''}`
    : standing.kind === 'borrowed'
      ? `borrowed from ${standing.from}, not proven here`
      : 'guessed, try it on scrap first'

/** What a recipe says for some settings. */
const settingsOf = (names: readonly string[], recipe: RecipeType): Partial<Operation> =>
  Object.fromEntries(names.map((name) => [name, recipe[name as keyof RecipeType]]))

/** Which recipe the settings come from, how well it is known, and whether they left it. */
export function Recipe({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const operation = job.operations[id]
  const recipe = operationMaterial(job, operation).recipes.find((r) => r.id === operation.recipe)
  const away = recipe && processOf(operation).departs(operation, recipe).length > 0
  const standing = recipe && standingOf(recipe)
  const look =
    standing?.kind === 'proven'
      ? { bgcolor: 'shop.selected', border: '1px solid transparent' }
      : { bgcolor: 'transparent', border: '1px dashed', borderColor: 'text.secondary' }
  return (
    <Box sx={{ ...look, borderRadius: `${EDGE.card}px`, px: 1.5, py: 1, my: 1, fontSize: TYPE.plain }}>
      {recipe ? (
        <>
          <b>Recipe</b> {recipe.name}
          <Words tone="quiet">{away ? 'changed here' : standingText(standing!)}</Words>
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
          <b>No recipe</b> for this process on {operationMaterial(job, operation).name} with {job.machine.name}.{' '}
          <Words tone="quiet">Try it on scrap first.</Words>
        </>
      )}
    </Box>
  )
}
