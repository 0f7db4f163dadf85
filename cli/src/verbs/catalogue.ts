import {
  bedSize,
  borrowed,
  type Material,
  RECIPE_PROCESSES,
  readRecipesTable,
  recipesTable,
  standingOf,
  withEvidence,
} from '@neotaxis/core'
import { byId, type Catalogue, readCatalogue } from '../catalogue.ts'
import { type Io, readInput, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'

const WORDS = ['list', 'recipes', 'take', 'borrow'] as const

/**
 * `catalogue list`: materials and machines by id · `recipes`: all recipes as a table · `take TABLE`: recipes of a table into a catalogue
 * · `borrow`: a recipe worked out from others.
 */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      catalogue: { type: 'string' },
      material: { type: 'string' },
      machine: { type: 'string' },
      process: { type: 'string' },
    },
    { min: 1, max: 2, what: `one of the words ${WORDS.join(', ')}` },
  )
  const [word, file] = positionals
  const catalogue = readCatalogue(values.catalogue)
  switch (word) {
    case 'list':
      return list(catalogue, values.json, io)
    case 'recipes': {
      const table = recipesTable(catalogue.materials)
      if (values.output) writeOutput(values.output, new TextEncoder().encode(`${table}\n`))
      else if (values.json) tell(io, true, { recipes: catalogue.materials.flatMap(({ recipes }) => recipes) }, [])
      else io.out(`${table}\n`)
      return 0
    }
    case 'take':
      if (file === undefined || !values.output)
        throw new UsageError('take wants a table of recipes, and -o OUT for the catalogue.')
      return take(catalogue, file, values.output, values.json, io)
    case 'borrow': {
      const process = wordOption('process', values.process, RECIPE_PROCESSES)
      if (!values.material || !values.machine || !process)
        throw new UsageError('borrow wants --material, --machine and --process.')
      const material = byId(catalogue.materials, values.material, 'material')
      const machine = byId(catalogue.machines, values.machine, 'machine')
      const recipe = borrowed(material, process, machine, catalogue.materials, catalogue.machines)
      if (!recipe)
        throw new WorkError(
          `There is nothing proven to work it out from: ${material.name} ${material.thicknessMm} mm begins with a card of trials.`,
        )
      tell(io, values.json, { recipe }, [
        `${Number((100 * recipe.power).toFixed(1))} % · ${recipe.speedMmS} mm/s · ${recipe.passes} ${recipe.passes === 1 ? 'pass' : 'passes'}, from ${recipe.borrowedFrom}, may be ${Math.round(100 * recipe.mayBeOff!)} % off`,
      ])
      return 0
    }
    default:
      throw new UsageError(`it knows the words ${WORDS.join(', ')}.`)
  }
}

function list({ materials, machines }: Catalogue, json: boolean, io: Io): number {
  const brief = {
    materials: materials.map(({ id, name, thicknessMm, forbidden, recipes }) => ({
      id,
      name,
      thicknessMm,
      ...(forbidden ? { forbidden } : {}),
      proven: recipes.filter((recipe) => standingOf(recipe).kind === 'proven').length,
      recipes: recipes.length,
    })),
    machines: machines.map((machine) => ({ id: machine.id, name: machine.name, bed: bedSize(machine), watts: machine.watts })),
  }
  if (json) tell(io, true, brief, [])
  else
    io.out(
      `${[...brief.materials.map((m) => `${m.id.padEnd(20)} ${m.name}, ${m.thicknessMm} mm${m.forbidden ? ', never lasered' : `, ${m.proven} of ${m.recipes} recipes proven`}`), ...brief.machines.map((m) => `${m.id.padEnd(20)} ${m.name}, bed ${m.bed.widthMm} × ${m.bed.heightMm} mm`)].join('\n')}\n`,
    )
  return 0
}

/** Recipes of a table put to their materials. */
function take(catalogue: Catalogue, file: string, output: string, json: boolean, io: Io): number {
  let next = 0
  try {
    const text = new TextDecoder().decode(readInput(file))
    const { recipes, troubles } = readRecipesTable(text, catalogue.materials, () => `taken-${++next}`)
    const materials = catalogue.materials.map((material): Material => {
      const mine = recipes.filter((each) => each.material === material.id).map(({ recipe }) => recipe)
      const kept = material.recipes.map((recipe) => {
        const anew = mine.find(({ id }) => id === recipe.id)
        return anew ? { ...anew, evidence: withEvidence(anew.evidence, recipe.evidence) } : recipe
      })
      return { ...material, recipes: [...kept, ...mine.filter(({ id }) => !material.recipes.some((one) => one.id === id))] }
    })
    writeOutput(output, new TextEncoder().encode(`${JSON.stringify({ ...catalogue, materials })}\n`))
    const told = troubles.map(({ message }) => message)
    tell(io, json, { taken: recipes.length, troubles: told }, [`${recipes.length} recipes taken`, ...told])
    return troubles.length > 0 ? 1 : 0
  } catch (cause) {
    if (cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}
