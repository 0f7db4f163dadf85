import { bringUpMaterial, counted, type Material } from '@neotaxis/core'
import { shopOrders } from '../../api/orders.ts'

/**
 * Materials with their recipes from a file of this application: new ones are put into the shop; of those that are there the recipes
 * come, and what they rest on. @throws Error with a sentence where it is no such file
 */
export async function readCatalogueFile(
  text: string,
  there: readonly Material[],
): Promise<{ readonly told: string; readonly troubles: readonly string[] }> {
  let list: unknown
  try {
    list = (JSON.parse(text) as { materials?: unknown }).materials
  } catch {
    throw new Error('This file is damaged: it ends in the middle, or is no JSON.')
  }
  if (!Array.isArray(list)) throw new Error('This file holds no materials: a catalogue has a list “materials”.')
  let [made, recipes] = [0, 0]
  const troubles: string[] = []
  for (const each of list) {
    try {
      const material = bringUpMaterial(each) as Material
      if (!there.some(({ id }) => id === material.id)) {
        await shopOrders.saveMaterial({ ...material, recipes: [] }, null)
        made++
      }
      if (material.recipes.length === 0) continue
      await shopOrders.bringRecipes(material.recipes.map((recipe) => ({ material: material.id, recipe })))
      recipes += material.recipes.length
    } catch (cause) {
      const name = (each as { name?: string } | null)?.name ?? 'One without a name'
      troubles.push(`“${name}”: ${cause instanceof Error ? cause.message : 'it cannot be read.'}`)
    }
  }
  return { told: `Taken: ${counted(made, 'new material')}, ${counted(recipes, 'recipe')}`, troubles }
}
