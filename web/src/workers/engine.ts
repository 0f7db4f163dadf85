import type {
  Bounds,
  CardKind,
  CardOn,
  Caught,
  CutOff,
  Drawn,
  FillName,
  FirstTrial,
  FitSettings,
  FontAxis,
  ImportRule,
  JobDocument,
  Judgement,
  Machine,
  Material,
  MeshExtent,
  NestSettings,
  Operation,
  ProcessName,
  Ring,
  Start,
  StockPiece,
  TraceNode,
  Track,
  TrialAxes,
  View,
  ViewAxis,
} from '@neotaxis/core'
import { proxy, type Remote, transfer, wrap } from 'comlink'
import type { Engine } from './engine.worker.ts'
import { Lasting, type Mortal } from './lasting.ts'
import { lockIsFree } from './life-lock.ts'
import { ringsOf } from './packed-rings.ts'
import type { Painter } from './painter.worker.ts'
import type { FillView, Offer } from './process-views.ts'
import {
  type BenchFacts,
  type BenchPicture,
  type BurnComparison,
  type Drawing,
  type DrawnFile,
  type FilledSheetView,
  type Fitted,
  type LaidOutView,
  type Measure,
  type OutlineRequest,
  type OutlineView,
  type PaintedForecast,
  type PaintedOutlines,
  PROGRESS,
  type ProposalCard,
  type ProposalRequest,
  type StockFitView,
  TICKET,
} from './shared.ts'
import type { TrialMade } from './trials-made.ts'

interface Workers {
  readonly engine: Remote<Engine>
  readonly painter: Remote<Painter>
  readonly shared: Int32Array
}

const paintListeners = new Set<(version: number) => void>()
const deathListeners = new Set<() => void>()
let ticket = 0
/** The newest forecast that the painter has; 0 before the first. */
let painted = 0
/** The outlines of the last drawing; what did not change since is not sent again. */
let known: Drawing = { versions: {}, outlines: {}, bounds: {} }

/** No worker makes as many versions in its life. */
const VERSIONS_A_LIFE = 1e8
let lives = 0

/** The two workers: one computes, one paints, so that panning never waits for a plan. */
function makeWorkers(): Mortal<Workers> {
  const memory = typeof SharedArrayBuffer === 'undefined' ? undefined : new SharedArrayBuffer(8)
  const engineWorker = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' })
  const painterWorker = new Worker(new URL('./painter.worker.ts', import.meta.url), { type: 'module' })
  const both = [engineWorker, painterWorker]
  const engine = wrap<Engine>(engineWorker)
  const painter = wrap<Painter>(painterWorker)
  const { port1, port2 } = new MessageChannel()
  const lock = `neotaxis.worker.${crypto.randomUUID()}`
  void engine.connect(memory, transferPort(port1), `${lock}.engine`, VERSIONS_A_LIFE * lives++)
  void painter.connect(
    transferPort(port2),
    proxy((version: number) => {
      painted = version
      for (const listener of paintListeners) listener(version)
    }),
    `${lock}.painter`,
  )
  const ending = new AbortController()
  const died = new Promise<void>((resolve) => {
    for (const worker of both) {
      worker.addEventListener('error', () => resolve())
      worker.addEventListener('messageerror', () => resolve())
    }
    // A worker holds its lock as long as it lives, whatever it dies of.
    for (const name of [`${lock}.engine`, `${lock}.painter`]) void lockIsFree(name, ending.signal).then(resolve)
  })
  const shared = new Int32Array(memory ?? new ArrayBuffer(8))
  // What is asked of the dead again is not outdated for those that live.
  Atomics.store(shared, TICKET, ticket)
  return {
    at: { engine, painter, shared },
    died,
    end: () => {
      ending.abort()
      for (const worker of both) worker.terminate()
    },
  }
}

const lasting = new Lasting(makeWorkers, () => {
  // What the dead ones had, the new ones have not.
  painted = 0
  known = { versions: {}, outlines: {}, bounds: {} }
  for (const listener of deathListeners) listener()
})
const start = (): Workers => lasting.now

/** Told when a worker died and another took its place. @returns the way to stop listening */
export function onWorkerDeath(listener: () => void): () => void {
  deathListeners.add(listener)
  return () => deathListeners.delete(listener)
}

const transferPort = (port: MessagePort): MessagePort => transfer(port, [port])

function nextTicket(): number {
  const { shared } = start()
  ticket++
  Atomics.store(shared, TICKET, ticket)
  Atomics.store(shared, PROGRESS, 0)
  return ticket
}

/** Outlines and boxes of a job; undefined when a newer request overtook it. @param first only these nodes; the others stay as they were */
export const draw = async (job: JobDocument, first?: readonly string[]): Promise<Drawing | undefined> => {
  const mine = nextTicket()
  const news = await lasting.ask(({ engine }) => engine.draw(job, mine, first))
  if (!news) return undefined
  const { version, fresh } = news
  const outlines: Record<string, readonly Ring[]> = {}
  const bounds: Record<string, Bounds> = {}
  const versions: Record<string, number> = {}
  for (const id of Object.keys(job.nodes)) {
    const rings = fresh[id] ? ringsOf(fresh[id]) : known.outlines[id]
    if (rings) {
      outlines[id] = rings
      versions[id] = fresh[id] ? version : known.versions[id]
    }
    const box = news.bounds[id] ?? known.bounds[id]
    if (box) bounds[id] = box
  }
  known = { versions, outlines, bounds }
  return known
}

/** Makes the forecast of a job for the painter. @param beside an operation put aside that is shown too @param hidden operations left out @returns false when a newer request overtook it. */
export const forecast = async (job: JobDocument, beside?: string, hidden: readonly string[] = []): Promise<boolean> => {
  const mine = nextTicket()
  const version = await lasting.ask(({ engine }) => engine.forecast(job, mine, beside, hidden))
  if (version === undefined) return false
  // It is made when the painter has it.
  if (painted < version)
    await new Promise<void>((resolve) => {
      const stop = onForecast((now) => {
        if (now < version) return
        stop()
        resolve()
      })
    })
  return true
}

/** Times and findings of a job; undefined when a newer request overtook it. */
export const measure = (job: JobDocument): Promise<Measure | undefined> => {
  const mine = nextTicket()
  return lasting.ask(({ engine }) => engine.measure(job, mine))
}

/** The jobs that a picture could become, each told as soon as it is there; undefined when a newer request overtook it. */
export const proposals = (
  request: ProposalRequest,
  onCard: (card: ProposalCard) => void = () => {},
): Promise<ProposalCard[] | undefined> => {
  const mine = nextTicket()
  return lasting.ask(async ({ engine }) => {
    const cards: ProposalCard[] = []
    const done = await engine.propose(
      request,
      mine,
      proxy((card: ProposalCard) => {
        cards.push(card)
        onCard(card)
      }),
    )
    return done && cards
  })
}

/** How long an operation takes with each of some settings, s. */
export const secondsWith = (job: JobDocument, id: string, changes: readonly Partial<Operation>[]): Promise<number[]> =>
  lasting.ask(({ engine }) => engine.secondsWith(job, id, changes))

/** A strip that repeats the hardest patch of what an operation burns, with the files of what is drawn on it. */
export const stripOfTrials = (job: JobDocument, id: string, axes?: TrialAxes, on?: Material): Promise<TrialMade> =>
  lasting.ask(({ engine }) => engine.stripOfTrials(job, id, axes, on))

/** The first card of trials on a material, with the files of what is drawn on it. */
export const firstCardOn = (material: Material, machine: Machine, process: FirstTrial): Promise<TrialMade> =>
  lasting.ask(({ engine }) => engine.firstCardOn(material, machine, process))

/** A card of trials around an operation, with the files of what is drawn on it. */
export const cardOfTrials = (job: JobDocument, id: string, kind: CardKind, on: CardOn = {}): Promise<TrialMade> =>
  lasting.ask(({ engine }) => engine.cardOfTrials(job, id, kind, on))

/** A picture that will be asked about soon is fetched and decoded. */
export const expectPicture = (asset: string): Promise<unknown> => lasting.ask(({ engine }) => engine.expectPicture(asset))

/** Gets the workers ready, so that the first thing that is asked of them does not wait for them. */
export const warmEngine = (): Promise<unknown> => lasting.ask(({ engine }) => engine.warm())

/** Every move of a job with its time; undefined when the job changed meanwhile. */
export const track = (job: JobDocument): Promise<Track | undefined> => lasting.ask(({ engine }) => engine.track(job))

/** Forecast against what a run burned. */
export const compareWithBurn = (
  job: JobDocument,
  runId: string,
  at: { cellMm: number; x: number; y: number },
): Promise<BurnComparison> => lasting.ask(({ engine }) => engine.compare(job, runId, at))

/** How dark a part of the bed is forecast to be, 0–255. */
export const darkOnBed = (
  job: JobDocument,
  view: { readonly x: number; readonly y: number; readonly columns: number; readonly rows: number; readonly cellMm: number },
): Promise<Uint8Array> => lasting.ask(({ engine }) => engine.darkOnBed(job, view))

/** A picture in its frame, before treatment. @param side its longer side, px */
export const benchPicture = (job: JobDocument, nodeId: string, upTo?: number, side = 2000): Promise<BenchPicture> =>
  lasting.ask(({ engine }) => engine.benchPicture(job, nodeId, upTo, side))

/** What each import rule catches of a drawing. */
export const caughtByRules = (asset: string, rules: readonly ImportRule[]): Promise<readonly Caught[]> =>
  lasting.ask(({ engine }) => engine.caughtBy(asset, rules))

/** What is drawn by numbers, as a drawing file. @throws where its numbers make nothing, with a sentence */
export const drawnFile = (drawn: Drawn): Promise<DrawnFile> => lasting.ask(({ engine }) => engine.drawnFile(drawn))

/** A palette of the picture that a trace comes from, with its ground left out. */
export const tracePalette = (
  job: JobDocument,
  nodeId: string,
  count: number,
): Promise<Required<Pick<TraceNode, 'palette' | 'chosen'>>> =>
  lasting.ask(({ engine }) => engine.tracePalette(job, nodeId, count))

/** The curves of an outline, and what its clean-up did. */
export const outlineView = (job: JobDocument, nodeId: string): Promise<OutlineView> =>
  lasting.ask(({ engine }) => engine.outlineView(job, nodeId))

/** The polygons of an outline of the job as the edge of a workpiece, face mm. */
export const outlineAsFace = (job: JobDocument, nodeId: string): Promise<readonly Ring[]> =>
  lasting.ask(({ engine }) => engine.outlineAsFace(job, nodeId))

/** Where some artwork lies as large as its workpiece takes it; where it cannot, why; undefined when it was cancelled. */
export const fitted = (job: JobDocument, nodeId: string, settings: FitSettings): Promise<Fitted | undefined> => {
  const mine = nextTicket()
  return lasting.ask(({ engine }) => engine.fitted(job, nodeId, settings, mine) as Promise<Fitted | undefined>)
}

/** Where artwork lies when it is laid out on its workpiece; where it has no place, why; undefined when it was cancelled. */
export const layOut = (job: JobDocument, nodes: readonly string[], settings: NestSettings): Promise<LaidOutView | undefined> => {
  const mine = nextTicket()
  return lasting.ask(({ engine }) => engine.laidOut(job, nodes, settings, mine) as Promise<LaidOutView | undefined>)
}

/** The workpiece full of some artwork; where not one goes, why; undefined when it was cancelled. */
export const fillSheet = (job: JobDocument, node: string, settings: NestSettings): Promise<FilledSheetView | undefined> => {
  const mine = nextTicket()
  return lasting.ask(({ engine }) => engine.filledSheet(job, node, settings, mine) as Promise<FilledSheetView | undefined>)
}

/** Which pieces of stock take a job, the least waste first; undefined when something newer overtook it. */
export const stockFits = (
  job: JobDocument,
  stock: readonly StockPiece[],
  marginMm: number,
): Promise<StockFitView[] | undefined> => {
  const mine = nextTicket()
  return lasting.ask(({ engine }) => engine.stockFits(job, stock, marginMm, mine) as Promise<StockFitView[] | undefined>)
}

/** What a job leaves of its workpiece: the share that is used, and what goes back on the shelf, face mm. */
export const leftOverOf = (
  job: JobDocument,
): Promise<{ readonly usedShare: number; readonly offcuts: readonly (readonly Ring[])[] }> =>
  lasting.ask(({ engine }) => engine.leftOver(job))

/** The straight line behind which nothing of a job is burned; undefined where there is none worth a cut. */
export const cutOffOf = (job: JobDocument, awayMm: number): Promise<CutOff | undefined> =>
  lasting.ask(({ engine }) => engine.cutOffLine(job, awayMm))

/** What of a font can be set; empty where it is no variable one. */
export const fontAxes = (asset: string): Promise<readonly FontAxis[]> => lasting.ask(({ engine }) => engine.fontAxes(asset))

/** The polygons of a drawing that was brought in as the edge of a workpiece, mm. */
export const fileRings = (asset: string): Promise<readonly Ring[]> => lasting.ask(({ engine }) => engine.fileRings(asset))

/** What the bench tells of a prepared picture; undefined where something more urgent came. */
export const benchFacts = (job: JobDocument, operationId: string, stepId?: string): Promise<BenchFacts | undefined> =>
  lasting.ask(({ engine }) => engine.benchFacts(job, operationId, stepId))

/** What some artwork would look like and take with a process more; undefined where something more urgent came. */
export const offerOf = (job: JobDocument, nodes: readonly string[], process: ProcessName): Promise<Offer | undefined> =>
  lasting.ask(({ engine }) => engine.offer(job, nodes, process))

/** What one way to fill an area costs, and its path; undefined where something more urgent came. */
export const fillOf = (job: JobDocument, operation: string, name: FillName): Promise<FillView | undefined> =>
  lasting.ask(({ engine }) => engine.fill(job, operation, name))

/** What a run of a part of a job takes and what speaks against it; undefined where something more urgent came. */
export const partOf = (job: JobDocument): Promise<Pick<Measure, 'report' | 'findings'> | undefined> =>
  lasting.ask(({ engine }) => engine.part(job))

/** The steps and the order of a job put in a good order; undefined where something more urgent came. */
export const goodOrderOf = (job: JobDocument): Promise<Pick<JobDocument, 'steps' | 'order'> | undefined> =>
  lasting.ask(({ engine }) => engine.goodOrder(job))

/** What another tool cuts, as the text of a file. @throws Error with a sentence */
export const elsewhereFile = (
  job: JobDocument,
  stepId: string,
  kind: 'svg' | 'dxf',
): Promise<{ readonly text: string; readonly notices: readonly string[] }> =>
  lasting.ask(({ engine }) => engine.elsewhere(job, stepId, kind))

/** Whether a picture is a height map, and why. */
export const heightCues = (job: JobDocument, nodeId: string): Promise<Judgement['heights']> =>
  lasting.ask(({ engine }) => engine.heightCues(job, nodeId))

/** Extents of a mesh along every axis, mm. */
export const meshExtents = (job: JobDocument, meshId: string): Promise<Record<ViewAxis, MeshExtent> | undefined> =>
  lasting.ask(({ engine }) => engine.meshExtents(job, meshId))

/** How a picture would begin on the job's material, and why. */
export const startValues = (job: JobDocument, nodeId: string): Promise<Start> =>
  lasting.ask(({ engine }) => engine.startValues(job, nodeId))

/** A mask over its picture. */
export const benchMask = (job: JobDocument, nodeId: string, maskId: string): Promise<BenchPicture | undefined> =>
  lasting.ask(({ engine }) => engine.benchMask(job, nodeId, maskId))

export const program = (job: JobDocument): Promise<Blob[]> => lasting.ask(({ engine }) => engine.program(job))

/** Stops whatever the engine is computing. */
export const cancelWork = (): void => void nextTicket()

/** Progress of the work at hand, 0–1. */
export const progressNow = (): number => Atomics.load(start().shared, PROGRESS) / 1000

/**
 * A part of the forecast; undefined before the first. @param only operations that are burned, default all that run
 * @param piece another workpiece than the one that is looked at
 */
export const paintForecast = (view: View, only?: readonly string[], piece?: string): Promise<PaintedForecast | undefined> =>
  lasting.ask(({ painter }) => painter.forecast(view, only, piece))

/** Outlines as lines on a clear ground; waits for a drawing that is still on its way. */
export const paintOutlines = (request: OutlineRequest): Promise<PaintedOutlines> =>
  lasting.ask(({ painter }) => painter.outlines(request))

/** Told of the forecast that is there, and whenever it changes. @returns the way to stop listening */
export function onForecast(listener: (version: number) => void): () => void {
  paintListeners.add(listener)
  if (painted > 0) listener(painted)
  return () => paintListeners.delete(listener)
}
