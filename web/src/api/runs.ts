import type { JobDocument, Machine, OperationReport, Recipe, RunChange, RunScope, SettingDifference, Size } from '@neotaxis/core'
import { call, json, read, send } from './call.ts'

/** A place in a program: so many lines are driven, and the head is here in the next one. Machine mm. */
export interface Place {
  readonly driven: number
  readonly x: number
  readonly y: number
  readonly z: number
}

/** What a machine says of itself. */
export interface Report extends Place {
  readonly state: string
  readonly speedMmS: number
  readonly beam: number
  readonly speedShare: number
  readonly powerShare: number
  readonly lidOpen: boolean
  readonly air: boolean
}

/** A run while it goes on. */
export interface RunLive {
  readonly id: string
  readonly jobId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  /** At a planned pause: what is to be done. */
  readonly instruction: string | null
  readonly place: Place | null
  readonly lines: number
  readonly seconds: number
  readonly estimateSeconds: number
  readonly doneSeconds: number
  readonly operation: string | null
  readonly only: readonly string[] | null
  readonly startedAt: number
}

/** What happens at a machine, one thing at a time. */
export type DeskState =
  | 'off'
  | 'connecting'
  | 'lost'
  | 'idle'
  | 'homing'
  | 'jogging'
  | 'framing'
  | 'pulsing'
  | 'preparing'
  | 'starting'
  | 'running'
  | 'holding'
  | 'looking'
  | 'stopping'

/** How a machine stands now. */
export interface DeskLive {
  readonly machine: string
  readonly state: DeskState
  readonly trouble: string
  readonly address: string
  readonly simulated: boolean
  readonly checked: boolean
  readonly report: Report | null
  readonly silent: boolean
  /** It sends what cannot be read. */
  readonly noisy: boolean
  readonly holder: string | null
  readonly run: RunLive | null
  /** The address of the server that has it, where it is another one. */
  readonly server: string | null
}

export interface RunBrief {
  readonly id: string
  readonly jobId: string | null
  readonly jobRevision: number | null
  readonly parentId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  readonly machineId: string
  readonly machine: string
  readonly material: string
  readonly workpiece: Size & { readonly thicknessMm: number }
  readonly only: readonly string[] | null
  readonly lines: number
  readonly estimateSeconds: number
  readonly seconds: number
  readonly interruptions: number
  readonly rating: number | null
  readonly note: string
  readonly photo: string | null
  readonly startedAt: string
  readonly endedAt: string | null
}

/** What was seen on one operation after a run. */
export interface Look {
  readonly answer: 'yes' | 'partly' | 'no' | 'light' | 'dark'
  readonly depthMm?: number | null
  readonly tone?: number | null
  readonly warpMm?: number | null
  readonly note?: string
}

export interface RunFull extends RunBrief {
  readonly document: JobDocument
  readonly scope: RunScope
  readonly operations: readonly OperationReport[]
  readonly looks: Readonly<Record<string, Look>>
  readonly closing: readonly string[]
  readonly place: Place | null
  readonly events: readonly {
    readonly number: number
    readonly phase: string
    readonly text: string
    readonly line: number
    readonly seconds: number
    readonly at: string
  }[]
  /** Where and how fine what it burned was looked at, job mm; null where nobody looked. */
  readonly burn: { readonly cellMm: number; readonly x: number; readonly y: number } | null
}

export interface RunStart {
  readonly jobId: string
  readonly revision: number
  readonly only?: readonly string[]
  readonly changes?: Readonly<Record<string, RunChange>>
  readonly armed: boolean
  readonly answers: readonly string[]
  readonly parentId: string | null
}

export interface FrameWish {
  readonly jobId: string
  readonly shape: 'bounds' | 'hull' | 'outline'
  readonly speedMmS: number
  readonly power: number
  readonly loop: boolean
  readonly only?: readonly string[]
}

const at = (machine: string, what: string): string => `/machines/${machine}/${what}`

/** What is done with machines. */
export const machineApi = {
  all: () => read<{ machines: Machine[] }>(call('/machines')),
  save: (machine: Machine, base: number | null) =>
    read<{ machine: Machine }>(call(`/machines/${machine.id}`, { ...json({ machine, base }), method: 'PUT' })),
  remove: (id: string) => send(`/machines/${id}`, undefined, 'DELETE'),
  connect: (id: string) => send(at(id, 'connect')),
  disconnect: (id: string) => send(at(id, 'disconnect')),
  settings: (id: string) =>
    read<{ settings: Record<string, number>; differences: SettingDifference[] }>(call(at(id, 'settings'))),
  check: (id: string) => send(at(id, 'check')),
  home: (id: string) => send(at(id, 'home')),
  jog: (id: string, by: { dx: number; dy: number; dz: number; speedMmS: number }) => send(at(id, 'jog'), by),
  jogEnd: (id: string) => send(at(id, 'jog-end')),
  go: (id: string, to: { x?: number; y?: number; z?: number; speedMmS: number }) => send(at(id, 'go'), to),
  frame: (id: string, wish: FrameWish) => send(at(id, 'frame'), wish),
  pulse: (id: string, power: number, count: number) => send(at(id, 'pulse'), { power, count }),
  stop: (id: string) => send(at(id, 'stop')),
  start: (id: string, run: RunStart) => read<{ id: string }>(call(at(id, 'runs'), json(run))),
  panel: (id: string, request: object) =>
    read<{ lid: boolean; times: number; watts: number }>(call(at(id, 'panel'), json(request))),
}

/** The journal, and the run under way. */
export const runApi = {
  list: (query: Readonly<Record<string, string>>) => read<{ runs: RunBrief[] }>(call(`/runs?${new URLSearchParams(query)}`)),
  one: (id: string) => read<RunFull>(call(`/runs/${id}`)),
  change: (id: string, change: object) => send(`/runs/${id}`, change, 'PATCH'),
  carried: (jobId: string, revision: number, only?: readonly string[]) =>
    read<RunBrief>(call('/runs/carried', json({ jobId, revision, ...(only && { only }) }))),
  hold: (id: string) => send(`/runs/${id}/hold`),
  resume: (id: string) => send(`/runs/${id}/resume`),
  stop: (id: string) => send(`/runs/${id}/stop`),
  adjust: (id: string, shares: { speed: number; power: number }) => send(`/runs/${id}/adjust`, shares),
  saveRecipe: (recipe: Recipe) => send(`/recipes/${recipe.id}`, recipe, 'PUT'),
}
