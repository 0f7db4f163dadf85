import { drawnAssets } from '../../drawn/drawn.ts'
import type { Machine } from '../../machine/machine.ts'
import type { Material } from '../../material/material.ts'
import type { Pose, Size } from '../../space/pose.ts'
import type { RunLimits } from './limits.ts'
import { isRoot, type LineageNode, type PicturedNode, parentsOf } from './nodes.ts'
import type { Operation } from './operation.ts'
import type { Repetition } from './repeats.ts'
import { burns, type Step } from './steps.ts'
import type { Trial } from './trial.ts'
import type { Workpiece } from './workpiece.ts'

/** The version this program writes. A newer one is refused, older ones are brought up. */
export const JOB_VERSION = 5

/**
 * Where a root lies on a workpiece: the box of its artwork, on the face (mm, x right, y down), turned about its own middle.
 * Everything that comes from the root lies with it, so it stays in register. A root may lie in many places.
 */
export interface Placement extends Pose, Size {
  /** The root that lies here. */
  readonly of: string
  /** The workpiece that it lies on. */
  readonly on: string
  /** Of a text with a list: the entry that this place shows alone, from 0; its box is the room that it has. Absent: all of them. */
  readonly entry?: number
  /** On a face that tapers or curves: it keeps its shape and size on the surface. Absent: it follows the face as that is counted. */
  readonly trueToFace?: true
}

/**
 * One job, complete in itself: with snapshots of the materials, their recipes and the machine, so that it plans to the
 * same program anywhere. Things are kept by id, so that an edit touches only what it changes.
 */
export interface JobDocument {
  readonly format: 'neotaxis-job'
  readonly version: number
  readonly name: string
  readonly workpieces: Readonly<Record<string, Workpiece>>
  readonly materials: Readonly<Record<string, Material>>
  readonly machine: Machine
  readonly nodes: Readonly<Record<string, LineageNode>>
  readonly placements: Readonly<Record<string, Placement>>
  readonly operations: Readonly<Record<string, Operation>>
  readonly steps: Readonly<Record<string, Step>>
  /** Ids of the steps in the order in which they happen; an operation that no step burns is put aside with its settings. */
  readonly order: readonly string[]
  /** What is thinner than this is told, mm; absent: half the workpiece's thickness, at least a millimetre. */
  readonly thinMm?: number
  /** Artwork that moves and grows together: root → the group that it belongs to. */
  readonly groups?: Readonly<Record<string, string>>
  /** Artwork that lies in rows with all that is grouped with it: root → how often. Its places are laid as the first one lies. */
  readonly repeats?: Readonly<Record<string, Repetition>>
  /** What a run is limited to. Of a job as it is run; one that is kept has none. */
  readonly limits?: RunLimits
  /**
   * The workpiece that somebody looks at: what is said of the job and of no workpiece is about that one. Of a job on a screen; one
   * that is kept has none.
   */
  readonly lookedAt?: string
  /** What it tries, where it is a card of trials. */
  readonly trial?: Trial
  /** Findings marked as meant: finding id → what it said then. */
  readonly meant: Readonly<Record<string, string>>
}

/** The first of some ids: the same for everybody, in whatever order they were written. */
const firstOf = (record: Readonly<Record<string, unknown>>): string | undefined => {
  let first: string | undefined
  for (const id in record) if (first === undefined || id < first) first = id
  return first
}

/** The workpiece that a job is about where nothing else is said: the one that is looked at, else the first. */
export function mainPieceId({ workpieces, lookedAt }: Pick<JobDocument, 'workpieces' | 'lookedAt'>): string {
  if (lookedAt !== undefined && workpieces[lookedAt]) return lookedAt
  const id = firstOf(workpieces)
  if (id === undefined) throw new Error('The job has no workpiece.')
  return id
}

export const mainPiece = (job: Pick<JobDocument, 'workpieces' | 'lookedAt'>): Workpiece => job.workpieces[mainPieceId(job)]

/** The material of a workpiece. @param id default the main one's */
export function materialOf(job: Pick<JobDocument, 'workpieces' | 'materials' | 'lookedAt'>, id = mainPieceId(job)): Material {
  const material = job.materials[job.workpieces[id].material]
  if (!material) throw new Error(`The workpiece “${job.workpieces[id].name}” has no material.`)
  return material
}

/** The source that a node comes from in the end. */
export function sourceOf(job: JobDocument, nodeId: string): string {
  let id = nodeId
  for (let steps = 0; steps < 100; steps++) {
    const node = job.nodes[id]
    if (!node) throw new Error(`The job has no artwork “${id}”.`)
    if (isRoot(node)) return id

    id = node.from
  }
  throw new Error(`The artwork “${nodeId}” comes from itself.`)
}

/** Ids of all places where a root lies, in a fixed order. */
export function placesOf(job: Pick<JobDocument, 'placements'>, root: string): string[] {
  if (job.placements[root]?.of === root && Object.keys(job.placements).length === 1) return [root]
  const ids: string[] = []
  for (const id in job.placements) if (job.placements[id].of === root) ids.push(id)
  return ids.sort((a, b) => Number(b === root) - Number(a === root) || (a < b ? -1 : 1))
}

/** The place that counts where a root lies in several: on the workpiece that is looked at, else the one that has its own id, else the first. */
export function placeIdOf(job: JobDocument, nodeId: string): string {
  const root = sourceOf(job, nodeId)
  if (job.lookedAt !== undefined) {
    const here = placesOf(job, root).find((place) => job.placements[place].on === job.lookedAt)
    if (here !== undefined) return here
  }
  const own = job.placements[root]
  const id = own?.of === root ? root : placesOf(job, root)[0]
  if (id === undefined) throw new Error(`The artwork “${job.nodes[root].name}” has no place.`)
  return id
}

/** Where the family of a node lies. @param place id of one of several placements */
export const placeOf = (job: JobDocument, nodeId: string, place?: string): Placement =>
  job.placements[place ?? placeIdOf(job, nodeId)]

/** The job with a family lying elsewhere, or in another size. @param place default the place that counts */
export function withPlace(
  job: JobDocument,
  nodeId: string,
  change: Partial<Placement>,
  place = placeIdOf(job, nodeId),
): JobDocument {
  return { ...job, placements: { ...job.placements, [place]: { ...job.placements[place], ...change } } }
}

/** One sheet differs by as much from what is written on it, share: measured, it is the same piece still. */
const SAME_SHEET = 0.1

/** The job with its main workpiece otherwise. One of another material, shape or thickness is not that piece of stock any more. */
export function withPiece(job: JobDocument, change: Partial<Workpiece>, id = mainPieceId(job)): JobDocument {
  const { stock, ...piece } = job.workpieces[id]
  const { thicknessMm = piece.thicknessMm } = change
  const isOther = 'outline' in change || 'material' in change || Math.abs(thicknessMm / piece.thicknessMm - 1) > SAME_SHEET
  return { ...job, workpieces: { ...job.workpieces, [id]: { ...piece, ...(stock && !isOther && { stock }), ...change } } }
}

const burnOrders = new WeakMap<object, { readonly steps: object; readonly ids: readonly string[] }>()

/** Ids of the operations in the order in which they burn. */
export function burnOrder({ order, steps }: Pick<JobDocument, 'order' | 'steps'>): readonly string[] {
  const known = burnOrders.get(order)
  if (known?.steps === steps) return known.ids
  const ids = order.flatMap((id) => {
    const step = steps[id]
    return step && burns(step) ? [step.operation] : []
  })
  burnOrders.set(order, { steps, ids })
  return ids
}

/** Ids of the operations that burn a node or something made from it. */
export function usesOf(job: JobDocument, nodeId: string): string[] {
  const comesFrom = (at: string): boolean =>
    at === nodeId || (job.nodes[at] !== undefined && parentsOf(job.nodes[at]).some(comesFrom))
  return burnOrder(job).filter((id) => job.operations[id]?.of.some(comesFrom))
}

/** Whether a node gives lines to be followed as they are, not outlines of something. */
export function givesLines(job: JobDocument, nodeId: string): boolean {
  const node = job.nodes[nodeId]
  if (node?.kind === 'trace') return node.mode === 'centreline'
  if (node?.kind === 'part') return node.as === 'lines'
  // Several edges, one within the other, are no edge of a part.
  if (node?.kind === 'offset') return (node.steps ?? 1) > 1 || node.both === true
  return (node?.kind === 'clean' || node?.kind === 'clip') && givesLines(job, node.from)
}

/** Pixels of a drawing on a millimetre, and the most it has. */
const DRAWN_PX_MM = 20
const MOST_DRAWN_PX = 16e6

/** The picture or mesh that a node comes from. @throws where it comes from neither */
export function picturedRoot(job: JobDocument, nodeId: string, place?: string): PicturedNode & { readonly id: string } {
  const id = sourceOf(job, nodeId)
  const root = job.nodes[id]
  if (root.kind === 'drawing') {
    const { widthMm, heightMm } = placeOf(job, nodeId, place)
    const pxPerMm = Math.min(DRAWN_PX_MM, Math.sqrt(MOST_DRAWN_PX / (widthMm * heightMm)))
    const side = (mm: number): number => Math.max(1, Math.round(mm * pxPerMm))
    return { ...root, id, widthPx: side(widthMm), heightPx: side(heightMm), framing: [] }
  }
  if (root.kind !== 'source' && root.kind !== 'mesh') throw new Error(`“${root.name}” is no picture.`)
  return { ...root, id }
}

/** SHA-256 of every asset that the job needs. */
export const assetsOf = (job: JobDocument): string[] =>
  [
    ...new Set(
      Object.values(job.nodes).flatMap((node) =>
        isRoot(node) ? [node.asset, ...(node.kind === 'drawing' ? drawnAssets(node.drawn) : [])] : [],
      ),
    ),
  ].sort()
