import type Joi from 'joi'
import type { Layer } from '../forecast/layers.ts'
import type { Bounds } from '../geometry/bounds.ts'
import type { Ring } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import type { BurnedPiece } from '../job/document/pieces.ts'
import type { DotField } from '../lineage/field.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material, Recipe } from '../material/material.ts'
import type { Track } from '../motion/track.ts'
import type { Marks } from '../picture/prepare.ts'
import type { Strokes } from './strokes.ts'

/** One piece of artwork that an operation burns, with all that this needs. */
export interface Burning<S = Operation> {
  readonly job: JobDocument
  /** Id of the operation. */
  readonly id: string
  readonly operation: S
  readonly piece: BurnedPiece
  readonly supply: Supply
}

/** The part of a track in which an operation burns, and how far it came: the move under way does not count yet. */
export interface Stretch {
  readonly track: Track
  readonly first: number
  readonly move: number
  readonly end: number
}

/** What a process that follows outlines takes away, for whoever asks what holds and what falls. */
export interface Cutting {
  /** Whether its dose goes through the material. */
  readonly through: boolean
  /** Whether the sheet is wanted, not the parts: a stencil. */
  readonly keepsSheet: boolean
  readonly kerfMm: number
  /** Whether its outlines enclose parts; lines that are followed enclose none. */
  readonly encloses: boolean
  /** What these outlines depend on. */
  readonly key: string
  /** Its outlines as they are, face mm. */
  outlines(): Ring[]
  /** Where the beam goes around parts, face mm; lines are left out. */
  path(): Ring[]
  /** What is taken away, by even-odd, face mm. */
  band(): Ring[]
  /** The outlines grown by the whole kerf, face mm. */
  around(): Ring[]
}

/** What a process that burns dots marks. */
export interface MarkedDots {
  readonly field: DotField
  readonly marks: Marks & { readonly key: string }
}

/** Energy that is left: along a line, or over an area, by all passes. */
export interface Dose {
  readonly doseJPerMm?: number
  readonly doseJPerMm2?: number
}

/** What artwork has to be so that a process can burn it: outlines that enclose something, lines, dots, or grey as heights. */
export type ArtworkForm = 'edges' | 'lines' | 'dots' | 'heights'

/** What a process is: all that plan, forecast, findings and page need to know of it. */
export interface Process<S extends Operation = Operation> {
  readonly name: S['process']
  /** What it is called in the comments of programs. */
  readonly inProgram: string
  /** How the thing that it burns begins a sentence: “The cut”. */
  readonly subject: string
  /** Said where nothing is left to burn. */
  readonly nothingLeft: string
  /** The form of artwork that it burns; `as written` cannot be made of anything. */
  readonly form: ArtworkForm | 'as written'
  /** Which turn it has in an order that nobody made: what marks comes before what frees it. */
  readonly turn: number
  /** What it is for, where outlines change into lines or back: edges that enclose something, or lines. */
  readonly follows?: 'edges' | 'lines' | undefined
  /** Whether these settings are meant to burn nothing. */
  readonly silent?: ((operation: S) => boolean) | undefined
  /** Its own settings, beside those of every operation. */
  readonly schema: Joi.SchemaMap
  /** Whether a node is artwork that it can burn. */
  takes(job: JobDocument, nodeId: string): boolean
  /** Its settings for some artwork by the material's recipe. */
  fromRecipe(of: readonly string[], material: Material, machine: Machine): S
  /** An operation as it is on another material or machine: with the values of its recipe; what no recipe says stays. */
  onMaterial(operation: S, material: Material, machine: Machine): S
  /** Why no setting of a machine burns it on a material, in a sentence; undefined where one may. */
  readonly refused?: ((material: Material, machine: Machine) => string | undefined) | undefined
  /** Where settings differ from a recipe that they follow: names of values. */
  departs(operation: S, recipe: Recipe): string[]
  /** The fastest that a machine burns it, mm/s. */
  topSpeed(machine: Machine): number
  /** What the beam does on the face, in order. @throws PlanError */
  strokes(context: Burning<S>): Strokes[]
  /** The same for all its pieces on one workpiece, where they share their strokes. @throws PlanError */
  readonly strokesTogether?: ((contexts: readonly Burning<S>[]) => Strokes[]) | undefined
  dose(operation: S, machine: Machine): Dose
  /** The box around what it really burns, face mm; empty where it burns nothing. */
  extent(context: Burning<S>): Bounds
  /** How far that box stands out beyond what grows with the artwork, mm. */
  border(context: Burning<S>): number
  /** What it leaves on the material. */
  layers(context: Burning<S>): Layer[]
  /** The same by a moment of the run, of all its pieces on one workpiece. */
  layersUntil(contexts: readonly Burning<S>[], stretch: Stretch): Layer[]
  /** Outlines that the head goes around to show where it will burn, face mm. */
  framed(context: Burning<S>): Ring[]
  readonly cutting?: ((context: Burning<S>) => Cutting) | undefined
  readonly dots?: ((context: Burning<S>) => MarkedDots) | undefined
}

/** A job that cannot be planned; `message` is a sentence for the operator. */
export class PlanError extends Error {}
