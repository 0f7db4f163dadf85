import type { Drawn } from '../drawn/drawn.ts'
import { bridgesAround, withBridges } from '../edits/bridge-edits.ts'
import { covering, keptWithin } from '../edits/clip-edits.ts'
import { cutElsewhere } from '../edits/cut-elsewhere.ts'
import { newTrace, pixelMm, speckMm2 } from '../edits/new-trace.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringArea, ringLength } from '../geometry/ring.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import type { LineageNode, MeshNode, SourceNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import type { Provenance } from '../job/document/provenance.ts'
import { RANGES } from '../job/document/ranges.ts'
import { outlinePaths } from '../lineage/evaluate.ts'
import type { Supply } from '../lineage/supply.ts'
import { FINISH_STARTS } from '../material/finish.ts'
import { topLayer } from '../material/material.ts'
import { heightMap, type MeshExtent } from '../mesh/height-map.ts'
import { framedSize } from '../picture/framing.ts'
import { histogram, otsuThreshold } from '../picture/histogram.ts'
import { INK } from '../picture/ink/ink-only.ts'
import { judgePage, NO_PAGE } from '../picture/ink/judge-page.ts'
import { judgePicture } from '../picture/judge.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type CropStep, LUMA, NO_TREATMENT, PLAIN_DOTS } from '../picture/steps.ts'
import type { FillName } from '../plan/compare-fills.ts'
import { area } from '../process/area/area.ts'
import { cut } from '../process/cut/cut.ts'
import { picture as pictureProcess } from '../process/picture/picture.ts'
import { relief as reliefProcess } from '../process/relief/relief.ts'
import { score } from '../process/score/score.ts'
import { cameIn } from './came-in.ts'
import { deepGround, deepJob } from './deep-ground.ts'
import { canBeLifted, liftedCoating } from './lift-coating.ts'
import { centred, newJob, placed, type Setting } from './new-job.ts'
import { startTreatment } from './proposals-treatment.ts'

/** What is known of a picture that was brought in. */
export interface SourceFacts {
  readonly name: string
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly pixelsPerMm?: number
  /** Of a mesh: its extents seen from above, mm. */
  readonly mesh?: MeshExtent
  /** Of a vector drawing: the size of what it draws, mm. */
  readonly drawing?: {
    readonly widthMm: number
    readonly heightMm: number
    readonly shapes?: number | readonly unknown[]
    readonly notices?: readonly string[]
  }
  /** What is told of how it was read. */
  readonly notices?: readonly string[]
  /** Of what was drawn or written here: by which numbers. */
  readonly drawn?: Drawn
  /** Of what comes from the library: where it came from, and what may be done with it. */
  readonly provenance?: Provenance
}

export type ProposalId =
  | 'by-rules'
  | 'cut-lines'
  | 'score-lines'
  | 'ink-only'
  | 'score-strokes'
  | 'fill-shapes'
  | 'fill-shape'
  | 'fill-deep'
  | 'lift-coating'
  | 'engrave-seen'
  | 'engrave-seen-cut-around'
  | 'engrave'
  | 'engrave-cut-around'
  | 'engrave-cut-elsewhere'
  | 'engrave-filling'
  | 'cut-shape'
  | 'burn-dots'
  | 'carve-relief'
  | 'relief-dots'

/** A complete job that a dropped file could become. */
export interface Proposal {
  readonly id: ProposalId
  readonly title: string
  /** What it was made from and why. */
  readonly detail: string
  readonly job: JobDocument
}

export interface ProposalSettings extends Setting {
  /** Size of the artwork wanted, mm; one may be left out. */
  readonly size?: { readonly widthMm?: number; readonly heightMm?: number }
  /** It is begun on a piece that is there, which artwork may fill to its edge. */
  readonly fillsPiece?: boolean
}

/** Distance at which a cut goes around an engraving when nothing else is said, mm. */
const AROUND_MM = 3
/** More bridges than this hold crumbs: nobody gives them to a router. */
const MOST_BRIDGES = 60
/** How far from the edge of a piece that is filled the burn ends, mm. */
const EDGE_MM = 2
/** More pieces than this are grain, not a shape that anybody would cut. */
const MOST_PIECES = 40_000
/** More pieces than this are looked at too long for the quickest way to fill them. */
const MOST_GROUNDS = 500
/** How a ground is filled, and why. */
const FILLED_BY: Readonly<Record<FillName, string>> = {
  sweep: 'swept, the quickest of three ways',
  patches: 'patch by patch, the quickest of three ways',
  rings: 'by rings, the quickest of three ways',
  'two-angles': 'at two angles',
}
/** Strokes wider than this share of the picture's shorter side are areas. */
const STROKE_SHARE = 0.035
/** Pictures with more pixels take too long to be looked at for strokes unasked. */
const MOST_STROKE_PX = 6e6
/** Share of the workpiece that artwork of unknown size takes. */
const FILL = 0.72

/**
 * The complete jobs that a picture could become on this workpiece: to engrave it, to engrave it and cut around it, to
 * cut its shape. Transparency is used where the file has it; a size in the file is kept where it fits.
 */
export const propose = (...asked: Parameters<typeof proposing>): Proposal[] => [...proposing(...asked)]

/** The same, one after the other: each is made when it is asked for. */
export function* proposing(
  facts: SourceFacts,
  picture: GreyPicture,
  settings: ProposalSettings,
  supply: Supply,
): Generator<Proposal, void> {
  const { material, machine, workpiece } = settings
  const counts = histogram(picture)
  const split = otsuThreshold(counts)
  const borderLight = lightBorder(picture)
  const judged = judgePicture(picture)
  const page = judged.dots ? NO_PAGE : judgePage(picture)
  const burn = pictureProcess.fromRecipe(['dots'], material, machine)
  const start = startTreatment(picture, judged, { material, machine, burn })
  const framing = [...seenCrop(picture), ...start.framing]
  const framed = {
    name: facts.name,
    asset: facts.asset,
    widthPx: facts.widthPx,
    heightPx: facts.heightPx,
    framing,
  }
  const source: SourceNode | MeshNode = facts.mesh
    ? { kind: 'mesh', ...framed, framing: [], axis: '+z', near: 0, far: 1 }
    : {
        kind: 'source',
        ...framed,
        hasAlpha: facts.hasAlpha,
        cameIn: cameIn(facts),
        ...(page.likely ? { inkPage: { strokePx: Math.round(100 * page.strokePx) / 100 } } : {}),
      }
  const prepared: LineageNode = { kind: 'picture', name: 'dots', from: 'source', ...start.treatment, dots: start.dots }
  const seenSize = framedSize(facts, framing)
  const pixel = pixelMm({ ...facts, framing }, startSize({ ...facts, ...seenSize }, settings, 0))
  const trace = (name: string, threshold: number, minAreaMm2: number, mode?: 'centreline'): LineageNode =>
    newTrace(source, 'source', pixel, { name, threshold, minAreaMm2, ...(mode ? { mode } : {}) })
  const unplaced = (
    nodes: Record<string, LineageNode>,
    operations: Readonly<Record<string, Operation>>,
    runOrder: readonly string[],
    around: number,
    exact?: { readonly widthMm: number; readonly heightMm: number },
  ): JobDocument => {
    return newJob(
      facts.name,
      settings,
      nodes,
      exact ? placed(exact, workpiece) : startSize({ ...facts, ...seenSize }, settings, around),
      operations,
      runOrder,
    )
  }
  const job = (...parts: Parameters<typeof unplaced>): JobDocument => centred(unplaced(...parts), supply)
  const outer = facts.hasAlpha
    ? 'from its transparency'
    : borderLight
      ? 'around all that is not white'
      : 'around the whole picture'
  // Nearly white counts as paper: the outline goes around light tones too.
  const edge = trace('edge', borderLight ? 0.9 : 0.97, 1)
  const shape = trace('shape', Math.min(0.95, Math.max(0.05, split)), 0.5)
  const relief = (): Proposal[] => {
    const node: LineageNode = {
      kind: 'picture',
      name: 'relief',
      from: 'source',
      ...NO_TREATMENT,
      dots: { ...PLAIN_DOTS, kernel: 'none' },
    }
    const carve: Proposal = {
      id: 'carve-relief',
      title: 'Carve a relief',
      detail: facts.mesh
        ? 'the mesh seen from above; what is far goes deep'
        : `grey as depth: ${judged.heights.reasons.join(', ')}`,
      job: job({ source, relief: node }, { relief: reliefProcess.fromRecipe(['relief'], material, machine) }, ['relief'], 0),
    }
    const dots: Proposal = {
      id: 'relief-dots',
      title: 'The same heights as dots',
      detail: 'flat, shaded by depth',
      job: job(
        { source, dots: { ...node, name: 'dots', dots: PLAIN_DOTS } },
        { engrave: pictureProcess.fromRecipe(['dots'], material, machine) },
        ['engrave'],
        0,
      ),
    }
    return facts.mesh ? [carve, dots] : [carve]
  }
  if (facts.mesh) {
    yield* relief()
    return
  }
  const asTheyAre = (): Proposal => {
    const operation = pictureProcess.fromRecipe(['dots'], material, machine)
    // A pitch in the file decides, else the recipe's: the size follows, never the dots.
    const own = facts.pixelsPerMm ? 1 / facts.pixelsPerMm : 0
    const intervalMm = own >= RANGES.intervalMm.min && own <= 0.5 ? Math.round(own * 1e5) / 1e5 : operation.intervalMm
    const size = { widthMm: facts.widthPx * intervalMm, heightMm: facts.heightPx * intervalMm }
    const node: LineageNode = {
      kind: 'picture',
      name: 'dots',
      from: 'source',
      ...NO_TREATMENT,
      dots: { ...PLAIN_DOTS, kernel: 'threshold', asPrepared: true },
    }
    const plain: LineageNode = { ...source, framing: [] }
    return {
      id: 'burn-dots',
      title: 'Burn the dots as they are',
      detail: `one pixel, one dot of ${intervalMm} mm: never resampled`,
      job: job({ source: plain, dots: node }, { engrave: { ...operation, intervalMm } }, ['engrave'], 0, size),
    }
  }
  const outlinePieces = (node: LineageNode, room: number): number =>
    outlinePaths(unplaced({ source, node }, {}, [], room), 'node', supply).reduce((sum, { kinds }) => sum + kinds.length, 0)
  const isOutline = (node: LineageNode, room: number): boolean => outlinePieces(node, room) <= MOST_PIECES
  const around = (): Proposal => ({
    id: 'engrave-cut-around',
    title: `Engrave, and cut ${AROUND_MM} mm around`,
    detail: outer,
    job: job(
      {
        source,
        dots: prepared,
        edge,
        around: {
          kind: 'offset',
          name: `edge + ${AROUND_MM} mm`,
          from: 'edge',
          distanceMm: AROUND_MM,
          join: 'round',
          outermost: true,
        },
      },
      { engrave: pictureProcess.fromRecipe(['dots'], material, machine), cut: cut.fromRecipe(['around'], material, machine) },
      ['engrave', 'cut'],
      AROUND_MM,
    ),
  })
  /** The same, but a router cuts it out later: held by bridges, in a file of its own. */
  const cutElsewhereLater = (made: JobDocument): Proposal | undefined => {
    const bridges = bridgesAround(made, 'around', supply)
    if (bridges.length === 0 || bridges.length > MOST_BRIDGES) return undefined
    return {
      id: 'engrave-cut-elsewhere',
      title: 'Engrave; another tool cuts it out',
      detail: `${AROUND_MM} mm around, held by bridges, as a drawing for a router; cleaned before`,
      job: cutElsewhere(withBridges(made, 'cut', bridges, 'held'), 'cut'),
    }
  }
  /** A piece that is there, filled to its edge. */
  const filling = (made: JobDocument): Proposal => ({
    id: 'engrave-filling',
    title: 'Engrave it over the whole piece',
    detail: `as large as covers it, kept ${EDGE_MM} mm inside its edge`,
    job: keptWithin(covering(made, 'dots'), 'dots', { marginMm: EDGE_MM }, 'within'),
  })
  const cutShape = (): Proposal => ({
    id: 'cut-shape',
    title: 'Cut the shape only',
    detail: facts.hasAlpha ? 'the edge of its transparency, holes too' : 'the edge between dark and light, holes too',
    job: job({ source, shape }, { cut: cut.fromRecipe(['shape'], material, machine) }, ['cut'], 1),
  })
  /** Of a drawing made of thin strokes: its lines, followed. */
  const strokes = (): Proposal => {
    const lines = trace('strokes', Math.min(0.95, Math.max(0.05, split)), 0, 'centreline')
    const clean: LineageNode = {
      kind: 'clean',
      name: 'strokes, cleaned',
      from: 'strokes',
      steps: { specks: { kind: 'specks', on: true, areaMm2: page.likely ? speckMm2(page.strokePx, pixel) : 0.5 } },
      order: ['specks'],
    }
    return {
      id: 'score-strokes',
      title: 'Score its strokes',
      detail: 'the beam follows the middle of each stroke and only marks',
      job: job({ source, strokes: lines, clean }, { score: score.fromRecipe(['clean'], material, machine) }, ['score'], 0),
    }
  }
  const seen = page.reasons.join(', ')
  /** Of a page of ink: its ink alone, burned full. */
  const inkOnly = (): Proposal => {
    const { invert } = start.treatment.steps
    const node: LineageNode = {
      kind: 'picture',
      name: 'ink',
      from: 'source',
      steps: { ink: { kind: 'ink', on: true, ...INK }, ...(invert ? { invert } : {}) },
      order: ['ink', ...(invert ? ['invert'] : [])],
      masks: {},
      dots: { ...PLAIN_DOTS, kernel: 'threshold' },
    }
    return {
      id: 'ink-only',
      title: 'Ink only',
      detail: `a page of ink, its light evened: ${seen}`,
      job: job({ source, dots: node }, { engrave: pictureProcess.fromRecipe(['dots'], material, machine) }, ['engrave'], 0),
    }
  }
  /** Of a page of ink: the shapes of its strokes, filled. */
  const fillShapes = (): Proposal => ({
    id: 'fill-shapes',
    title: 'Fill its shapes',
    detail: 'the outlines of its ink, filled line by line',
    job: job({ source, shape: trace('shapes', split, 0) }, { fill: area.fromRecipe(['shape'], material, machine) }, ['fill'], 0),
  })
  /** Of what stands alone: its shape as a ground, as deep as is asked for. */
  const fillShape = (): Proposal => ({
    id: 'fill-shape',
    title: 'Fill the shape',
    detail: 'what is dark, line by line: a ground as deep as you ask for',
    job: job({ source, shape }, { fill: area.fromRecipe(['shape'], material, machine) }, ['fill'], 1),
  })
  /** The same where its depth was measured: a ground that is filled and sanded later, burned in the quickest way. */
  const fillDeep = (): Proposal | undefined => {
    const piece = { ...material, thicknessMm: workpiece.thicknessMm }
    const deep = deepGround(area.fromRecipe(['shape'], material, machine), piece, machine)
    if (!deep || outlinePieces(shape, 1) > MOST_GROUNDS) return undefined
    const made = deepJob(job({ source, shape }, { fill: deep.operation }, ['fill'], 1), 'fill', supply)
    return {
      id: 'fill-deep',
      title: 'A deep ground, filled and sanded later',
      detail: `what is dark, ${deep.depthMm} mm deep in ${deep.operation.passes} passes; ${FILLED_BY[made.way]}`,
      job: made.job,
    }
  }
  /** Of a coated thing: what is dark lifted from it, cleaned, and its edge followed last. */
  const liftCoating = (): Proposal => {
    const { lift, clean, edge: edged } = liftedCoating(['shape'], material, machine)
    return {
      id: 'lift-coating',
      title: `Lift the ${topLayer(material).name}`,
      detail: `filled, cleaned by a weak pass, its edge last: the ${material.layers[1].name} stays unharmed`,
      job: job({ source, shape }, { lift, clean, edge: edged }, ['lift', 'clean', 'edge'], 0),
    }
  }
  const isDrawn = (): boolean => {
    if (facts.widthPx * facts.heightPx > MOST_STROKE_PX || facts.hasAlpha || !borderLight || judged.dots) return false
    const placed = unplaced({ source, node: shape }, {}, [], 1)
    const paths = outlinePaths(placed, 'node', supply)
    const { widthMm, heightMm } = placed.placements.source
    const rings = paths.map((path) => flattenPath(path, 0.02))
    const area = Math.abs(rings.reduce((sum, ring) => sum + ringArea(ring), 0))
    const around = rings.reduce((sum, ring) => sum + ringLength(ring), 0)
    // Twice the area over the edge is how wide strokes are.
    return paths.length > 0 && around > 0 && (2 * area) / around < STROKE_SHARE * Math.min(widthMm, heightMm)
  }
  // Where dark meets light in a photograph is no shape, nor is the edge of every dot of a prepared one; what stands alone on paper, or
  // has its own edge, may be one.
  const hasShape = facts.hasAlpha || (!judged.dots && (page.likely || borderLight || !judged.photo))
  if (page.likely) {
    yield inkOnly()
    yield strokes()
    if (isOutline(shape, 1)) yield fillShapes()
  }
  if (canBeLifted(material) && hasShape && isOutline(shape, 1)) yield liftCoating()
  if (judged.dots) yield asTheyAre()
  if (judged.heights.likely && !judged.twoTone) yield* relief()
  const engraved: Proposal = {
    id: 'engrave',
    title: 'Engrave the picture',
    detail:
      judged.photo && material.finish
        ? `as dots, its tones set for ${FINISH_STARTS[material.finish].name}`
        : 'as dots, in the tones it has',
    job: job({ source, dots: prepared }, { engrave: pictureProcess.fromRecipe(['dots'], material, machine) }, ['engrave'], 0),
  }
  yield engraved
  if (settings.fillsPiece) yield filling(engraved.job)
  const cutOut = isOutline(edge, AROUND_MM) ? around() : undefined
  if (cutOut) yield cutOut
  if (hasShape && isOutline(shape, 1)) {
    yield cutShape()
    if (!page.likely) {
      yield fillShape()
      const deep = fillDeep()
      if (deep) yield deep
    }
  }
  if (!page.likely && isDrawn()) yield strokes()
  const elsewhere = cutOut && !settings.fillsPiece ? cutElsewhereLater(cutOut.job) : undefined
  if (elsewhere) yield elsewhere
}

/** The picture that proposals are made from: the file's own, or a mesh seen from above. */
export function proposedPicture(facts: SourceFacts, supply: Supply): GreyPicture {
  if (!facts.mesh || !supply.mesh) return supply.picture(facts.asset, LUMA)
  return heightMap(supply.mesh(facts.asset), '+z', { widthPx: facts.widthPx, heightPx: facts.heightPx, near: 0, far: 1 })
}

/** The size in the file where it has one that fits; the size asked for; or most of the workpiece. */
function startSize(facts: SourceFacts, { workpiece, size }: ProposalSettings, around: number): Omit<Placement, 'of' | 'on'> {
  const ratio = facts.heightPx / facts.widthPx
  const room = { width: workpiece.widthMm - 2 * around, height: workpiece.heightMm - 2 * around }
  let widthMm = Math.min(room.width, room.height / ratio) * FILL
  const own = facts.pixelsPerMm ? facts.widthPx / facts.pixelsPerMm : 0
  // Resolutions below 100 dpi are most often a screen's, not a real size.
  if (facts.pixelsPerMm && facts.pixelsPerMm > 3.9 && own <= room.width && own * ratio <= room.height && own >= 10) widthMm = own
  let heightMm = widthMm * ratio
  if (size?.widthMm) {
    widthMm = size.widthMm
    heightMm = size.heightMm ?? widthMm * ratio
  } else if (size?.heightMm) {
    heightMm = size.heightMm
    widthMm = heightMm / ratio
  }
  return placed({ widthMm, heightMm }, workpiece)
}

/** Margins narrower than this share of a side are nothing that anybody would measure with the rest. */
const MARGIN = 0.005

/** A transparent margin cropped away, so that artwork is as large as what is seen of it. */
function seenCrop({ widthPx: w, heightPx: h, alpha }: GreyPicture): CropStep[] {
  if (!alpha) return []
  let [x0, y0, x1, y1] = [w, h, 0, 0]
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      if (alpha[y * w + x] === 0) continue
      x0 = Math.min(x0, x)
      x1 = Math.max(x1, x + 1)
      y0 = Math.min(y0, y)
      y1 = y + 1
    }
  }
  const margin = Math.max(x0 / w, 1 - x1 / w, y0 / h, 1 - y1 / h)
  return x1 <= x0 || margin < MARGIN ? [] : [{ kind: 'crop', on: true, x: x0, y: y0, width: x1 - x0, height: y1 - y0 }]
}

/** Whether the picture's border is nearly white, so that something can be told from its background. */
function lightBorder(picture: GreyPicture): boolean {
  const { widthPx: w, heightPx: h, samples, full, alpha } = picture
  let light = 0
  let all = 0
  const look = (i: number): void => {
    all++
    if ((alpha && alpha[i] < 128) || samples[i] > 0.93 * full) light++
  }
  for (let x = 0; x < w; x++) {
    look(x)
    look((h - 1) * w + x)
  }
  for (let y = 0; y < h; y++) {
    look(y * w)
    look(y * w + w - 1)
  }
  return light > 0.9 * all
}
