// What the page wants done. What the page holds of it is told to be old afterwards, and asked again where it is shown.
import type {
  AnswerOf,
  ArtworkSaid,
  CameraSaved,
  FieldGiven,
  FrameWish,
  GetReady,
  GoTo,
  Jog,
  NewArtwork,
  NewPerson,
  PanelWish,
  PersonChange,
  RecipesBrought,
  RunCarried,
  RunChangeTold,
  RunStart,
  Shares,
  StockSaid,
  UnderCamera,
} from '@neotaxis/contract'
import type { PathName } from '@neotaxis/contract/paths'
import type { Edit, ImportRule, JobDocument, Machine, Material, MeasuredCurve, Rates, Recipe } from '@neotaxis/core'
import { store } from '../store/store.ts'
import { type Asking, ask } from './ask.ts'
import { shop, type Tag } from './shop.ts'

/** Makes what is held of parts of the shop old. */
const isOld = (...tags: readonly Tag[]): void => void store.dispatch(shop.util.invalidateTags([...tags]))

/** How many orders are under way that change a part of the shop. */
const underWay = new Map<Tag, number>()

/**
 * Has something done. What it changes is asked anew when no other order is under way that changes it too: an answer in between would
 * take back what is shown of the later ones.
 */
async function order<N extends PathName>(name: N, asking: Asking, ...changes: readonly Tag[]): Promise<AnswerOf<N>> {
  const count = (tag: Tag, by: number): void => void underWay.set(tag, (underWay.get(tag) ?? 0) + by)
  for (const tag of changes) count(tag, 1)
  try {
    return await ask(name, asking)
  } finally {
    for (const tag of changes) count(tag, -1)
    // What failed may have been done all the same: its answer alone was lost.
    const old = changes.filter((tag) => underWay.get(tag) === 0)
    if (old.length > 0) isOld(...old)
  }
}

const of = (id: string): Asking => ({ params: { id } })

export const jobOrders = {
  open: (id: string) => ask('job', of(id)),
  editsSince: (id: string, revision: number) => ask('editsSince', { ...of(id), query: { since: revision } }),
  saveEdits: (id: string, base: number, edits: readonly Edit[]) => ask('saveEdits', { ...of(id), body: { base, edits } }),
  create: (job: JobDocument) => order('createJob', { body: { job } }, 'Jobs'),
  openFile: (file: Blob) => order('openFile', { file }, 'Jobs'),
  openProgram: (file: File) => order('openProgram', { query: { name: file.name.replace(/\.\w+$/, '') }, file }, 'Jobs'),
  copy: (id: string) => order('copyJob', of(id), 'Jobs'),
  remove: (id: string) => order('deleteJob', of(id), 'Jobs'),
  restore: (id: string) => order('restoreJob', of(id), 'Jobs'),
}

/** Reads a file and keeps it. A font is there for every text afterwards. */
export async function bringIn(file: Blob, page?: number): Promise<AnswerOf<'bringIn'>> {
  const facts = await ask('bringIn', { file, ...(page !== undefined && { query: { page } }) })
  if (facts.font) isOld('Fonts')
  return facts
}

export const shopOrders = {
  async saveImportRules(rules: readonly ImportRule[]): Promise<void> {
    const kept = await ask('saveImportRules', { body: { rules } })
    await store.dispatch(shop.util.upsertQueryData('importRules', null, kept.rules))
  },
  saveRecipe: (recipe: Recipe) => order('saveRecipe', { ...of(recipe.id), body: recipe }, 'Materials'),
  bringRecipes: (recipes: RecipesBrought['recipes']) => order('bringRecipes', { body: { recipes } }, 'Materials'),
  removeRecipe: (id: string) => order('removeRecipe', of(id), 'Materials'),
  saveMaterial: (material: Material, base: number | null) =>
    order('saveMaterial', { ...of(material.id), body: { material, base } }, 'Materials'),
  removeMaterial: (id: string) => order('removeMaterial', of(id), 'Materials'),
  bringBefore: (material: string, number: number) => order('bringBefore', { ...of(material), body: { number } }, 'Materials'),
  addCurve: (material: string, curve: MeasuredCurve, layer = 0) =>
    order('addCurve', { ...of(material), body: { curve, layer } }, 'Materials'),
}

export const libraryOrders = {
  keep: (made: NewArtwork) => order('keepArtwork', { body: made }, 'Library'),
  /** Shown at once: what is typed next is added to it. */
  change: (id: string, said: Partial<ArtworkSaid>) => {
    store.dispatch(
      shop.util.updateQueryData('library', null, (kept) => {
        const found = kept.find((each) => each.id === id)
        if (found) Object.assign(found, said)
      }),
    )
    return order('changeArtwork', { ...of(id), body: said }, 'Library')
  },
  remove: (id: string) => order('removeArtwork', of(id), 'Library'),
  restore: (id: string) => order('restoreArtwork', of(id), 'Library'),
}

export const stockOrders = {
  keep: (said: StockSaid) => order('keepStock', { body: said }, 'Stock'),
  /** Shown at once: what is typed next is added to it. @param said no grain: `null` */
  change: (id: string, said: Partial<Omit<StockSaid, 'grainDeg'>> & { readonly grainDeg?: number | null }) => {
    const { grainDeg, ...rest } = said
    store.dispatch(
      shop.util.updateQueryData('stock', null, (kept) => {
        const found = kept.find((each) => each.id === id)
        if (found) Object.assign(found, rest, grainDeg !== undefined && { grainDeg: grainDeg ?? undefined })
      }),
    )
    return order('changeStock', { ...of(id), body: said }, 'Stock')
  },
  remove: (id: string) => order('removeStock', of(id), 'Stock'),
  restore: (id: string) => order('restoreStock', of(id), 'Stock'),
  byCode: (code: string) => ask('stockByCode', { params: { code } }),
  use: (run: string) => order('useStock', { body: { run } }, 'Stock'),
  takeBack: (use: string) => order('takeBackUse', of(use), 'Stock'),
  saveRates: (rates: Rates) => order('saveRates', { body: { rates } }, 'Rates'),
}

export const artworkPicture = (id: string): string => `/api/library/${id}/picture`

export const machineOrders = {
  save: (machine: Machine, base: number | null) =>
    order('saveMachine', { ...of(machine.id), body: { machine, base } }, 'Machines'),
  remove: (id: string) => order('removeMachine', of(id), 'Machines'),
  connect: (id: string) => ask('connect', of(id)),
  disconnect: (id: string) => ask('disconnect', of(id)),
  settings: (id: string) => ask('machineSettings', of(id)),
  check: (id: string) => ask('check', of(id)),
  home: (id: string) => ask('home', of(id)),
  giveField: (id: string, table: FieldGiven['table']) => ask('giveField', { ...of(id), body: { table } }),
  getReady: (id: string, wish: GetReady) => ask('getReady', { ...of(id), body: wish }),
  jog: (id: string, by: Jog) => ask('jog', { ...of(id), body: by }),
  jogEnd: (id: string) => ask('jogEnd', of(id)),
  go: (id: string, to: GoTo) => ask('goTo', { ...of(id), body: to }),
  probe: (id: string, jobId: string) => ask('probe', { ...of(id), body: { jobId } }),
  frame: (id: string, wish: FrameWish) => ask('frame', { ...of(id), body: wish }),
  pulse: (id: string, power: number, count: number) => ask('pulse', { ...of(id), body: { power, count } }),
  stop: (id: string) => ask('stopMachine', of(id)),
  start: (id: string, run: RunStart) => order('startRun', { ...of(id), body: run }, 'Runs'),
  panel: (id: string, wish: PanelWish) => ask('panel', { ...of(id), body: wish }),
}

export const runOrders = {
  change: (id: string, change: RunChangeTold) =>
    order('changeRun', { ...of(id), body: change }, 'Runs', ...(change.looks ? (['Materials'] as const) : [])),
  carried: (body: RunCarried) => order('carriedRun', { body }, 'Runs'),
  hold: (id: string) => ask('holdRun', of(id)),
  resume: (id: string, answers: readonly string[] = []) => ask('resumeRun', { ...of(id), body: { answers } }),
  stop: (id: string) => ask('stopRun', of(id)),
  adjust: (id: string, shares: Shares) => ask('adjustRun', { ...of(id), body: shares }),
}

export const sessionOrders = {
  who: () => ask('session'),
  signIn: (name: string, pin: string) => ask('signIn', { body: { name, pin } }),
  first: (key: string, name: string, pin: string) => ask('firstSignIn', { body: { key, name, pin } }),
  signOut: () => ask('signOut'),
}

export const peopleOrders = {
  add: (person: NewPerson) => order('addPerson', { body: person }, 'People'),
  change: (id: string, change: PersonChange) => order('changePerson', { ...of(id), body: change }, 'People'),
  remove: (id: string) => order('removePerson', of(id), 'People'),
  certify: (id: string, machine: string, until: string | null) =>
    order('certify', { params: { id, machine }, body: { until } }, 'People'),
  uncertify: (id: string, machine: string) => order('uncertify', { params: { id, machine } }, 'People'),
}

export const cameraOrders = {
  told: (machine: string) => ask('camera', of(machine)),
  save: (machine: string, body: CameraSaved) => order('saveCamera', { ...of(machine), body }, 'Cameras'),
  takeEmpty: (machine: string) => order('takeEmpty', { ...of(machine), body: {} }, 'Cameras'),
  under: (machine: string, body: UnderCamera) => ask('underCamera', { ...of(machine), body }),
}
