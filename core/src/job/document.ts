import type { Combination, Join } from '../geometry/clip.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material, Rgb } from '../material/material.ts'
import type { OutlineStep } from '../outline/clean/steps.ts'
import type { Channel } from '../outline/ink.ts'
import type { Dots, FramingStep, GreyWeights, Treatment } from '../picture/steps.ts'
import { type Drawn, drawnAssets } from '../vector/drawn.ts'
import type { Provenance } from './provenance.ts'

/** The version this program writes. A newer one is refused, older ones are brought up. */
export const JOB_VERSION = 4

/** A picture as it was brought in: its bytes are the asset. */
export interface SourceNode {
  readonly kind: 'source'
  readonly name: string
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly provenance?: Provenance
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
  readonly provenance?: Provenance
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

/** A rectangle in shares 0–1 of a picture's sides. */
export interface Zone {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Outlines traced from the source's darkness or opacity, or lines in the middle of its strokes. */
export interface TraceNode {
  readonly kind: 'trace'
  readonly name: string
  readonly from: string
  readonly channel: Channel
  /** Lines in the middle of strokes, which are scored, or outlines of some of its colours; absent: outlines by darkness. */
  readonly mode?: 'centreline' | 'colours'
  /** Of colours: the palette that the picture is parted by, and which of them are meant. Neighbours share their edges. */
  readonly palette?: readonly Rgb[]
  readonly chosen?: readonly number[]
  readonly threshold: number
  /** Lower end of a band whose upper end is the threshold; absent: all that is darker (more opaque) counts. */
  readonly above?: number
  /** Ripples narrower than this are smoothed away, mm. */
  readonly smoothMm?: number
  /** The part of the framed picture that is traced, in shares of its sides; absent: all of it. The picture keeps the rest. */
  readonly zone?: Zone
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
  /** So many outlines, each as far again from the one before; absent: one. */
  readonly steps?: number
  /** Inside as well as outside. */
  readonly both?: true
}

/** Outlines cleaned up, step by step. */
export interface CleanNode {
  readonly kind: 'clean'
  readonly name: string
  readonly from: string
  readonly steps: Readonly<Record<string, OutlineStep>>
  readonly order: readonly string[]
}

/** Outlines together with other outlines, which may lie elsewhere and come from other artwork. */
export interface CombineNode {
  readonly kind: 'combine'
  readonly name: string
  readonly from: string
  readonly with: string
  /** `split`: the outlines parted where the lines of the other run. */
  readonly op: Combination | 'split'
}

/** A strip that holds a piece: it crosses what is cut away, from an edge to the edge across. */
export interface Bridge {
  /** A place on the edge of the piece that is held, in shares of the artwork's size. */
  readonly x: number
  readonly y: number
  readonly widthMm: number
}

/** Outlines with bridges, so that pieces do not fall. */
export interface BridgedNode {
  readonly kind: 'bridged'
  readonly name: string
  readonly from: string
  readonly bridges: Readonly<Record<string, Bridge>>
}

/** A vector drawing as it was brought in: its bytes are the asset. */
export interface DrawingNode {
  readonly kind: 'drawing'
  readonly name: string
  readonly asset: string
  /** Size of the box around all that it draws, mm. */
  readonly widthMm: number
  readonly heightMm: number
  /** What was drawn or written here, so that it can be changed; the asset is the drawing that it makes. */
  readonly drawn?: Drawn
  readonly provenance?: Provenance
}

/** What an import rule caught in a drawing: all that looks alike. */
export interface PartNode {
  readonly kind: 'part'
  readonly name: string
  readonly from: string
  /** Keys of the looks that belong to it, see `lookKey`. */
  readonly looks: readonly string[]
  /**
   * `edges`: closed paths are outlines, those that are open are followed. `lines`: all are followed. `seen`: the area that is
   * covered as it is seen, strokes as wide as they are.
   */
  readonly as: 'edges' | 'lines' | 'seen'
}

/** A program that was made elsewhere, as text: its moves are the artwork. */
export interface ProgramNode {
  readonly kind: 'program'
  readonly name: string
  readonly asset: string
}

/** One member of a family of artwork. `from` names the node it comes from. */
export type LineageNode =
  | SourceNode
  | MeshNode
  | DrawingNode
  | PictureNode
  | TraceNode
  | PartNode
  | CleanNode
  | OffsetNode
  | CombineNode
  | BridgedNode
  | ProgramNode

/** A root that is a picture, or has one. A drawing is as fine a picture as its size on the workpiece needs. */
export type PicturedNode =
  | SourceNode
  | MeshNode
  | (DrawingNode & { readonly widthPx: number; readonly heightPx: number; readonly framing: readonly FramingStep[] })

/** Pixels of a drawing on a millimetre, and the most it has. */
const DRAWN_PX_MM = 20
const MOST_DRAWN_PX = 16e6

/** Artwork that comes from nothing else, and has a place of its own. */
export const isRoot = (node: LineageNode): node is SourceNode | MeshNode | DrawingNode | ProgramNode =>
  node.kind === 'source' || node.kind === 'mesh' || node.kind === 'drawing' || node.kind === 'program'

const OUTLINES: readonly LineageNode['kind'][] = ['trace', 'part', 'clean', 'offset', 'combine', 'bridged']

/** Artwork that is outlines or lines, which can be cut, cleaned, offset and combined. */
export const isOutline = (
  node: LineageNode | undefined,
): node is TraceNode | PartNode | CleanNode | OffsetNode | CombineNode | BridgedNode =>
  node !== undefined && OUTLINES.includes(node.kind)

/** What a node is made from directly; nothing for what was brought in. */
export const parentsOf = (node: LineageNode): readonly string[] =>
  isRoot(node) ? [] : node.kind === 'combine' ? [node.from, node.with] : [node.from]

/** Whether a node gives lines to be followed as they are, not outlines of something. */
export function givesLines(job: JobDocument, nodeId: string): boolean {
  const node = job.nodes[nodeId]
  if (node?.kind === 'trace') return node.mode === 'centreline'
  if (node?.kind === 'part') return node.as === 'lines'
  // Several edges, one within the other, are no edge of a part.
  if (node?.kind === 'offset') return (node.steps ?? 1) > 1 || node.both === true
  return node?.kind === 'clean' && givesLines(job, node.from)
}

/** The picture or mesh that a node comes from. @throws where it comes from neither */
export function picturedRoot(job: JobDocument, nodeId: string): PicturedNode & { readonly id: string } {
  const id = sourceOf(job, nodeId)
  const root = job.nodes[id]
  if (root.kind === 'drawing') {
    const { widthMm, heightMm } = job.placements[id]
    const pxPerMm = Math.min(DRAWN_PX_MM, Math.sqrt(MOST_DRAWN_PX / (widthMm * heightMm)))
    const side = (mm: number): number => Math.max(1, Math.round(mm * pxPerMm))
    return { ...root, id, widthPx: side(widthMm), heightPx: side(heightMm), framing: [] }
  }
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
  /** Width of the cut; half of it is kept away from what is wanted. */
  readonly kerfMm: number
  /** What is wanted: the parts within the outlines, or the sheet that they open, a stencil. */
  readonly keeps?: 'sheet'
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
  /** What is thinner than this is told, mm; absent: half the workpiece's thickness, at least a millimetre. */
  readonly thinMm?: number
  /** Artwork that moves and grows together: root → the group that it belongs to. */
  readonly groups?: Readonly<Record<string, string>>
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
  const comesFrom = (at: string): boolean =>
    at === nodeId || (job.nodes[at] !== undefined && parentsOf(job.nodes[at]).some(comesFrom))
  return job.runOrder.filter((id) => job.operations[id] !== undefined && comesFrom(job.operations[id].node))
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
