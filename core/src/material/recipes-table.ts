import Papa from 'papaparse'
import { standingOf } from './evidence.ts'
import type { Material, Recipe } from './material.ts'
import { RECIPE_PROCESSES } from './material.ts'

/** A line of a table of recipes that could not be taken. */
export interface RecipeRowTrouble {
  /** As a table counts it, from 1. */
  readonly row: number
  readonly message: string
}

/** A recipe as a table has it, and the material that it is for. */
export interface ReadRecipe {
  readonly material: string
  readonly recipe: Recipe
}

const HEADS = [
  'material',
  'thickness mm',
  'process',
  'machine',
  'lens',
  'name',
  'power %',
  'speed mm/s',
  'passes',
  'interval mm',
  'kerf mm',
  'air',
  'prepared',
  'pulses Hz',
  'pulse ns',
  'borrowed from',
  'worked',
  'failed',
  'id',
] as const

/** All recipes of some materials as a table: a line each. */
export function recipesTable(materials: readonly Material[]): string {
  const told = (value: number | string | undefined): string => (value === undefined ? '' : String(value))
  const rows = materials.flatMap(({ name, thicknessMm, recipes }) =>
    recipes.map((recipe) => {
      const standing = standingOf(recipe)
      return [
        name,
        told(thicknessMm),
        recipe.process,
        recipe.machine,
        told(recipe.lens),
        recipe.name,
        told(Number((100 * recipe.power).toFixed(2))),
        told(recipe.speedMmS),
        told(recipe.passes),
        told(recipe.intervalMm),
        told(recipe.kerfMm),
        recipe.air ? 'on' : 'off',
        told(recipe.prepared),
        told(recipe.pulseHz),
        told(recipe.pulseNs),
        told(recipe.borrowedFrom),
        told('times' in standing ? standing.times : 0),
        told('failed' in standing ? standing.failed : 0),
        recipe.id,
      ]
    }),
  )
  return Papa.unparse([[...HEADS], ...rows], { newline: '\n' })
}

/** Numbers of a table, by its heads: what each must be. */
const NUMBERS = {
  'power %': { min: 0, max: 100, needed: true },
  'speed mm/s': { min: 0.1, max: 10_000, needed: true },
  passes: { min: 1, max: 50, needed: true },
  'interval mm': { min: 0.02, max: 5, needed: false },
  'kerf mm': { min: 0, max: 5, needed: false },
  'pulses Hz': { min: 1, max: 1e7, needed: false },
  'pulse ns': { min: 0.001, max: 1e6, needed: false },
} as const

/**
 * Recipes from a table as `recipesTable` writes it, in any order of its columns; fields parted by commas, semicolons or tabs, numbers
 * with a point or a comma. What is not there for a line is told at its row. A recipe without an id gets one by `newId`.
 * @throws RangeError with a sentence where it is no such table
 */
export function readRecipesTable(
  text: string,
  materials: readonly Material[],
  newId: () => string,
): { readonly recipes: readonly ReadRecipe[]; readonly troubles: readonly RecipeRowTrouble[] } {
  const { data } = Papa.parse<Record<string, string>>(text.replace(/^\ufeff/, '').trim(), {
    header: true,
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ','],
    transformHeader: (head) => head.trim(),
  })
  const missing = (['material', 'process', 'machine', 'power %', 'speed mm/s'] as const).filter(
    (head) => !(head in (data[0] ?? {})),
  )
  if (missing.length > 0)
    throw new RangeError(`A table of recipes has the heads ${HEADS.join(', ')}. Not there: ${missing.join(', ')}.`)
  const troubles: RecipeRowTrouble[] = []
  const recipes: ReadRecipe[] = []
  data.forEach((line, i) => {
    const row = i + 2
    const say = (message: string): void => void troubles.push({ row, message: `Row ${row}: ${message}` })
    const cell = (head: string): string => (line[head] ?? '').trim()
    const thick = cell('thickness mm') === '' ? undefined : Number(cell('thickness mm').replace(',', '.'))
    const material = materials.find(
      ({ id, name, thicknessMm }) =>
        (id === cell('material') || name.toLowerCase() === cell('material').toLowerCase()) &&
        (thick === undefined || Math.abs(thicknessMm - thick) < 0.01),
    )
    if (!material) {
      say(`there is no material “${cell('material')}”${thick === undefined ? '' : ` of ${thick} mm`} in the shop.`)
      return
    }
    const process = RECIPE_PROCESSES.find((each) => each === cell('process').toLowerCase())
    if (!process) {
      say(`“${cell('process')}” is no process: ${RECIPE_PROCESSES.join(', ')}.`)
      return
    }
    if (cell('machine') === '') {
      say('it says no machine.')
      return
    }
    const numbers: Partial<Record<keyof typeof NUMBERS, number>> = {}
    for (const [head, { min, max, needed }] of Object.entries(NUMBERS)) {
      const typed = cell(head)
      if (typed === '' && !needed) continue
      const value = head === 'passes' && typed === '' ? 1 : Number(typed.replace(',', '.').replace(/\s*%$/, ''))
      if (!(typed !== '' || head === 'passes') || !(value >= min && value <= max)) {
        say(`“${typed}” under “${head}” is no number between ${min} and ${max}.`)
        return
      }
      numbers[head as keyof typeof NUMBERS] = value
    }
    const text = (head: string): string | undefined => (cell(head) === '' ? undefined : cell(head))
    const given = Object.fromEntries(
      Object.entries({
        lens: text('lens'),
        intervalMm: numbers['interval mm'],
        kerfMm: numbers['kerf mm'],
        prepared: text('prepared'),
        pulseHz: numbers['pulses Hz'],
        pulseNs: numbers['pulse ns'],
      }).filter(([, value]) => value !== undefined),
    )
    // What others proved is not proven here: their counts stay with them.
    const known = material.recipes.find(({ id }) => id === cell('id'))
    recipes.push({
      material: material.id,
      recipe: {
        id: known?.id ?? newId(),
        process,
        name: text('name') ?? `${material.name} ${material.thicknessMm} mm, ${process}`,
        machine: cell('machine'),
        power: numbers['power %']! / 100,
        speedMmS: numbers['speed mm/s']!,
        passes: Math.round(numbers.passes ?? 1),
        air: /^(on|yes|true|1)$/i.test(cell('air')),
        ...given,
        ...((text('borrowed from') ?? !known) ? { borrowedFrom: text('borrowed from') ?? 'a table' } : {}),
        evidence: known?.evidence ?? [],
      },
    })
  })
  return { recipes, troubles }
}
