import {
  bringUpMachine,
  bringUpMaterial,
  type ImportRule,
  importRulesSchema,
  MACHINES,
  MATERIALS,
  type Machine,
  type Material,
  machineSchema,
  materialSchema,
} from '@neotaxis/core'
import { readInput, WorkError } from './io.ts'

export interface Catalogue {
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
  /** What becomes of drawings; absent: as every shop begins. */
  readonly importRules?: readonly ImportRule[]
}

/** The shipped catalogue, or one exported by the application. */
export function readCatalogue(path: string | undefined): Catalogue {
  if (path === undefined) return { materials: MATERIALS, machines: MACHINES }
  try {
    const { materials, machines, importRules } = JSON.parse(new TextDecoder().decode(readInput(path))) as Partial<Catalogue>
    if (!Array.isArray(materials) || !Array.isArray(machines)) throw new Error()
    if (importRules !== undefined && importRulesSchema.validate(importRules).error) throw new Error()
    const up = { materials: materials.map(bringUpMaterial), machines: machines.map(bringUpMachine) }
    if (up.materials.some((one) => materialSchema.validate(one).error)) throw new Error()
    if (up.machines.some((one) => machineSchema.validate(one).error)) throw new Error()
    return { ...(up as Pick<Catalogue, 'materials' | 'machines'>), ...(importRules ? { importRules } : {}) }
  } catch {
    throw new WorkError(`${path} is no catalogue.`)
  }
}

export function byId<T extends { readonly id: string }>(list: readonly T[], id: string, what: string): T {
  const found = list.find((entry) => entry.id === id)
  if (!found) throw new WorkError(`There is no ${what} “${id}”. There are: ${list.map((entry) => entry.id).join(', ')}.`)
  return found
}
