// Where everything is. Without schemas: the page begins with this alone.

/** Where the head stood at a photo of its camera, in the head of the answer: `X Y Z`, mm of the machine. */
export const HEAD_STOOD = 'X-Head'

/** How something is asked for. Bodies are JSON; `bytes`: a file as it is. */
export interface Path {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE' | 'HEAD'
  /** Below `/api`, as Express writes it. */
  readonly path: string
  /** What the answer holds at least: lists and things by these names. Another shape is not taken. */
  readonly holds?: Readonly<Record<string, 'list' | 'thing' | 'text' | 'number' | 'anything'>>
  readonly bytes?: true
}

const paths = <K extends string>(all: Record<K, Path>): Record<K, Path> => all

export const PATHS = paths({
  health: { method: 'GET', path: '/health' },
  openapi: { method: 'GET', path: '/openapi.json' },
  live: { method: 'GET', path: '/live', holds: { machines: 'list' } },

  jobs: { method: 'GET', path: '/jobs', holds: { jobs: 'list' } },
  createJob: { method: 'POST', path: '/jobs', holds: { id: 'text', name: 'text' } },
  openFile: { method: 'POST', path: '/jobs/file', holds: { id: 'text', name: 'text' }, bytes: true },
  openProgram: { method: 'POST', path: '/jobs/program', holds: { id: 'text', name: 'text' }, bytes: true },
  job: { method: 'GET', path: '/jobs/:id', holds: { id: 'text', revision: 'number', document: 'thing', edits: 'list' } },
  editsSince: { method: 'GET', path: '/jobs/:id/edits', holds: { revision: 'number', edits: 'list' } },
  saveEdits: { method: 'POST', path: '/jobs/:id/edits', holds: { status: 'text' } },
  copyJob: { method: 'POST', path: '/jobs/:id/copy', holds: { id: 'text', name: 'text' } },
  deleteJob: { method: 'DELETE', path: '/jobs/:id' },
  restoreJob: { method: 'POST', path: '/jobs/:id/restore' },
  jobFile: { method: 'GET', path: '/jobs/:id/file' },
  card: { method: 'GET', path: '/jobs/:id/card', holds: { content: 'text', seconds: 'number' } },
  cardPicture: { method: 'GET', path: '/jobs/:id/card.png' },

  bringIn: { method: 'POST', path: '/assets', holds: { asset: 'text', widthPx: 'number', heightPx: 'number' }, bytes: true },
  asset: { method: 'GET', path: '/assets/:sha256' },
  assetToRead: { method: 'GET', path: '/assets/:sha256/plain' },
  fonts: { method: 'GET', path: '/fonts', holds: { fonts: 'list' } },
  materials: { method: 'GET', path: '/materials', holds: { materials: 'list' } },
  saveMaterial: { method: 'PUT', path: '/materials/:id', holds: { material: 'thing' } },
  removeMaterial: { method: 'DELETE', path: '/materials/:id' },
  addCurve: { method: 'POST', path: '/materials/:id/curves', holds: { material: 'thing' } },
  materialHistory: { method: 'GET', path: '/materials/:id/history', holds: { changes: 'list' } },
  bringBefore: { method: 'POST', path: '/materials/:id/before', holds: { material: 'thing' } },
  bringRecipes: { method: 'POST', path: '/recipes' },
  removeRecipe: { method: 'DELETE', path: '/recipes/:id' },
  saveRecipe: { method: 'PUT', path: '/recipes/:id', holds: { recipe: 'thing' } },
  catalogue: { method: 'GET', path: '/catalogue' },
  importRules: { method: 'GET', path: '/import-rules', holds: { rules: 'list' } },
  saveImportRules: { method: 'PUT', path: '/import-rules', holds: { rules: 'list' } },

  library: { method: 'GET', path: '/library', holds: { artwork: 'list' } },
  keepArtwork: { method: 'POST', path: '/library', holds: { id: 'text', asset: 'text' } },
  changeArtwork: { method: 'PATCH', path: '/library/:id', holds: { id: 'text', asset: 'text' } },
  removeArtwork: { method: 'DELETE', path: '/library/:id' },
  restoreArtwork: { method: 'POST', path: '/library/:id/restore' },
  artworkPicture: { method: 'GET', path: '/library/:id/picture' },
  artworkJobs: { method: 'GET', path: '/library/:id/jobs', holds: { jobs: 'list' } },

  stock: { method: 'GET', path: '/stock', holds: { stock: 'list' } },
  keepStock: { method: 'POST', path: '/stock', holds: { id: 'text', code: 'text' } },
  changeStock: { method: 'PATCH', path: '/stock/:id', holds: { id: 'text', code: 'text' } },
  removeStock: { method: 'DELETE', path: '/stock/:id' },
  restoreStock: { method: 'POST', path: '/stock/:id/restore' },
  stockByCode: { method: 'GET', path: '/stock/code/:code', holds: { id: 'text', code: 'text' } },
  stockUses: { method: 'GET', path: '/stock/uses', holds: { uses: 'list' } },
  stockMonths: { method: 'GET', path: '/stock/months', holds: { months: 'list' } },
  useStock: { method: 'POST', path: '/stock/uses', holds: { uses: 'list' } },
  takeBackUse: { method: 'POST', path: '/stock/uses/:id/back' },
  rates: { method: 'GET', path: '/rates', holds: { rates: 'thing' } },
  saveRates: { method: 'PUT', path: '/rates', holds: { rates: 'thing' } },

  machines: { method: 'GET', path: '/machines', holds: { machines: 'list' } },
  saveMachine: { method: 'PUT', path: '/machines/:id', holds: { machine: 'thing' } },
  removeMachine: { method: 'DELETE', path: '/machines/:id' },
  connect: { method: 'POST', path: '/machines/:id/connect' },
  disconnect: { method: 'POST', path: '/machines/:id/disconnect' },
  machineSettings: { method: 'GET', path: '/machines/:id/settings', holds: { settings: 'thing', differences: 'list' } },
  machineTimes: { method: 'GET', path: '/machines/:id/times', holds: { learned: 'anything' } },
  check: { method: 'POST', path: '/machines/:id/check' },
  home: { method: 'POST', path: '/machines/:id/home' },
  getReady: { method: 'POST', path: '/machines/:id/ready' },
  giveField: { method: 'PUT', path: '/machines/:id/field' },
  jog: { method: 'POST', path: '/machines/:id/jog' },
  jogEnd: { method: 'POST', path: '/machines/:id/jog-end' },
  probe: { method: 'POST', path: '/machines/:id/probe', holds: { thicknessMm: 'number' } },
  goTo: { method: 'POST', path: '/machines/:id/go' },
  frame: { method: 'POST', path: '/machines/:id/frame' },
  pulse: { method: 'POST', path: '/machines/:id/pulse' },
  startRun: { method: 'POST', path: '/machines/:id/runs', holds: { id: 'text' } },
  stopMachine: { method: 'POST', path: '/machines/:id/stop' },
  panel: { method: 'POST', path: '/machines/:id/panel', holds: {} },

  camera: { method: 'GET', path: '/machines/:id/camera', holds: { camera: 'anything' } },
  saveCamera: { method: 'PUT', path: '/machines/:id/camera', holds: { camera: 'anything' } },
  takePhoto: { method: 'POST', path: '/machines/:id/camera/photo' },
  takeEmpty: { method: 'POST', path: '/machines/:id/camera/empty', holds: { camera: 'anything' } },
  underCamera: { method: 'POST', path: '/machines/:id/camera/under' },
  runPhoto: { method: 'GET', path: '/runs/:id/photo.jpg' },

  runs: { method: 'GET', path: '/runs', holds: { runs: 'list' } },
  run: { method: 'GET', path: '/runs/:id', holds: { id: 'text', document: 'thing', operations: 'list', events: 'list' } },
  burnPicture: { method: 'GET', path: '/runs/:id/burn.png' },
  changeRun: { method: 'PATCH', path: '/runs/:id' },
  carriedRun: { method: 'POST', path: '/runs/carried', holds: { id: 'text' } },
  holdRun: { method: 'POST', path: '/runs/:id/hold' },
  resumeRun: { method: 'POST', path: '/runs/:id/resume' },
  stopRun: { method: 'POST', path: '/runs/:id/stop' },
  adjustRun: { method: 'POST', path: '/runs/:id/adjust' },

  session: { method: 'GET', path: '/session', holds: { signsIn: 'anything', names: 'list' } },
  signIn: { method: 'POST', path: '/session' },
  firstSignIn: { method: 'POST', path: '/session/first' },
  signOut: { method: 'DELETE', path: '/session' },
  people: { method: 'GET', path: '/people', holds: { people: 'list' } },
  addPerson: { method: 'POST', path: '/people', holds: { id: 'text' } },
  changePerson: { method: 'PATCH', path: '/people/:id' },
  removePerson: { method: 'DELETE', path: '/people/:id' },
  certify: { method: 'PUT', path: '/people/:id/certificates/:machine' },
  uncertify: { method: 'DELETE', path: '/people/:id/certificates/:machine' },
})

export type PathName = keyof typeof PATHS

/** An address with its places filled in, below `/api`. @throws where one is missing */
export function addressOf(
  name: PathName,
  params: Readonly<Record<string, string>> = {},
  query: Readonly<Record<string, string | number | undefined>> = {},
): string {
  const path = PATHS[name].path.replace(/:(\w+)/g, (_, key: string) => {
    if (params[key] === undefined) throw new Error(`${name} needs ${key}.`)
    return encodeURIComponent(params[key])
  })
  const asked = Object.entries(query).flatMap(([key, value]) =>
    value === undefined ? [] : [[key, String(value)] as [string, string]],
  )
  return asked.length === 0 ? path : `${path}?${new URLSearchParams(asked)}`
}

/** What is wrong with an answer's shape; undefined where it holds what it should. */
export function misshapen(name: PathName, answer: unknown): string | undefined {
  const { holds } = PATHS[name]
  if (!holds) return undefined
  if (typeof answer !== 'object' || answer === null) return 'it is nothing that could be read'
  for (const [key, kind] of Object.entries(holds)) {
    const value = (answer as Record<string, unknown>)[key]
    const fits =
      kind === 'anything'
        ? value !== undefined
        : kind === 'list'
          ? Array.isArray(value)
          : kind === 'thing'
            ? typeof value === 'object' && value !== null && !Array.isArray(value)
            : typeof value === (kind === 'text' ? 'string' : 'number')
    if (!fits) return `“${key}” is missing or of another kind`
  }
  return undefined
}
