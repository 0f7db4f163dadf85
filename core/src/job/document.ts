import type { Join } from '../geometry/clip.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import type { Channel } from '../outline/ink.ts'
import type { Kernel } from '../picture/dither.ts'
import type { Tone } from '../picture/tone.ts'

/** The version this program writes. A newer one is refused, older ones are brought up. */
export const JOB_VERSION = 2

/** A picture as it was brought in: its bytes are the asset. */
export interface SourceNode {
  readonly kind: 'source'
  readonly name: string
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
}

/** The picture made ready for the material: tone, then dots. */
export interface PictureNode {
  readonly kind: 'picture'
  readonly name: string
  readonly from: string
  readonly tone: Tone
  readonly kernel: Kernel
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
export type LineageNode = SourceNode | PictureNode | TraceNode | OffsetNode | ProgramNode

/** Artwork that comes from nothing else, and has a place of its own. */
export const isRoot = (node: LineageNode): node is SourceNode | ProgramNode => node.kind === 'source' || node.kind === 'program'

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
  /** Ids of the operations in the order in which they run. */
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
