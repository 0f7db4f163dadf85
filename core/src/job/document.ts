import type { Join } from '../geometry/clip.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import type { Channel } from '../outline/ink.ts'
import type { Dots, FramingStep, GreyWeights, Treatment } from '../picture/steps.ts'

/** The version this program writes. A newer one is refused, older ones are brought up. */
export const JOB_VERSION = 3

/** A picture as it was brought in: its bytes are the asset. */
export interface SourceNode {
  readonly kind: 'source'
  readonly name: string
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  /** How it is cropped, straightened, turned and mirrored, for everything that is made from it. */
  readonly framing: readonly FramingStep[]
}

/** The axis a mesh is looked along: `+z` sees it from above. */
export type ViewAxis = '+x' | '-x' | '+y' | '-y' | '+z' | '-z'

/** A mesh whose depth along an axis is a picture: near is white, far is black. */
export interface MeshNode {
  readonly kind: 'mesh'
  readonly name: string
  readonly asset: string
  readonly axis: ViewAxis
  /** The part of its depth that is used, 0 the nearest point to 1 the farthest. */
  readonly near: number
  readonly far: number
  /** Size of its height map. */
  readonly widthPx: number
  readonly heightPx: number
  readonly framing: readonly FramingStep[]
}

/** The picture made ready for the material: treated, then dots. */
export interface PictureNode extends Treatment {
  readonly kind: 'picture'
  readonly name: string
  readonly from: string
  readonly grey?: GreyWeights
  readonly dots: Dots
}

/** Outlines traced from the source's darkness or opacity. */
export interface TraceNode {
  readonly kind: 'trace'
  readonly name: string
  readonly from: string
  readonly channel: Channel
  readonly threshold: number
  readonly toleranceMm: number
  readonly cornerDeg: number
  readonly minAreaMm2: number
}

/** Outlines at a distance from other outlines. */
export interface OffsetNode {
  readonly kind: 'offset'
  readonly name: string
  readonly from: string
  readonly distanceMm: number
  readonly join: Join
  readonly outermost: boolean
}

/** A program that was made elsewhere, as text: its moves are the artwork. */
export interface ProgramNode {
  readonly kind: 'program'
  readonly name: string
  readonly asset: string
}

/** One member of a family of artwork. `from` names the node it comes from. */
export type LineageNode = SourceNode | MeshNode | PictureNode | TraceNode | OffsetNode | ProgramNode

/** A root that is a picture, or has one. */
export type PicturedNode = SourceNode | MeshNode

/** Artwork that comes from nothing else, and has a place of its own. */
export const isRoot = (node: LineageNode): node is SourceNode | MeshNode | ProgramNode =>
  node.kind === 'source' || node.kind === 'mesh' || node.kind === 'program'

/** The picture or mesh that a node comes from. @throws where it comes from neither */
export function picturedRoot(job: JobDocument, nodeId: string): PicturedNode & { readonly id: string } {
  const id = sourceOf(job, nodeId)
  const root = job.nodes[id]
  if (root.kind !== 'source' && root.kind !== 'mesh') throw new Error(`“${root.name}” is no picture.`)
  return { ...root, id }
}

/**
 * Where a source lies on the workpiece. Everything that comes from it lies with it, so it stays in register.
 * Job coordinates: mm, x right, y down, origin at the workpiece's top-left corner.
 */
export interface Placement {
  readonly xMm: number
  readonly yMm: number
  readonly widthMm: number
  readonly heightMm: number
}

/** The machine waits before an operation until somebody has done what is asked. */
export interface Pause {
  readonly text: string
  /** The piece or the machine is prepared anew: programs saved as files end here, and the next one begins. */
  readonly newSetUp: boolean
}

export interface PictureOperation {
  readonly kind: 'picture'
  readonly node: string
  readonly recipe?: string
  /** Share of full power, 0–1. */
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  /** Distance of lines and of dots in a line. */
  readonly intervalMm: number
  /** Burns rows in both directions, or all from the left. */
  readonly bothWays: boolean
  /** Power of the weakest mark; `power` is that of the strongest. 0 where grey is not burned as power. */
  readonly minPower: number
  /** What is even from mark to mark: the power, or by the material's measured curve the depth, or the tone. */
  readonly evenIn: 'power' | 'depth' | 'tone'
  /** Share of the power in each pass, 0–1; a pass without one has all of it. */
  readonly passPowers: readonly number[]
  readonly air: boolean
  readonly pauseBefore?: Pause
}

export interface CutOperation {
  readonly kind: 'cut'
  readonly node: string
  readonly recipe?: string
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  /** Width of the cut; half of it is kept away from the part. */
  readonly kerfMm: number
  readonly air: boolean
  readonly pauseBefore?: Pause
}

/** A program from elsewhere, run as it is written. */
export interface ProgramOperation {
  readonly kind: 'program'
  readonly node: string
  readonly recipe?: undefined
  /** Share of the power that is written, 0–1. */
  readonly power: number
  /** The fastest burning speed that is written. */
  readonly speedMmS: number
  readonly passes: number
  readonly air: boolean
  readonly pauseBefore?: Pause
}

export type Operation = PictureOperation | CutOperation | ProgramOperation

export interface Workpiece {
  readonly widthMm: number
  readonly heightMm: number
  readonly thicknessMm: number
}

/**
 * One job, complete in itself: with snapshots of the material, its recipes and the machine, so that it plans to the
 * same program anywhere. Things are kept by id, so that an edit touches only what it changes.
 */
export interface JobDocument {
  readonly format: 'neotaxis-job'
  readonly version: number
  readonly name: string
  readonly workpiece: Workpiece
  /** Where the workpiece's top-left corner lies on the bed, from the bed's top-left corner, mm. */
  readonly onBed: { readonly xMm: number; readonly yMm: number }
  readonly material: Material
  readonly machine: Machine
  readonly nodes: Readonly<Record<string, LineageNode>>
  /** Placement of each source node. */
  readonly placements: Readonly<Record<string, Placement>>
  readonly operations: Readonly<Record<string, Operation>>
  /** Ids of the operations in the order in which they run; one that is not named is put aside with its settings. */
  readonly runOrder: readonly string[]
  /** Findings marked as meant: finding id → what it said then. */
  readonly meant: Readonly<Record<string, string>>
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

/** Ids of the operations that burn a node or something made from it. */
export function usesOf(job: JobDocument, nodeId: string): string[] {
  return job.runOrder.filter((id) => {
    for (let at: string | undefined = job.operations[id]?.node; at; ) {
      if (at === nodeId) return true
      const node: LineageNode | undefined = job.nodes[at]
      at = node && !isRoot(node) ? node.from : undefined
    }
    return false
  })
}

/** SHA-256 of every asset that the job needs. */
export const assetsOf = (job: JobDocument): string[] =>
  [...new Set(Object.values(job.nodes).flatMap((node) => (isRoot(node) ? [node.asset] : [])))].sort()
