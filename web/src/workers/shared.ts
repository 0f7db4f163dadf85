import type {
  Blank,
  Bounds,
  Comparison,
  Finding,
  ImportRule,
  JobDocument,
  LoosePieces,
  Machine,
  Material,
  OutlineFacts,
  Path,
  Place,
  PlanReport,
  Ring,
  Scene,
  SourceFacts,
  StepReport,
  View,
} from '@neotaxis/core'
import type { PackedRings } from './packed-rings.ts'

/** What was drawn by numbers, as a drawing file. */
export interface DrawnFile {
  readonly svg: string
  readonly looks: readonly string[]
  /** The box around all that it draws, in the drawing's own mm. */
  readonly box: Bounds
  readonly notices: readonly string[]
}

/** What the stage draws. */
export interface Drawing {
  /** For every outline the drawing that it came with. */
  readonly versions: Readonly<Record<string, number>>
  /** Outlines of traces and offsets, job mm. */
  readonly outlines: Readonly<Record<string, readonly Ring[]>>
  /** Box around every node, job mm. */
  readonly bounds: Readonly<Record<string, Bounds>>
}

/** A drawing on its way from the engine: outlines that are the same as in the one before are not sent again. */
export interface DrawingNews {
  readonly version: number
  readonly fresh: Readonly<Record<string, PackedRings>>
  readonly bounds: Readonly<Record<string, Bounds>>
}

/** Times and findings. */
export interface Measure {
  readonly report: PlanReport
  readonly findings: readonly Finding[]
  /** What outlines are made of, by node. */
  readonly outlines: Readonly<Record<string, OutlineFacts>>
  /** What is loose after the last cut. */
  readonly loose: readonly LoosePieces[]
  /** Why each operation stands where it does in the order. */
  readonly places: Readonly<Record<string, Place>>
}

/** Outlines as the bench shows them: their curves, and what each step of clean-up did. */
export interface OutlineView {
  readonly paths: readonly Path[]
  readonly reports: Readonly<Record<string, StepReport>>
}

/** Artwork as large as its workpiece takes it, or why it cannot be. */
export type Fitted = { readonly placements: JobDocument['placements']; readonly scale: number } | { readonly not: string }

/** Artwork laid out on its workpiece, and the share of it that is used; or why it has no place. */
export type LaidOutView = { readonly placements: JobDocument['placements']; readonly used: number } | { readonly not: string }

/** Where the copies of some artwork lie that fill the workpiece, and how much of it they use, 0–1; or why not. */
export type FilledSheetView =
  | { readonly placements: JobDocument['placements']; readonly used: number; readonly count: number }
  | { readonly not: string }

/** A piece of stock that takes a job: where its artwork lies on it, how far it is turned for that, and what is left over, mm². */
export interface StockFitView {
  readonly id: string
  readonly wasteMm2: number
  readonly angleDeg: number
  readonly placements: JobDocument['placements']
}

/** A proposal as the chooser shows it. */
export interface ProposalCard {
  readonly id: string
  readonly title: string
  readonly detail: string
  readonly job: JobDocument
  readonly seconds: number
  readonly findings: readonly Finding[]
  readonly picture: { readonly rgba: Uint8ClampedArray; readonly widthPx: number; readonly heightPx: number }
}

export interface ProposalRequest {
  readonly facts: SourceFacts
  readonly workpiece: Blank
  readonly material: Material
  readonly machine: Machine
  readonly size?: { readonly widthMm?: number; readonly heightMm?: number }
  /** It is begun on a piece of stock. */
  readonly fillsPiece?: boolean
  /** For drawings. */
  readonly rules?: readonly ImportRule[]
  /** The job that it becomes part of: it lands there where there is room, and is shown in it. */
  readonly into?: JobDocument
  /** Where it was drawn on the workpiece, mm. */
  readonly at?: { readonly xMm: number; readonly yMm: number }
}

/** Forecast against burn. */
export interface BurnComparison extends Comparison {
  /** Share of dots that are as they should be, of the worst picture whose dots can be told apart; null where there is none. */
  readonly dots: number | null
  /** How fine the burn was seen, mm, where that was too coarse to tell dots apart; else null. */
  readonly tooFineMm: number | null
  readonly widthPx: number
  readonly heightPx: number
  /** RGBA: where it came out darker or lighter. */
  readonly difference: Uint8ClampedArray
  /** RGBA: as a camera above would see it. */
  readonly seen: Uint8ClampedArray
}

/** A picture as the bench shows it: grey, at most so many pixels a side. */
export interface BenchPicture {
  readonly widthPx: number
  readonly heightPx: number
  readonly rgba: Uint8ClampedArray
}

/** What the bench tells of a prepared picture. */
export interface BenchFacts {
  readonly columns: number
  readonly rows: number
  /** Share of dots with a mark, and of tone before dots, 0–1. */
  readonly coverage: number
  readonly wantedTone: number
  /** Share of the area whose mark is so weak that it would hardly burn, 0–1. */
  readonly haze: number
  /** How many pixels have each of 256 greys where the selected step comes in. */
  readonly histogram: Uint32Array
  /** Share of the area with any mark before and after the selected step, 0–1. */
  readonly step?: { readonly before: number; readonly after: number }
  /** Levels that the selected step works with, where they are sampled. */
  readonly sampled?: { readonly black: number; readonly white: number }
  readonly program: { readonly lines: number; readonly bytes: number }
  /** Deepest place, mm; null where nobody measured. */
  readonly depthMm: number | null
}

/** Shared numbers: [0] the newest ticket asked for, [1] progress of the work at hand in thousandths. */
export const TICKET = 0
export const PROGRESS = 1

/** From the engine to the painter: what to paint from now on. */
export type ToPainter = SceneNews | OutlineNews

export interface SceneNews {
  readonly kind: 'scene'
  readonly scene: Scene
  /** Of the workpieces that are not looked at, by their ids. */
  readonly others: Readonly<Record<string, Scene>>
  /** What is put aside and looked at beside what runs. */
  readonly aside: Scene['layers']
  readonly version: number
}

export interface OutlineNews {
  readonly kind: 'outlines'
  readonly version: number
  /** Outlines that changed since the version before. */
  readonly fresh: Readonly<Record<string, PackedRings>>
  /** Where the artwork of every outline stands, job mm. */
  readonly places: Readonly<Record<string, { readonly x: number; readonly y: number }>>
}

/** How one outline is stroked. */
export interface Stroke {
  readonly node: string
  readonly colour: string
  readonly widthPx: number
  readonly alpha?: number
  /** Whether it is drawn with gaps. */
  readonly broken?: boolean
}

/** A picture of outlines over a part of the job. */
export interface OutlineRequest extends View {
  /** The newest drawing that any of them came with. */
  readonly version: number
  readonly strokes: readonly Stroke[]
  /** Device px a CSS px; widths of strokes are in CSS px. */
  readonly ratio: number
}

export interface PaintedForecast {
  readonly bitmap: ImageBitmap
  /** The forecast that is painted. */
  readonly version: number
}

export interface PaintedOutlines {
  readonly bitmap: ImageBitmap
  /** The newest drawing that any of what is painted came with. */
  readonly version: number
  /** Where the artwork of the first stroke stood, job mm. */
  readonly place: { readonly x: number; readonly y: number }
}
