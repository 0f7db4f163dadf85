import {
  assetsOf,
  assetsSupply,
  type Bounds,
  type BurnedMaps,
  burned,
  burnOrder,
  burnsRows,
  type Caught,
  type CutOff,
  caughtBy,
  checkFindings,
  cleanReports,
  cutOffLine,
  type Drawn,
  decodePng,
  drawingBounds,
  drawnAssets,
  drawnSvg,
  elsewhereDrawing,
  type FillName,
  type FitSettings,
  type FontAxis,
  faceEdge,
  faceSize,
  filledSheet,
  fittedToPiece,
  flattenPath,
  forecastScene,
  framedColours,
  framedPicture,
  type ImportRule,
  inGoodOrder,
  isFont,
  isOutline,
  type JobDocument,
  type Judgement,
  judgePicture,
  LUMA,
  laidOut,
  leftOver,
  looksOf,
  loosePieces,
  type MeshExtent,
  mainPiece,
  mainPieceId,
  materialOf,
  measureJob,
  meshExtent,
  type NestSettings,
  type Operation,
  ontoStock,
  outlineFacts,
  outlineKey,
  outlinePaths,
  outlineRings,
  PictureError,
  type ProcessName,
  paintForecast,
  palette,
  picture,
  placeOf,
  placesInOrder,
  poseBounds,
  proposingIn,
  ResultCache,
  type Ring,
  readVectorFile,
  recordJob,
  relationsOf,
  ringsBounds,
  type Start,
  type StockPiece,
  type Supply,
  seenScene,
  setUps,
  startTreatment,
  type TraceNode,
  type Track,
  type Typeface,
  type ViewAxis,
  whichFit,
  withArtwork,
  withOperation,
  withoutFirstPause,
  writeDxf,
  writeProgram,
  writeSvgDrawing,
} from '@neotaxis/core'
import { expose, transfer } from 'comlink'
import { benchFacts, framedView, maskView } from './bench-views.ts'
import { comparedBurn, darkOnBed } from './compared-burn.ts'
import { holdLife } from './life-lock.ts'
import { type PackedRings, packRings } from './packed-rings.ts'
import { type FillView, fillView, type Offer, offerView } from './process-views.ts'
import {
  type BenchFacts,
  type BenchPicture,
  type BurnComparison,
  type DrawingNews,
  type DrawnFile,
  type FilledSheetView,
  type Fitted,
  type LaidOutView,
  type Measure,
  type OutlineView,
  PROGRESS,
  type ProposalCard,
  type ProposalRequest,
  type StockFitView,
  TICKET,
  type ToPainter,
} from './shared.ts'
import { trialsMade } from './trials-made.ts'
import { warmUp } from './warm-up.ts'

const cache = new ResultCache(600_000_000)
/** Files of the jobs at hand, as they came. */
const assets = new Map<string, Uint8Array>()
/** Reads fonts; it comes with the first one. */
let fontOf: ((bytes: Uint8Array, axes?: Readonly<Record<string, number>>) => Typeface) | undefined
let shared: Int32Array<ArrayBufferLike> = new Int32Array(2)
/** Without shared memory (a page that is not isolated) work cannot be cancelled in the middle. */
let isShared = false
let painter: MessagePort | undefined
let version = 0
/** The outlines of the last drawing, which page and painter have. */
let sent = new Map<string, { readonly key: string; readonly box: Bounds }>()
let drawings = 0

/** A newer request came: this one is not wanted any more. */
class Outdated extends Error {}

async function fetchAssets(names: readonly string[]): Promise<void> {
  for (const name of names) {
    const known = assets.get(name)
    if (known) {
      // Most recently used last.
      assets.delete(name)
      assets.set(name, known)
      continue
    }
    const response = await fetch(`/api/assets/${name}/plain`)
    if (!response.ok) throw new PictureError('A picture of this job cannot be fetched from the server.')
    const bytes = new Uint8Array(await response.arrayBuffer())
    if (isFont(bytes)) fontOf ??= (await import('@neotaxis/core/text/outline-font')).readFont
    assets.set(name, bytes)
  }
  // Files of jobs closed long ago make room.
  for (const name of assets.keys()) if (assets.size > Math.max(8, names.length) && !names.includes(name)) assets.delete(name)
}

/** A font that was fetched, at its axes. */
const faceOf = (asset: string, axes: Readonly<Record<string, number>> = {}): Typeface =>
  cache.get(
    `font ${asset} ${JSON.stringify(axes)}`,
    () => fontOf!(assets.get(asset)!, axes),
    () => 1_000_000,
  )

/** Evaluation that nothing stops. */
const calmSupply = (): Supply => assetsSupply((asset) => assets.get(asset), cache, undefined, fontOf)

function supply(ticket: number, from = 0, to = 1): Supply {
  return assetsSupply(
    (asset) => assets.get(asset),
    cache,
    (done) => {
      if (isShared && Atomics.load(shared, TICKET) !== ticket) throw new Outdated()
      Atomics.store(shared, PROGRESS, Math.round(1000 * (from + (to - from) * done)))
    },
    fontOf,
  )
}

function unlessOutdated<T>(work: () => T): T | undefined {
  try {
    return work()
  } catch (cause) {
    if (cause instanceof Outdated) return undefined
    throw cause
  }
}

const engine = {
  /**
   * @param life a lock to be held as long as this worker lives
   * @param from versions are counted from here, above all that an earlier worker gave
   */
  connect(memory: SharedArrayBuffer | undefined, port: MessagePort, life: string, from: number): void {
    holdLife(life)
    version = drawings = from
    if (memory) shared = new Int32Array(memory)
    isShared = memory !== undefined
    painter = port
  },

  /**
   * Outlines that changed since the last drawing, and boxes; undefined when a newer request made it pointless.
   * @param first only these nodes, which somebody looks at; the others stay as they were
   */
  async draw(job: JobDocument, ticket: number, first?: readonly string[]): Promise<DrawingNews | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const work = supply(ticket)
      const outlines = new Map<string, { readonly key: string; readonly box: Bounds }>()
      const bounds: Record<string, Bounds> = {}
      const places: Record<string, { x: number; y: number }> = {}
      const fresh: Record<string, PackedRings> = {}
      for (const [id, node] of Object.entries(job.nodes)) {
        const place = placeOf(job, id)
        if (!isOutline(node)) {
          bounds[id] = poseBounds(place, place)
          continue
        }
        places[id] = { x: place.xMm, y: place.yMm }
        let known = sent.get(id)
        if (!first || first.includes(id)) {
          const key = outlineKey(job, id, work)
          if (known?.key !== key) {
            const rings = outlineRings(job, id, work)
            fresh[id] = packRings(rings)
            known = { key, box: ringsBounds(rings) }
          }
          bounds[id] = known.box
        }
        if (known) outlines.set(id, known)
      }
      sent = outlines
      drawings++
      painter?.postMessage({ kind: 'outlines', version: drawings, fresh, places } satisfies ToPainter)
      const buffers = Object.values(fresh).flatMap(({ points, ends }) => [points.buffer, ends.buffer])
      return transfer({ version: drawings, fresh, bounds }, buffers)
    })
  },

  /**
   * The forecast, sent on to the painter, with an operation that is put aside where one is asked for.
   * @returns its version; undefined when a newer request made it pointless
   */
  async forecast(
    job: JobDocument,
    ticket: number,
    beside: string | undefined,
    hidden: readonly string[],
  ): Promise<number | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const work = supply(ticket)
      const whole = seenScene(job, work)
      const scene = { ...whole, layers: whole.layers.filter(({ operation }) => !hidden.includes(operation)) }
      const isAside = beside !== undefined && job.operations[beside] && !burnOrder(job).includes(beside)
      const aside = isAside ? forecastScene(burned(job, beside, job.operations[beside]), work, new Set([beside])).layers : []
      const others = Object.fromEntries(
        Object.keys(job.workpieces)
          .filter((id) => id !== mainPieceId(job))
          .map((id) => {
            const made = seenScene(job, work, id)
            return [id, { ...made, layers: made.layers.filter(({ operation }) => !hidden.includes(operation)) }]
          }),
      )
      painter?.postMessage({ kind: 'scene', scene, others, aside, version: ++version } satisfies ToPainter)
      return version
    })
  },

  /** Times and findings; undefined when a newer request made it pointless. */
  async measure(job: JobDocument, ticket: number): Promise<Measure | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const work = supply(ticket, 0.9, 1)
      const drawn = Object.keys(job.nodes).filter((id) => isOutline(job.nodes[id]))
      return {
        report: measureJob(job, supply(ticket, 0, 0.9)),
        findings: checkFindings(job, work),
        loose: loosePieces(job, work),
        places: placesInOrder(job, relationsOf(job, work)),
        outlines: Object.fromEntries(drawn.map((id) => [id, outlineFacts(job, id, work)])),
      }
    })
  },

  /** How long an operation takes with each of some settings, s. */
  async secondsWith(job: JobDocument, id: string, changes: readonly Partial<Operation>[]): Promise<number[]> {
    await fetchAssets(assetsOf(job))
    const work = calmSupply()
    return changes.map((change) => {
      const report = measureJob(withOperation(job, id, change), work, new Set([id]))
      return report.operations.find((each) => each.id === id)?.seconds ?? 0
    })
  },

  ...trialsMade(async (job) => {
    await fetchAssets(assetsOf(job))
    return calmSupply()
  }),

  /** Fetches and decodes a picture that will be asked about soon. */
  async expectPicture(asset: string): Promise<void> {
    await fetchAssets([asset])
    calmSupply().picture(asset, LUMA)
  },

  /** Compiles and tries what the first file needs. */
  warm(): void {
    warmUp()
  },

  /** The jobs a picture could become, each with its time and a picture of the result, told as soon as it is there. */
  async propose(
    { facts, rules, into, at, ...settings }: ProposalRequest,
    ticket: number,
    onCard: (card: ProposalCard) => void,
  ): Promise<true | undefined> {
    await fetchAssets([facts.asset, ...(into ? assetsOf(into) : [])])
    const work: Supply = calmSupply()
    return unlessOutdated(() => {
      const asked = { facts, settings, rules, into, at }
      const known = new Set(into ? checkFindings(into, work).map(({ id }) => id) : [])
      let i = 0
      for (const proposal of proposingIn(asked, supply(ticket, 0, 0.4))) {
        const { job } = proposal
        const shown = into ? withArtwork(into, job, 'added') : job
        const face = faceSize(mainPiece(shown))
        const widthPx = 560
        const pxPerMm = widthPx / face.widthMm
        const heightPx = Math.max(1, Math.round(face.heightMm * pxPerMm))
        const step = supply(ticket, Math.min(0.9, 0.3 + 0.1 * i), Math.min(1, 0.4 + 0.1 * i))
        const { seconds } = measureJob(job, step)
        const rgba = paintForecast(forecastScene(shown, step), { x: 0, y: 0, pxPerMm, widthPx, heightPx })
        const findings = checkFindings(shown, work).filter(({ id }) => !known.has(id))
        onCard(transfer({ ...proposal, seconds, findings, picture: { rgba, widthPx, heightPx } }, [rgba.buffer]))
        i++
      }
      return true as const
    })
  },

  /** Every move of a job with its time; undefined when a change of the job made it pointless. */
  async track(job: JobDocument): Promise<Track | undefined> {
    await fetchAssets(assetsOf(job))
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => {
      const { track } = recordJob(job, supply(ticket))
      const own = { ...track, x: track.x.slice(), y: track.y.slice(), s: track.s.slice(), seconds: track.seconds.slice() }
      return transfer(own, [own.x.buffer, own.y.buffer, own.s.buffer, own.seconds.buffer])
    })
  },

  /** How well a run kept the forecast: numbers, and the difference as a picture (too much is dark, too little is light). */
  async compare(job: JobDocument, runId: string, at: { cellMm: number; x: number; y: number }): Promise<BurnComparison> {
    await fetchAssets(assetsOf(job))
    const response = await fetch(`/api/runs/${runId}/burn.png`)
    if (!response.ok) throw new PictureError('What this run burned cannot be fetched from the server.')
    const picture = decodePng(new Uint8Array(await response.arrayBuffer()))
    const { widthPx: columns, heightPx: rows, samples } = picture
    const burned: BurnedMaps = {
      columns,
      rows,
      x0: at.x,
      y0: at.y,
      cellMm: at.cellMm,
      tone: new Uint8Array(columns * rows),
      through: new Uint8Array(columns * rows),
    }
    for (let i = 0; i < columns * rows; i++) {
      burned.tone[i] = samples[3 * i]
      burned.through[i] = samples[3 * i + 1]
    }
    return comparedBurn(job, calmSupply(), burned)
  },

  /** How dark a part of the bed is forecast to be. */
  async darkOnBed(job: JobDocument, view: Parameters<typeof darkOnBed>[2]): Promise<Uint8Array> {
    await fetchAssets(assetsOf(job))
    return darkOnBed(job, calmSupply(), view)
  },

  /** A picture in its frame, before treatment, small enough to be shown. @param upTo framing steps that are done, default all */
  async benchPicture(job: JobDocument, nodeId: string, upTo: number | undefined, side: number): Promise<BenchPicture> {
    await fetchAssets(assetsOf(job))
    const made = framedView(job, nodeId, upTo, side, calmSupply())
    return transfer(made, [made.rgba.buffer as ArrayBuffer])
  },

  /** What the bench tells of a prepared picture as it is burned by an operation. @param stepId the step that is looked at */
  async benchFacts(job: JobDocument, operationId: string, stepId: string | undefined): Promise<BenchFacts | undefined> {
    await fetchAssets(assetsOf(job))
    const operation = job.operations[operationId]
    if (!burnsRows(operation)) return undefined
    // Whatever comes next is more urgent: it asks for its own facts.
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => benchFacts(job, operationId, operation, stepId, supply(ticket, 1, 1)))
  },

  /** What some artwork would look like and take with a process more; undefined where something more urgent came. */
  async offer(job: JobDocument, nodes: readonly string[], process: ProcessName): Promise<Offer | undefined> {
    await fetchAssets(assetsOf(job))
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => {
      const made = offerView(job, nodes, process, supply(ticket, 1, 1))
      return transfer(made, made.picture ? [made.picture.rgba.buffer as ArrayBuffer] : [])
    })
  },

  /** What one way to fill an area costs, and its path; undefined where something more urgent came. */
  async fill(job: JobDocument, operation: string, name: FillName): Promise<FillView | undefined> {
    await fetchAssets(assetsOf(job))
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => {
      const made = fillView(job, operation, name, supply(ticket, 1, 1))
      return transfer(made, [made.picture.rgba.buffer as ArrayBuffer])
    })
  },

  /** Times and findings of a job as a run burns it; undefined where something more urgent came. */
  async part(job: JobDocument): Promise<Pick<Measure, 'report' | 'findings'> | undefined> {
    await fetchAssets(assetsOf(job))
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => {
      const work = supply(ticket, 1, 1)
      return { report: measureJob(job, work), findings: checkFindings(job, work) }
    })
  },

  /** The job in a good order; undefined where something more urgent came. */
  async goodOrder(job: JobDocument): Promise<Pick<JobDocument, 'steps' | 'order'> | undefined> {
    await fetchAssets(assetsOf(job))
    const ticket = Atomics.load(shared, TICKET)
    return unlessOutdated(() => {
      const { steps, order } = inGoodOrder(job, supply(ticket, 1, 1))
      return { steps, order }
    })
  },

  /** What another tool cuts, as the text of a file. */
  async elsewhere(job: JobDocument, stepId: string, kind: 'svg' | 'dxf') {
    await fetchAssets(assetsOf(job))
    const drawing = elsewhereDrawing(job, stepId, calmSupply())
    return { text: kind === 'svg' ? writeSvgDrawing(drawing) : writeDxf(drawing), notices: drawing.notices }
  },

  /** Whether a picture is a height map, and why. */
  async heightCues(job: JobDocument, nodeId: string): Promise<Judgement['heights']> {
    await fetchAssets(assetsOf(job))
    return judgePicture(framedPicture(job, nodeId, calmSupply()).picture).heights
  },

  /** What each rule catches of a drawing. */
  async caughtBy(asset: string, rules: readonly ImportRule[]): Promise<readonly Caught[]> {
    await fetchAssets([asset])
    return caughtBy(calmSupply().drawing!(asset), rules)
  },

  /** What of a font can be set; empty where it is no variable one. */
  async fontAxes(asset: string): Promise<readonly FontAxis[]> {
    await fetchAssets([asset])
    return faceOf(asset).axes ?? []
  },

  /** What is drawn by numbers, as a drawing. */
  async drawnFile(drawn: Drawn): Promise<DrawnFile> {
    const names = drawnAssets(drawn)
    await fetchAssets(names)
    const chosen = drawn.kind === 'text' && drawn.font.kind === 'file' ? drawn.font : undefined
    const face = chosen && faceOf(chosen.asset, chosen.axes)
    const { svg, notices } = drawnSvg(drawn, face)
    const drawing = readVectorFile(new TextEncoder().encode(svg))
    return { svg, notices, box: drawingBounds(drawing), looks: [...looksOf(drawing).keys()] }
  },

  /** A palette of a trace's picture; its ground is left out. */
  async tracePalette(job: JobDocument, nodeId: string, count: number): Promise<Required<Pick<TraceNode, 'palette' | 'chosen'>>> {
    await fetchAssets(assetsOf(job))
    const found = palette(framedColours(job, nodeId, calmSupply()).picture, count)
    return {
      palette: found.map(({ rgb }) => rgb),
      chosen: found.flatMap(({ paper }, label) => (paper ? [] : [label])),
    }
  },

  /** The curves of an outline in job mm, and what its clean-up did. */
  async outlineView(job: JobDocument, nodeId: string): Promise<OutlineView> {
    await fetchAssets(assetsOf(job))
    const work = calmSupply()
    return {
      paths: outlinePaths(job, nodeId, work),
      reports: job.nodes[nodeId].kind === 'clean' ? cleanReports(job, nodeId, work) : {},
    }
  },

  /** The polygons of an outline of the job as the edge of a workpiece, face mm. */
  async outlineAsFace(job: JobDocument, nodeId: string): Promise<readonly Ring[]> {
    await fetchAssets(assetsOf(job))
    return faceEdge(outlineRings(job, nodeId, calmSupply()))
  },

  /** The job with some artwork as large as its workpiece takes it; where it cannot, why. */
  async fitted(job: JobDocument, nodeId: string, settings: FitSettings, ticket: number): Promise<Fitted | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const made = fittedToPiece(job, nodeId, supply(ticket), settings)
      return 'fits' in made ? { not: made.message } : { placements: made.job.placements, scale: made.scale }
    })
  },

  /** The workpiece full of some artwork; where not one goes, why. */
  async filledSheet(
    job: JobDocument,
    nodeId: string,
    settings: NestSettings,
    ticket: number,
  ): Promise<FilledSheetView | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const step = supply(ticket)
      const made = filledSheet(job, nodeId, calmSupply(), { ...settings, progress: step.progress })
      return 'not' in made ? made : { placements: made.job.placements, used: made.used, count: made.count }
    })
  },

  /** The job with artwork laid out on its workpiece; where it has no place, why. */
  async laidOut(
    job: JobDocument,
    nodes: readonly string[],
    settings: NestSettings,
    ticket: number,
  ): Promise<LaidOutView | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const step = supply(ticket)
      const made = laidOut(job, nodes, calmSupply(), { ...settings, progress: step.progress })
      return 'not' in made ? made : { placements: made.job.placements, used: made.used }
    })
  },

  /** Which pieces of stock take a job, and where its artwork would lie on each; undefined when it was cancelled. */
  async stockFits(
    job: JobDocument,
    stock: readonly StockPiece[],
    marginMm: number,
    ticket: number,
  ): Promise<StockFitView[] | undefined> {
    await fetchAssets(assetsOf(job))
    return unlessOutdated(() => {
      const step = supply(ticket)
      return whichFit(job, step, stock, marginMm, step.progress).map((found) => ({
        id: found.piece.id,
        wasteMm2: found.wasteMm2,
        angleDeg: found.fit.angleDeg,
        placements: ontoStock(job, step, found).placements,
      }))
    })
  },

  /** What a job leaves of its workpiece. */
  async leftOver(job: JobDocument): Promise<{ readonly usedShare: number; readonly offcuts: readonly (readonly Ring[])[] }> {
    await fetchAssets(assetsOf(job))
    const { usedMm2, wholeMm2, offcuts } = leftOver(job, calmSupply())
    return { usedShare: wholeMm2 > 0 ? usedMm2 / wholeMm2 : 1, offcuts: offcuts.map(({ rings }) => rings) }
  },

  /** The straight line behind which nothing of a job is burned. */
  async cutOffLine(job: JobDocument, awayMm: number): Promise<CutOff | undefined> {
    await fetchAssets(assetsOf(job))
    return cutOffLine(job, calmSupply(), awayMm)
  },

  /** The polygons of a drawing file as the edge of a workpiece, mm. */
  async fileRings(asset: string): Promise<readonly Ring[]> {
    await fetchAssets([asset])
    const { shapes } = calmSupply().drawing!(asset)
    return faceEdge(shapes.flatMap(({ paths }) => paths.filter(({ closed }) => closed).map((path) => flattenPath(path, 0.02))))
  },

  /** Extents of a mesh along every axis, mm. */
  async meshExtents(job: JobDocument, meshId: string): Promise<Record<ViewAxis, MeshExtent> | undefined> {
    await fetchAssets(assetsOf(job))
    const node = job.nodes[meshId]
    if (node?.kind !== 'mesh') return undefined
    const mesh = calmSupply().mesh!(node.asset)
    const along = (axis: ViewAxis) => [axis, meshExtent(mesh, axis)] as const
    return Object.fromEntries((['+x', '-x', '+y', '-y', '+z', '-z'] as const).map(along)) as Record<ViewAxis, MeshExtent>
  },

  /** How its picture would begin on the job's material, and why. */
  async startValues(job: JobDocument, nodeId: string): Promise<Start> {
    await fetchAssets(assetsOf(job))
    const { picture: framed } = framedPicture(job, nodeId, calmSupply())
    const { machine } = job
    const material = materialOf(job)
    const own = Object.values(job.operations).find(({ of }) => of.includes(nodeId))
    const burn = burnsRows(own) ? own : picture.fromRecipe([nodeId], material, machine)
    return startTreatment(framed, judgePicture(framed), { material, machine, burn })
  },

  /** A mask over its framed picture, 0–255, at most so many pixels a side. */
  async benchMask(job: JobDocument, nodeId: string, maskId: string): Promise<BenchPicture | undefined> {
    await fetchAssets(assetsOf(job))
    const made = maskView(job, nodeId, maskId, calmSupply())
    return made && transfer(made, [made.rgba.buffer as ArrayBuffer])
  },

  /** The program of a job as files: one for each set-up. */
  async program(job: JobDocument): Promise<Blob[]> {
    await fetchAssets(assetsOf(job))
    const { lookedAt: _, ...whole } = job
    return setUps(whole).map((only) => {
      const parts: Uint8Array<ArrayBuffer>[] = []
      writeProgram(
        withoutFirstPause(whole, only),
        calmSupply(),
        (bytes) => parts.push(bytes.slice() as Uint8Array<ArrayBuffer>),
        new Set(only),
      )
      return new Blob(parts, { type: 'text/plain' })
    })
  },
}

export type Engine = typeof engine
expose(engine)
