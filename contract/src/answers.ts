import type { ImportRule, Machine, Material, Rates, Recipe } from '@neotaxis/core'
import type { AssetFacts, Font } from './assets.ts'
import type { MachineCamera } from './cameras.ts'
import type { CardFacts, EditsSince, JobBrief, OpenedJob, SaveAnswer } from './jobs.ts'
import type { Artwork } from './library.ts'
import type { LiveTold, MachineSettings, MachineTimes, PanelTold } from './machines.ts'
import type { CatalogueChange } from './materials.ts'
import type { PathName } from './paths.ts'
import type { PersonTold, SessionTold } from './people.ts'
import type { RunBrief, RunFull } from './runs.ts'
import type { MonthUse, StockItem, StockUse } from './stock.ts'

interface CameraTold {
  readonly camera: MachineCamera | null
}

interface Told {
  live: LiveTold
  jobs: { readonly jobs: readonly JobBrief[] }
  createJob: JobBrief
  openFile: JobBrief
  openProgram: JobBrief
  copyJob: JobBrief
  job: OpenedJob
  editsSince: EditsSince
  saveEdits: SaveAnswer
  card: CardFacts
  bringIn: AssetFacts
  fonts: { readonly fonts: readonly Font[] }
  materials: { readonly materials: readonly Material[] }
  saveMaterial: { readonly material: Material }
  addCurve: { readonly material: Material }
  materialHistory: { readonly changes: readonly CatalogueChange[] }
  bringBefore: { readonly material: Material }
  saveRecipe: { readonly recipe: Recipe }
  importRules: { readonly rules: readonly ImportRule[] }
  saveImportRules: { readonly rules: readonly ImportRule[] }
  library: { readonly artwork: readonly Artwork[] }
  keepArtwork: Artwork
  changeArtwork: Artwork
  artworkJobs: { readonly jobs: readonly { readonly id: string; readonly name: string }[] }
  stock: { readonly stock: readonly StockItem[] }
  keepStock: StockItem
  changeStock: StockItem
  stockByCode: StockItem
  stockUses: { readonly uses: readonly StockUse[] }
  stockMonths: { readonly months: readonly MonthUse[] }
  useStock: { readonly uses: readonly StockUse[] }
  rates: { readonly rates: Rates }
  saveRates: { readonly rates: Rates }
  machines: { readonly machines: readonly Machine[] }
  saveMachine: { readonly machine: Machine }
  machineSettings: MachineSettings
  machineTimes: MachineTimes
  probe: { readonly thicknessMm: number }
  startRun: { readonly id: string }
  panel: PanelTold
  camera: CameraTold
  saveCamera: CameraTold
  takeEmpty: CameraTold
  runs: { readonly runs: readonly RunBrief[] }
  run: RunFull
  carriedRun: RunBrief
  session: SessionTold
  people: { readonly people: readonly PersonTold[] }
  addPerson: { readonly id: string }
}

/** What is answered at an address; nothing where it only says that it was done. */
export type AnswerOf<N extends PathName> = N extends keyof Told ? Told[N] : undefined
