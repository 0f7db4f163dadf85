import { importRulesSchema, materialSchema, recipeSchema } from '@neotaxis/core'
import Joi from 'joi'
import { assetFacts, font } from './assets.ts'
import * as cameras from './cameras.ts'
import { cardFacts, editsSent, editsSince, jobBrief, openedJob, saveAnswer } from './jobs.ts'
import { artwork, artworkChange, newArtwork } from './library.ts'
import * as machines from './machines.ts'
import * as materials from './materials.ts'
import type { PathName } from './paths.ts'
import * as people from './people.ts'
import * as runs from './runs.ts'
import * as stock from './stock.ts'
import { count, document, id, text, whole } from './words.ts'

/** What is asked and answered at one address. */
export interface Endpoint {
  readonly summary: string
  readonly query?: Joi.ObjectSchema
  readonly body?: Joi.Schema
  /** Of a good answer: 200 where something is told, 204 where nothing is. */
  readonly status?: number
  readonly answer?: Joi.Schema
  /** The answer is a file of this kind. */
  readonly file?: string
}

const list = (key: string, of: Joi.Schema): Joi.Schema => whole({ [key]: Joi.array().items(of) })
const search = Joi.object({ search: text.max(100).default('') })

export const ENDPOINTS = {
  health: {
    summary: 'Whether this process can do its work',
    answer: whole({ status: Joi.valid('ok', 'failing'), database: Joi.valid('ok', 'away') }),
  },
  openapi: { summary: 'This description', answer: document },
  live: { summary: 'How the machines stand; as a WebSocket: at once, and whenever something changes', answer: machines.liveTold },

  jobs: { summary: 'The newest jobs', query: search, answer: list('jobs', jobBrief) },
  createJob: { summary: 'A new job', body: whole({ job: document }), status: 201, answer: jobBrief },
  openFile: { summary: 'A job from a job file', status: 201, answer: jobBrief },
  openProgram: {
    summary: 'A program from a file as a job that runs it as it is written',
    query: Joi.object({ name: Joi.string().min(1).max(200).default('Program') }),
    status: 201,
    answer: jobBrief,
  },
  job: { summary: 'A job with its newest document and its latest edits', answer: openedJob },
  editsSince: {
    summary: 'Edits after a revision',
    query: Joi.object({ since: count.required() }),
    answer: editsSince,
  },
  saveEdits: { summary: 'Edits of a page on a revision; others may have made some since', body: editsSent, answer: saveAnswer },
  copyJob: { summary: 'A copy of a job', status: 201, answer: jobBrief },
  deleteJob: { summary: 'Takes a job off the board; it can be brought back' },
  restoreJob: { summary: 'Brings a job back to the board' },
  jobFile: { summary: 'A job and all that it needs as one file', file: 'application/zip' },
  card: { summary: 'What the board shows of a job beside its picture', answer: cardFacts },
  cardPicture: { summary: 'A job after the burn, small', file: 'image/png' },

  bringIn: {
    summary: 'Reads a picture, mesh, drawing, page of a PDF or font and keeps it',
    query: Joi.object({ page: Joi.number().integer().min(1).max(100_000).default(1) }),
    status: 201,
    answer: assetFacts,
  },
  asset: { summary: 'Kept bytes by their SHA-256', file: 'application/octet-stream' },
  assetToRead: {
    summary: 'The same, a drawing in plain terms: styles, repeats and text resolved',
    file: 'application/octet-stream',
  },
  fonts: { summary: 'Fonts that texts can be written with', answer: list('fonts', font) },
  materials: { summary: 'The shop’s materials with their recipes', answer: list('materials', materialSchema) },
  saveMaterial: {
    summary: 'A new or changed material; its recipes stay',
    body: materials.materialSaved,
    answer: whole({ material: materialSchema }),
  },
  removeMaterial: { summary: 'Takes a material out of the shop, with its recipes' },
  addCurve: {
    summary: 'What was measured on a layer',
    body: materials.curveAdded,
    status: 201,
    answer: whole({ material: materialSchema }),
  },
  materialHistory: {
    summary: 'What was changed of a material and its recipes, the latest first',
    answer: list('changes', materials.catalogueChange),
  },
  bringBefore: {
    summary: 'Brings back how a material, or one of its recipes, was before a change; evidence stays',
    body: materials.broughtBack,
    answer: whole({ material: materialSchema }),
  },
  bringRecipes: { summary: 'Recipes, new or in place of those with the same id', body: materials.recipesBrought },
  removeRecipe: { summary: 'Takes a recipe away' },
  saveRecipe: {
    summary: 'A recipe with its evidence; evidence that is there stays',
    body: recipeSchema,
    answer: whole({ recipe: recipeSchema }),
  },
  catalogue: { summary: 'Materials, machines and import rules as one file', answer: document },
  importRules: { summary: 'What becomes of drawings that are brought in', answer: whole({ rules: importRulesSchema }) },
  saveImportRules: {
    summary: 'Settles the import rules',
    body: whole({ rules: importRulesSchema }),
    answer: whole({ rules: importRulesSchema }),
  },

  library: { summary: 'Artwork that is kept across jobs', query: search, answer: list('artwork', artwork) },
  keepArtwork: { summary: 'Keeps an asset in the library', body: newArtwork, status: 201, answer: artwork },
  changeArtwork: { summary: 'Changes what is said of it', body: artworkChange, answer: artwork },
  removeArtwork: { summary: 'Takes it out of the library; it can be brought back' },
  restoreArtwork: { summary: 'Brings it back' },
  artworkPicture: { summary: 'Its small picture', file: 'image/png' },
  artworkJobs: { summary: 'The jobs that use it', answer: list('jobs', whole({ id, name: text })) },

  stock: { summary: 'Sheets, offcuts and blanks on the shelf', query: stock.stockAsked, answer: list('stock', stock.stockItem) },
  keepStock: { summary: 'Something new on the shelf', body: stock.newStock, status: 201, answer: stock.stockItem },
  changeStock: { summary: 'Changes what is said of it', body: stock.stockChange, answer: stock.stockItem },
  removeStock: { summary: 'Takes it off the shelf; it can be brought back' },
  restoreStock: { summary: 'Brings it back' },
  stockByCode: { summary: 'What a code stands for', answer: stock.stockItem },
  stockUses: { summary: 'What was taken, the latest first', query: stock.usesAsked, answer: list('uses', stock.stockUse) },
  stockMonths: { summary: 'What was used by month and material', answer: list('months', stock.monthUse) },
  useStock: {
    summary: 'Writes down what a run took, where that was not done by itself',
    body: whole({ run: id }),
    status: 201,
    answer: list('uses', stock.stockUse),
  },
  takeBackUse: { summary: 'It was not used after all: what was there is there again' },
  rates: { summary: 'What the shop counts for time', answer: whole({ rates: stock.rates }) },
  saveRates: { summary: 'Settles it', body: whole({ rates: stock.rates }), answer: whole({ rates: stock.rates }) },

  machines: { summary: 'The profiles of the machines', answer: list('machines', machines.machine) },
  saveMachine: { summary: 'A new or changed profile', body: machines.machineSaved, answer: whole({ machine: machines.machine }) },
  removeMachine: { summary: 'Takes a machine out of the shop' },
  connect: { summary: 'Connects a machine' },
  disconnect: { summary: 'Lets it go' },
  machineSettings: { summary: 'What the machine says of itself, against its profile', answer: machines.machineSettings },
  machineTimes: { summary: 'How long it really takes, learned from its runs', answer: machines.machineTimes },
  check: { summary: 'The first connection was gone through: the beam goes off when it should' },
  home: { summary: 'Drives it to its origin' },
  getReady: { summary: 'Homes it where it must, and brings the lens to its height', body: machines.getReady },
  giveField: { summary: 'Gives a scan head the correction of its field, or takes it out', body: machines.fieldGiven },
  jog: { summary: 'Moves the head by so much', body: machines.jog },
  jogEnd: { summary: 'Ends a move of the head' },
  probe: {
    summary: 'Touches what lies under the head: how thick it is',
    body: whole({ jobId: id }),
    answer: whole({ thicknessMm: Joi.number().min(0) }),
  },
  goTo: { summary: 'Moves the head to a place', body: machines.goTo },
  frame: { summary: 'Drives around what a job would burn, with a beam that only shows', body: machines.frameWish },
  pulse: { summary: 'Shows the place of the beam for a moment', body: machines.pulse },
  startRun: { summary: 'Begins a run', body: machines.runStart, status: 201, answer: whole({ id }) },
  stopMachine: { summary: 'Stops whatever the machine does; by everybody, always' },
  panel: { summary: 'The outside of a simulated machine', body: machines.panelWish, answer: machines.panelTold },

  camera: { summary: 'The camera over its bed; null where there is none', answer: cameras.cameraTold },
  saveCamera: {
    summary: 'Where its camera answers, and how it was calibrated',
    body: cameras.cameraSaved,
    answer: cameras.cameraTold,
  },
  takePhoto: { summary: 'A photo of the bed, now', body: cameras.photoAsked, file: 'image/jpeg' },
  takeEmpty: { summary: 'A photo of the empty bed, kept to compare with', answer: cameras.cameraTold },
  underCamera: { summary: 'Lays something under a simulated camera', body: cameras.underCamera },
  runPhoto: { summary: 'The bed after a run', file: 'image/jpeg' },

  runs: { summary: 'The journal', query: runs.runsAsked, answer: list('runs', runs.runBrief) },
  run: { summary: 'A run with all that is known of it', answer: runs.runFull },
  burnPicture: { summary: 'What was burned, where it was looked at', file: 'image/png' },
  changeRun: { summary: 'What is written down after a run', body: runs.runChange, answer: runs.runChanged },
  carriedRun: { summary: 'A program that was carried to its machine', body: runs.runCarried, status: 201, answer: runs.runBrief },
  holdRun: { summary: 'Holds a run' },
  resumeRun: { summary: 'Goes on with it; before a set-up, with its list', body: runs.goingOn },
  stopRun: { summary: 'Ends it' },
  adjustRun: { summary: 'Shifts speed and power while it goes on', body: runs.shares },

  session: { summary: 'Who is signed in here', answer: people.sessionTold },
  signIn: { summary: 'Signs in', body: people.signIn },
  firstSignIn: { summary: 'The first one keeps the shop: whoever knows its key', body: people.firstSignIn, status: 201 },
  signOut: { summary: 'Signs out' },
  people: { summary: 'Who works here', answer: list('people', people.personTold) },
  addPerson: { summary: 'Somebody new', body: people.newPerson, status: 201, answer: whole({ id }) },
  changePerson: { summary: 'Another PIN, or what somebody may do', body: people.personChange },
  removePerson: { summary: 'Nobody of that name works here any more' },
  certify: { summary: 'Certified for a machine', body: people.certificateWish },
  uncertify: { summary: 'Not certified any more' },
} satisfies Readonly<Record<PathName, Endpoint>>

type Of<N extends PathName, K extends 'body' | 'query'> =
  (typeof ENDPOINTS)[N] extends Readonly<Record<K, Joi.Schema<infer T>>> ? T : never
/** What is sent to an address, and asked beside it. */
export type BodyOf<N extends PathName> = Of<N, 'body'>
export type QueryOf<N extends PathName> = Of<N, 'query'>

/** What an answer should be and is not; undefined where it is as it should be, or nothing is said of it. */
export function wrongAnswer(name: PathName, answer: unknown): string | undefined {
  const { answer: schema }: Endpoint = ENDPOINTS[name]
  return schema?.validate(answer, { convert: false }).error?.message
}
