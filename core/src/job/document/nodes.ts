import type { Drawn } from '../../drawn/drawn.ts'
import type { Combination, Join } from '../../geometry/clip.ts'
import type { Rgb } from '../../material/material.ts'
import type { ViewAxis } from '../../mesh/height-map.ts'
import type { OutlineStep } from '../../outline/clean/steps.ts'
import type { Channel } from '../../outline/ink.ts'
import type { InkOptions } from '../../picture/ink/ink-only.ts'
import type { Dots, FramingStep, GreyWeights, Treatment } from '../../picture/steps.ts'
import type { Provenance } from './provenance.ts'

/** A picture as it was brought in: its bytes are the asset. */
export interface SourceNode {
  readonly kind: 'source'
  readonly name: string
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly provenance?: Provenance
  /** What was told when it came in: its size and why, what was converted, what was left out. */
  readonly cameIn?: readonly string[]
  /** Told from a photograph as a page of ink: how wide its strokes are, px. What is traced from it is its ink. */
  readonly inkPage?: { readonly strokePx: number }
  /** How it is cropped, straightened, turned and mirrored, for everything that is made from it. */
  readonly framing: readonly FramingStep[]
}

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

/** An edge that artwork is kept within, wherever it is moved behind it. */
export interface Within {
  /** The outline that it is; absent: the edge of the workpiece. */
  readonly to?: string
  /** So far inside of it, mm. */
  readonly marginMm: number
}

/** The picture made ready for the material: treated, then dots. */
export interface PictureNode extends Treatment {
  /** Kept within an edge, where it fades over a distance, mm; 0: it ends there. */
  readonly clip?: Within & { readonly fadeMm: number }
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
  /** Of a page of ink only its ink is traced: its light evened, ruled lines away. Then the threshold is half. */
  readonly ink?: InkOptions
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

/** Outlines and lines kept within an edge. */
export interface ClipNode extends Within {
  readonly kind: 'clip'
  readonly name: string
  readonly from: string
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
  /** What was told when it came in: its size and why, what was converted, what was left out. */
  readonly cameIn?: readonly string[]
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
  | ClipNode
  | ProgramNode

/** A root that is a picture, or has one. A drawing is as fine a picture as its size on the workpiece needs. */
export type PicturedNode =
  | SourceNode
  | MeshNode
  | (DrawingNode & { readonly widthPx: number; readonly heightPx: number; readonly framing: readonly FramingStep[] })

/** Artwork that comes from nothing else, and has a place of its own. */
export const isRoot = (node: LineageNode): node is SourceNode | MeshNode | DrawingNode | ProgramNode =>
  node.kind === 'source' || node.kind === 'mesh' || node.kind === 'drawing' || node.kind === 'program'

const OUTLINES: readonly LineageNode['kind'][] = ['trace', 'part', 'clean', 'offset', 'combine', 'bridged', 'clip']

/** Artwork that is outlines or lines, which can be cut, cleaned, offset and combined. */
export const isOutline = (
  node: LineageNode | undefined,
): node is TraceNode | PartNode | CleanNode | OffsetNode | CombineNode | BridgedNode | ClipNode =>
  node !== undefined && OUTLINES.includes(node.kind)

/** What a node is made from directly; nothing for what was brought in. */
export const parentsOf = (node: LineageNode): readonly string[] =>
  isRoot(node)
    ? []
    : node.kind === 'combine'
      ? [node.from, node.with]
      : node.kind === 'clip' && node.to !== undefined
        ? [node.from, node.to]
        : [node.from]
