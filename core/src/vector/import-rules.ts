import { type Look, looksOf, type VectorDrawing } from './drawing.ts'

/** What becomes of what a rule catches. */
export type RuleDoes = 'cut' | 'score' | 'engrave' | 'leave'

/** One import rule: what looks like this becomes that. All that is said must hold; the first rule that fits decides. */
export interface ImportRule {
  readonly id: string
  readonly name: string
  readonly does: RuleDoes
  /** Colour of the stroke; `any` or `none`. */
  readonly stroke?: string
  /** Width of the stroke, mm. What gives none counts as thin. */
  readonly thinnerThanMm?: number
  readonly fill?: string
  /** Name of the layer, or a part of it. */
  readonly layer?: string
}

/** What a shop begins with. */
export const FIRST_RULES: readonly ImportRule[] = [
  { id: 'thin-lines', name: 'Thin lines are cut', does: 'cut', stroke: 'any', thinnerThanMm: 0.15, fill: 'none' },
  { id: 'filled', name: 'What is filled is engraved', does: 'engrave', fill: 'any' },
  { id: 'bold-lines', name: 'Bold lines are engraved as bold as they are', does: 'engrave', stroke: 'any' },
  { id: 'unseen', name: 'What is not seen is left out', does: 'leave', stroke: 'none', fill: 'none' },
]

const isColour = (wanted: string | undefined, has: string | undefined): boolean =>
  wanted === undefined ||
  (wanted === 'any' ? has !== undefined : wanted === 'none' ? has === undefined : has === wanted.toLowerCase())

/** Whether a rule fits a look. */
export function fits(rule: ImportRule, look: Look): boolean {
  if (!isColour(rule.stroke, look.stroke) || !isColour(rule.fill, look.fill)) return false
  if (rule.thinnerThanMm !== undefined && (look.stroke === undefined || (look.strokeMm ?? 0) >= rule.thinnerThanMm)) return false
  return rule.layer === undefined || (look.layer ?? '').toLowerCase().includes(rule.layer.toLowerCase())
}

/** What one rule caught; `rule` is undefined for what none fits. */
export interface Caught {
  readonly rule: ImportRule | undefined
  readonly looks: readonly string[]
  readonly shapes: number
  readonly paths: number
}

/** What each rule catches of a drawing, in the order of the rules; rules that catch nothing too. */
export function caughtBy(drawing: VectorDrawing, rules: readonly ImportRule[]): Caught[] {
  const caught = new Map<ImportRule | undefined, { looks: string[]; shapes: number; paths: number }>()
  for (const rule of rules) caught.set(rule, { looks: [], shapes: 0, paths: 0 })
  for (const [key, { look, shapes }] of looksOf(drawing)) {
    const rule = rules.find((each) => fits(each, look))
    const entry = caught.get(rule) ?? { looks: [], shapes: 0, paths: 0 }
    caught.set(rule, entry)
    entry.looks.push(key)
    entry.shapes += shapes.length
    entry.paths += shapes.reduce((sum, { paths }) => sum + paths.length, 0)
  }
  return [...caught].map(([rule, entry]) => ({ rule, ...entry }))
}

/** The looks that become one thing, by rules. */
export const looksFor = (caught: readonly Caught[], does: RuleDoes): string[] =>
  caught.filter(({ rule }) => rule?.does === does).flatMap(({ looks }) => [...looks])
