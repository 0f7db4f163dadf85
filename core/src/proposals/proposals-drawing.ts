import type { PlacedDrawing } from '../formats/read-drawing.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { LineageNode, PartNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import type { Supply } from '../lineage/supply.ts'
import { NO_TREATMENT, PLAIN_DOTS } from '../picture/steps.ts'
import { cut } from '../process/cut/cut.ts'
import { picture } from '../process/picture/picture.ts'
import { score } from '../process/score/score.ts'
import { looksOf } from '../vector/drawing.ts'
import { type Caught, caughtBy, FIRST_RULES, type ImportRule, looksFor } from '../vector/import-rules.ts'
import { cameIn } from './came-in.ts'
import { centred, newJob, placed } from './new-job.ts'
import type { Proposal, ProposalSettings, SourceFacts } from './proposals.ts'

/** Distance at which a cut goes around what is engraved when nothing else is said, mm. */
const AROUND_MM = 3
/** What does not fit on the workpiece takes this share of it. */
const FILL = 0.9

/**
 * The complete jobs that a vector drawing could become: by the shop's import rules, cut, scored, engraved as it is seen, and
 * engraved with a cut around. It keeps its own size where that fits.
 */
export function proposeDrawing(
  facts: SourceFacts,
  drawing: PlacedDrawing,
  settings: ProposalSettings,
  supply: Supply,
  rules: readonly ImportRule[] = FIRST_RULES,
): Proposal[] {
  const { workpiece, material, machine } = settings
  const all = [...looksOf(drawing).keys()]
  const caught = caughtBy(drawing, rules)
  const root: LineageNode = {
    kind: 'drawing',
    name: facts.name,
    asset: facts.asset,
    widthMm: Math.max(0.001, drawing.widthMm),
    heightMm: Math.max(0.001, drawing.heightMm),
    ...(facts.drawn ? { drawn: facts.drawn } : { cameIn: cameIn(facts) }),
  }
  const part = (name: string, looks: readonly string[], as: PartNode['as']): LineageNode => ({
    kind: 'part',
    name,
    from: 'source',
    looks,
    as,
  })
  const dots = (from: string): LineageNode => ({
    kind: 'picture',
    name: 'dots',
    from,
    ...NO_TREATMENT,
    dots: { ...PLAIN_DOTS, kernel: 'threshold' },
  })
  const job = (
    nodes: Record<string, LineageNode>,
    operations: Record<string, Operation>,
    runOrder: readonly string[],
    around = 0,
  ): JobDocument =>
    centred(
      newJob(
        facts.name,
        settings,
        { source: root, ...nodes },
        placed(sizeOf(drawing, settings, around), workpiece),
        operations,
        runOrder,
      ),
      supply,
    )
  const byRules = (): Proposal | undefined => {
    const nodes: Record<string, LineageNode> = {}
    const operations: Record<string, Operation> = {}
    const order: string[] = []
    const engraved = looksFor(caught, 'engrave')
    const scored = looksFor(caught, 'score')
    const toCut = looksFor(caught, 'cut')
    if (engraved.length > 0) {
      nodes.areas = part('areas', engraved, 'seen')
      nodes.dots = dots('areas')
      operations.engrave = picture.fromRecipe(['dots'], material, machine)
      order.push('engrave')
    }
    if (scored.length > 0) {
      nodes.lines = part('lines', scored, 'lines')
      operations.score = score.fromRecipe(['lines'], material, machine)
      order.push('score')
    }
    if (toCut.length > 0) {
      nodes.outline = part('outlines', toCut, 'edges')
      operations.cut = cut.fromRecipe(['outline'], material, machine)
      order.push('cut')
    }
    if (order.length === 0) return undefined
    return { id: 'by-rules', title: 'By the shop’s rules', detail: ruleWords(caught), job: job(nodes, operations, order) }
  }
  const seen = part('as seen', all, 'seen')
  const { drawn } = facts
  // What was drawn here has no strokes and fills that would mean something.
  const ruled = drawn ? undefined : byRules()
  const made: Proposal[] = [
    ...(ruled ? [ruled] : []),
    {
      id: 'cut-lines',
      title: 'Cut every line',
      detail: 'closed lines are the edges of parts, open ones are cut as they are',
      job: job({ outline: part('outlines', all, 'edges') }, { cut: cut.fromRecipe(['outline'], material, machine) }, ['cut'], 1),
    },
    {
      id: 'score-lines',
      title: 'Score every line',
      detail: 'the beam follows each line once and only marks',
      job: job({ lines: part('lines', all, 'lines') }, { score: score.fromRecipe(['lines'], material, machine) }, ['score']),
    },
    {
      id: 'engrave-seen',
      title: 'Engrave it as it is seen',
      detail: 'areas filled, strokes as bold as they are drawn',
      job: job({ areas: seen, dots: dots('areas') }, { engrave: picture.fromRecipe(['dots'], material, machine) }, ['engrave']),
    },
    {
      id: 'engrave-seen-cut-around',
      title: `Engrave it, and cut ${AROUND_MM} mm around`,
      detail: 'around all that is seen',
      job: job(
        {
          areas: seen,
          dots: dots('areas'),
          around: {
            kind: 'offset',
            name: `as seen + ${AROUND_MM} mm`,
            from: 'areas',
            distanceMm: AROUND_MM,
            join: 'round',
            outermost: true,
          },
        },
        { engrave: picture.fromRecipe(['dots'], material, machine), cut: cut.fromRecipe(['around'], material, machine) },
        ['engrave', 'cut'],
        AROUND_MM,
      ),
    },
  ]
  if (drawn?.kind !== 'text') return made
  const first: Proposal['id'][] =
    drawn.font.kind === 'strokes' ? ['score-lines', 'engrave-seen'] : ['engrave-seen', 'engrave-seen-cut-around']
  return [...first.flatMap((id) => made.filter((each) => each.id === id)), ...made.filter(({ id }) => !first.includes(id))]
}

/** What the rules caught, in words. */
function ruleWords(caught: readonly Caught[]): string {
  const count = (does: string): number =>
    caught.filter(({ rule }) => rule?.does === does).reduce((sum, { shapes }) => sum + shapes, 0)
  const words = (
    [
      ['engrave', 'engraved'],
      ['score', 'scored'],
      ['cut', 'cut'],
      ['leave', 'left out'],
    ] as const
  ).flatMap(([does, word]) => (count(does) > 0 ? [`${count(does)} ${word}`] : []))
  const free = caught.find(({ rule }) => rule === undefined)?.shapes ?? 0
  return `of its shapes ${[...words, ...(free > 0 ? [`${free} caught by no rule`] : [])].join(', ')}`
}

/** Its own size where it fits, the size asked for, or most of the workpiece. */
function sizeOf(
  { widthMm, heightMm }: PlacedDrawing,
  { workpiece, size }: ProposalSettings,
  around: number,
): { readonly widthMm: number; readonly heightMm: number } {
  const [w, h] = [Math.max(0.5, widthMm), Math.max(0.5, heightMm)]
  if (size?.widthMm) return { widthMm: size.widthMm, heightMm: size.heightMm ?? (size.widthMm * h) / w }
  if (size?.heightMm) return { widthMm: (size.heightMm * w) / h, heightMm: size.heightMm }
  const room = Math.min((workpiece.widthMm - 2 * around) / w, (workpiece.heightMm - 2 * around) / h)
  const scale = room >= 1 ? 1 : room * FILL
  return { widthMm: w * scale, heightMm: h * scale }
}
