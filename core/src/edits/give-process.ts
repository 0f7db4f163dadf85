import {
  burnOrder,
  givesLines,
  type JobDocument,
  materialOf,
  placeIdOf,
  placeOf,
  placesOf,
  sourceOf,
} from '../job/document/document.ts'
import { isRoot, type LineageNode, type PartNode } from '../job/document/nodes.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import { NO_TREATMENT, PLAIN_DOTS } from '../picture/steps.ts'
import type { ArtworkForm } from '../process/process.ts'
import { PROCESS_NAMES, PROCESSES, processOf } from '../process/table.ts'
import { withOperation } from './change.ts'
import { freeName } from './free-name.ts'
import { newTrace, pixelMm } from './new-trace.ts'
import { burned, burnStepOf, switched } from './steps-edits.ts'
import { madeFrom } from './take-away.ts'

/** Artwork that a process burns, with what has to be made for it first. */
interface Taken {
  readonly of: readonly string[]
  /** Nodes that are new. */
  readonly nodes: Readonly<Record<string, LineageNode>>
}

/** Specks are no artwork, mm². */
const SPECK_MM2 = 0.5

/** The looks of a drawing that a node shows: its own, or all that were sorted. */
function looksOf(job: JobDocument, nodeId: string): readonly string[] {
  const node = job.nodes[nodeId]
  if (node.kind === 'part') return node.looks
  const root = sourceOf(job, nodeId)
  return [...new Set(Object.values(job.nodes).flatMap((each) => (each.kind === 'part' && each.from === root ? each.looks : [])))]
}

/** A part of a drawing with some looks in a form: one that is there already, or a new one. */
function partAs(job: JobDocument, nodeId: string, as: PartNode['as'], name: string): Taken | undefined {
  const root = sourceOf(job, nodeId)
  const looks = looksOf(job, nodeId)
  if (looks.length === 0) return undefined
  const known = Object.entries(job.nodes).find(
    ([, each]) =>
      each.kind === 'part' &&
      each.from === root &&
      each.as === as &&
      each.looks.length === looks.length &&
      looks.every((look) => each.looks.includes(look)),
  )
  if (known) return { of: [known[0]], nodes: {} }
  const id = freeName(job.nodes, `${root.slice(0, 24)}-${as}`)
  return { of: [id], nodes: { [id]: { kind: 'part', name, from: root, looks, as } } }
}

/** What has to be made of some artwork so that it has the form that a process needs. @returns undefined where that cannot be */
function madeFor(job: JobDocument, nodeId: string, form: ArtworkForm | 'as written'): Taken | undefined {
  if (form === 'as written') return undefined
  const root = sourceOf(job, nodeId)
  const node = job.nodes[root]
  if (node.kind === 'drawing') {
    if (form === 'edges') return partAs(job, nodeId, 'edges', 'outlines')
    if (form === 'lines') return partAs(job, nodeId, 'lines', 'lines')
    if (form === 'heights') return undefined
    const seen = partAs(job, nodeId, 'seen', 'as seen')
    if (!seen) return undefined
    const id = freeName(job.nodes, `${root.slice(0, 24)}-dots`)
    const dots: LineageNode = {
      kind: 'picture',
      name: 'dots',
      from: seen.of[0],
      ...NO_TREATMENT,
      dots: { ...PLAIN_DOTS, kernel: 'threshold' },
    }
    return { of: [id], nodes: { ...seen.nodes, [id]: dots } }
  }
  if (node.kind !== 'source' && node.kind !== 'mesh') return undefined
  if (form === 'dots' || form === 'heights') {
    const id = freeName(job.nodes, `${root.slice(0, 24)}-${form}`)
    const dots = form === 'dots' ? PLAIN_DOTS : { ...PLAIN_DOTS, kernel: 'none' as const }
    return {
      of: [id],
      nodes: { [id]: { kind: 'picture', name: form === 'dots' ? 'dots' : 'relief', from: root, ...NO_TREATMENT, dots } },
    }
  }
  // Of a page of ink the strokes are followed, not their edges.
  const strokes = form === 'lines' && node.kind === 'source' && node.inkPage !== undefined && !node.hasAlpha
  const id = freeName(job.nodes, `${root.slice(0, 24)}-${strokes ? 'strokes' : 'edge'}`)
  const trace = newTrace(node, root, pixelMm(node, placeOf(job, root)), {
    name: strokes ? 'its strokes' : 'its edge',
    ...(strokes ? { mode: 'centreline' } : {}),
    minAreaMm2: SPECK_MM2,
  })
  return { of: [id], nodes: { [id]: trace } }
}

/**
 * The artwork that a process burns where one piece is meant: the piece itself, else what was made of its family for that, else
 * what can be made of it. @returns undefined where it cannot be burned by this process
 */
function takenBy(job: JobDocument, nodeId: string, process: ProcessName): Taken | undefined {
  const { takes, form } = PROCESSES[process]
  const node = job.nodes[nodeId]
  const fits = (id: string): boolean => {
    const each = job.nodes[id]
    if (!takes(job, id)) return false
    // Dots can be burned as heights, but were not meant as such.
    return each.kind !== 'picture' || (each.dots.kernel === 'none') === (form === 'heights')
  }
  // What gives lines is cut where it is meant itself; of a whole drawing its edges are.
  const encloses = (id: string): boolean => form !== 'edges' || !givesLines(job, id)
  if (fits(nodeId)) return { of: [nodeId], nodes: {} }
  const root = sourceOf(job, nodeId)
  const below = madeFrom(job, [root]).filter((id) => id !== nodeId && sourceOf(job, id) === root)
  // Of a picture whatever was made of it; of one outline only its picture is meant: another edge is not its own.
  const meansAll = isRoot(node) || node.kind === 'picture'
  const found = below.find((id) => fits(id) && encloses(id) && (meansAll || job.nodes[id].kind === 'picture'))
  return found === undefined ? madeFor(job, nodeId, form) : { of: [found], nodes: {} }
}

/** Why a process burns nothing on what some artwork lies on, in a sentence. */
export function refusedOn(job: JobDocument, nodeId: string, process: ProcessName): string | undefined {
  const place = placesOf(job, sourceOf(job, nodeId))[0]
  return place === undefined ? undefined : PROCESSES[process].refused?.(materialOf(job, job.placements[place].on), job.machine)
}

/** The artwork of several pieces for one process; pieces that cannot be burned by it are left out. */
function allTakenBy(job: JobDocument, nodeIds: readonly string[], process: ProcessName): Taken {
  let all: Taken = { of: [], nodes: {} }
  for (const id of nodeIds) {
    if (job.nodes[id] && refusedOn(job, id, process) !== undefined) continue
    const taken = job.nodes[id] && takenBy({ ...job, nodes: { ...job.nodes, ...all.nodes } }, id, process)
    if (taken) all = { of: [...new Set([...all.of, ...taken.of])], nodes: { ...all.nodes, ...taken.nodes } }
  }
  return all
}

/** The operation that burns some artwork by a process already, as `given` would do it; the first in the order. */
export function burnedAs(job: JobDocument, nodeIds: readonly string[], process: ProcessName): string | undefined {
  const { of } = allTakenBy(job, nodeIds, process)
  const { name } = PROCESSES[process]
  return burnOrder(job).find((id) => {
    const operation = job.operations[id]
    return processOf(operation).name === name && operation.of.some((node) => of.includes(node))
  })
}

/** The processes that some artwork can get, in the order of their table. */
export const processesFor = (job: JobDocument, nodeIds: readonly string[]): ProcessName[] =>
  PROCESS_NAMES.filter((name) => allTakenBy(job, nodeIds, name).of.length > 0)

/** Where an operation comes in an order that nobody made: before the first that belongs after it. */
export function placeInOrder(job: JobDocument, process: ProcessName): number {
  const order = burnOrder(job)
  const own = PROCESSES[process].turn
  const before = order.findIndex((id) => processOf(job.operations[id]).turn > own)
  return before < 0 ? order.length : before
}

const whyNot = (job: JobDocument, nodeIds: readonly string[], process: ProcessName): string =>
  nodeIds.map((id) => job.nodes[id] && refusedOn(job, id, process)).find((why) => why !== undefined) ??
  'This artwork cannot be burned in that way.'

/** The material that artwork lies on. */
const materialBelow = (job: JobDocument, nodeId: string) => materialOf(job, job.placements[placeIdOf(job, nodeId)].on)

/**
 * Artwork with a process more: one operation over all of it, set by the material's recipe, at its place in the order.
 * @param nodeIds any pieces; those that it cannot burn are left out
 * @returns the job, and the id of the operation @throws Error with a sentence where it burns none of them
 */
export function given(
  job: JobDocument,
  nodeIds: readonly string[],
  process: ProcessName,
): { readonly job: JobDocument; readonly operation: string } {
  const { of, nodes } = allTakenBy(job, nodeIds, process)
  if (of.length === 0) throw new Error(whyNot(job, nodeIds, process))
  const withNodes = { ...job, nodes: { ...job.nodes, ...nodes } }
  const id = freeName({ ...job.operations, ...job.steps }, process)
  const operation = PROCESSES[process].fromRecipe(of, materialBelow(withNodes, of[0]), job.machine)
  return { job: burned(withNodes, id, operation, placeInOrder(job, process)), operation: id }
}

/** The processes that an operation can change into, without its own. */
export const processesInstead = (job: JobDocument, id: string): ProcessName[] =>
  PROCESS_NAMES.filter((name) => {
    const { of, process } = job.operations[id]
    return (
      name !== process && of.every((node) => refusedOn(job, node, name) === undefined && takenBy(job, node, name) !== undefined)
    )
  })

/** An operation that burns by another process, where it stands in the order: its artwork is the same, its values are the recipe's. */
export function withProcess(job: JobDocument, id: string, process: ProcessName): JobDocument {
  const { of: before, at } = job.operations[id]
  const { of, nodes } = allTakenBy(job, before, process)
  if (of.length === 0) throw new Error(whyNot(job, before, process))
  const withNodes = { ...job, nodes: { ...job.nodes, ...nodes } }
  const made = PROCESSES[process].fromRecipe(of, materialBelow(withNodes, of[0]), job.machine)
  const operation = (at ? { ...made, at } : made) as Operation
  return { ...withNodes, operations: { ...job.operations, [id]: operation } }
}

/** An operation once more, right after it, with the same settings. @returns the job, and the id of the new one */
export function operationAgain(job: JobDocument, id: string): { readonly job: JobDocument; readonly operation: string } {
  const copy = freeName({ ...job.operations, ...job.steps }, id.replace(/\d+$/, ''))
  const place = burnOrder(job).indexOf(id)
  return { job: burned(job, copy, job.operations[id], place < 0 ? undefined : place + 1), operation: copy }
}

/** Operations that are kept with their settings and not burned. */
export function asideOperations(job: JobDocument): string[] {
  const used = new Set(burnOrder(job))
  return Object.keys(job.operations).filter((id) => !used.has(id))
}

/** An operation that was put aside, burned again: where it stands in the line, else at its place in the order. */
export const usedAgain = (job: JobDocument, id: string): JobDocument =>
  burnStepOf(job, id) === undefined
    ? burned(job, id, job.operations[id], placeInOrder(job, job.operations[id].process))
    : switched(job, id, true)

/**
 * Operations with the settings of another one: all of them where the process is the same, else those that every process has;
 * what they burn stays.
 */
export function withSettingsOf(job: JobDocument, from: string, to: readonly string[]): JobDocument {
  const source = job.operations[from]
  const { of: _, at: __, ...settings } = source
  // A recipe belongs to its process.
  const { power, speedMmS, passes, air } = source
  const common = { power, speedMmS, passes, air, recipe: undefined }
  const changed = to
    .filter((id) => id !== from && job.operations[id])
    .map((id) => {
      const own = job.operations[id]
      const { of, at } = own
      const alike = processOf(own) === processOf(source)
      return [id, alike ? { ...settings, of, ...(at ? { at } : {}) } : { ...own, ...common }] as const
    })
  return { ...job, operations: { ...job.operations, ...Object.fromEntries(changed) } as JobDocument['operations'] }
}

/** What every operation says, whatever its process. */
const OF_ALL: ReadonlySet<string> = new Set(['power', 'speedMmS', 'passes', 'air', 'recipe', 'prepared'])

/** Several operations changed alike, each by what it has of it: a kerf is nothing for an area. */
export const withOperations = (job: JobDocument, ids: readonly string[], change: Partial<Operation>): JobDocument =>
  ids.reduce((next, id, i) => {
    const { process } = next.operations[id]
    const own = Object.entries(change).filter(
      ([name]) => i === ids.length - 1 || OF_ALL.has(name) || name in PROCESSES[process].schema,
    )
    return withOperation(next, id, Object.fromEntries(own) as Partial<Operation>)
  }, job)

/** In which settings operations differ from the last of them; only what both have counts. */
export function differingSettings(job: JobDocument, ids: readonly string[]): string[] {
  const last = job.operations[ids[ids.length - 1]] as unknown as Record<string, unknown>
  const names = new Set<string>()
  for (const id of ids.slice(0, -1)) {
    const { process } = job.operations[id]
    const own = job.operations[id] as unknown as Record<string, unknown>
    for (const name of [...OF_ALL, ...(process === last.process ? Object.keys(PROCESSES[process].schema) : [])])
      if (name !== 'recipe' && JSON.stringify(own[name]) !== JSON.stringify(last[name])) names.add(name)
  }
  return [...names]
}
