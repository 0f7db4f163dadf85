import type { OpenedJob, SaveAnswer } from '@neotaxis/contract'
import type { Edit, KeptEdit } from '@neotaxis/core'
import { ServerAway, ServerRefusal } from '../api/call.ts'
import {
  acknowledged,
  branchedOff,
  editRefused,
  type jobReducer,
  keptHere,
  opened,
  saveRefused,
  saving,
  serverAway,
} from './job-slice.ts'
import type { JobState } from './job-state.ts'
import type { Drawers } from './unsent.ts'

const RETRY_MS = [500, 1000, 2000, 4000]
const LOOK_MS = 4000

/** Told when the server kept this page's version as a job of its own. */
export type BranchListener = (branch: { id: string; name: string }) => void

/** Who opens a job. */
export interface Opening {
  readonly onBranch: BranchListener
  /** Told what was not taken of what an earlier page left: a sentence. */
  readonly onRefused: (message: string) => void
  /** Whether it is still waited for. */
  readonly isWanted: () => boolean
}

/** The server, as far as edits go. */
export interface EditServer {
  job(id: string): Promise<OpenedJob>
  saveEdits(id: string, base: number, edits: readonly Edit[]): Promise<SaveAnswer>
  editsSince(id: string, revision: number): Promise<{ revision: number; edits: readonly KeptEdit[] }>
}

/** All that saving needs from outside: it is the same in a page and in a test with a clock of its own. */
export interface SaverSetting {
  readonly server: EditServer
  readonly drawers: Drawers
  read(): JobState
  dispatch(action: Parameters<typeof jobReducer>[1]): void
  /** Calls once after so long. @returns the way to call it off */
  after(ms: number, call: () => void): () => void
  now(): number
  /** Whether somebody looks at the page: others' edits are asked for only then. */
  isSeen(): boolean
}

/** Only what the server takes: the way back is its own. */
const bare = ({ id, name, kind, of, patches }: Edit): Edit => ({ id, name, kind, ...(of !== undefined && { of }), patches })

/** Whether trying again later may help. */
const isLater = (cause: unknown): boolean =>
  !(cause instanceof ServerRefusal) || cause.status >= 500 || cause.status === 401 || cause.status === 429

/**
 * Opens a job, with whatever earlier pages could not send. What the server does not take any more is put aside, and told: the job opens
 * all the same.
 */
export async function openJob(
  id: string,
  { server, drawers, dispatch }: SaverSetting,
  { onBranch, onRefused, isWanted }: Opening,
): Promise<void> {
  for (const drawer of await drawers.left(id)) {
    try {
      let edits = drawer.edits.map(bare)
      while (edits.length > 0) {
        const answer = await server.saveEdits(id, drawer.base, edits)
        if (answer.status === 'branched') onBranch({ id: answer.branch, name: answer.branchName })
        if (answer.status !== 'refused') break
        onRefused(answer.message)
        edits = edits.filter((edit) => edit.id !== answer.edit)
      }
    } catch (cause) {
      if (isLater(cause)) throw cause
      drawers.putAside(drawer.key)
      onRefused(`Changes from an earlier visit could not be sent, and are kept in this browser: ${(cause as Error).message}`)
      continue
    }
    drawers.drop(drawer.key)
  }
  const { revision, document, edits } = await server.job(id)
  // Another job may have been opened meanwhile: a late answer does not take its place.
  if (isWanted()) dispatch(opened({ id, revision, document, edits, unsent: [] }))
}

/**
 * Sends edits as they are made and takes in those of others. One request at a time: its edits and the revision they were made on stay
 * the same until its answer is there, however often it must be sent.
 */
export class Saver {
  private readonly setting: SaverSetting
  private readonly onBranch: BranchListener
  private state: 'resting' | 'asking' | 'waiting' = 'resting'
  private failures = 0
  private callOff: () => void = () => {}
  private stopLooking: () => void = () => {}
  private ended = false
  private drawn: unknown

  constructor(setting: SaverSetting, onBranch: BranchListener) {
    this.setting = setting
    this.onBranch = onBranch
    this.lookLater()
  }

  /** Something in the store is new. */
  changed(): void {
    if (this.ended) return
    const { id, pending, revision, save } = this.setting.read()
    if (!id) return
    if (this.state === 'waiting' && save === 'saving') this.state = 'resting'
    if (pending !== this.drawn) {
      this.drawn = pending
      this.setting.dispatch(keptHere(this.setting.drawers.keep(id, revision, pending.map(bare))))
    }
    if (pending.length > 0 && this.state === 'resting') void this.send()
  }

  /** The connection is back, or somebody signed in: what waits is tried at once. */
  again(): void {
    if (this.state !== 'waiting') return
    this.callOff()
    this.state = 'resting'
    this.changed()
  }

  end(): void {
    this.ended = true
    this.callOff()
    this.stopLooking()
  }

  private async send(): Promise<void> {
    const { server, dispatch, read, now } = this.setting
    const { id, pending, revision, save, left } = read()
    if (this.ended || !id || left || pending.length === 0 || save === 'refused') return
    this.state = 'asking'
    dispatch(saving())
    try {
      const answer = await server.saveEdits(id, revision, pending.map(bare))
      this.failures = 0
      this.state = 'resting'
      if (this.ended || read().id !== id) return
      if (answer.status === 'refused') dispatch(editRefused({ edit: answer.edit, message: answer.message }))
      else if (answer.status === 'branched') this.goOnAt(id, pending, answer)
      else dispatch(acknowledged({ jobId: id, ...answer, at: now() }))
    } catch (cause) {
      this.failed(cause)
    }
    this.changed()
  }

  /** The branch goes on with what was made since it was sent. */
  private goOnAt(id: string, sent: readonly Edit[], branch: SaveAnswer & { status: 'branched' }): void {
    const { drawers, dispatch, read } = this.setting
    const known = new Set(sent.map((edit) => edit.id))
    const since = read().pending.filter((edit) => !known.has(edit.id))
    drawers.keep(branch.branch, branch.revision, since.map(bare))
    drawers.keep(id, branch.revision, [])
    dispatch(branchedOff())
    this.end()
    this.onBranch({ id: branch.branch, name: branch.branchName })
  }

  private failed(cause: unknown): void {
    const { dispatch, after } = this.setting
    this.state = 'waiting'
    if (this.ended) return
    if (!isLater(cause)) {
      dispatch(saveRefused((cause as Error).message))
      return
    }
    dispatch(serverAway(cause instanceof ServerRefusal || cause instanceof ServerAway ? cause.message : undefined))
    const wait = RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)]
    this.callOff = after(wait, () => this.again())
  }

  private lookLater(): void {
    this.stopLooking = this.setting.after(LOOK_MS, () => void this.look())
  }

  /** What others did, while nothing of this page is under way. */
  private async look(): Promise<void> {
    const { server, dispatch, read, now, isSeen } = this.setting
    const { id, pending, revision, save } = read()
    if (this.ended) return
    if (this.state === 'resting' && id && pending.length === 0 && isSeen()) {
      try {
        const { revision: newest, edits } = await server.editsSince(id, revision)
        if (!this.ended && (edits.length > 0 || save === 'away'))
          dispatch(acknowledged({ jobId: id, base: revision, revision: newest, edits, at: now() }))
      } catch (cause) {
        if (!this.ended && isLater(cause) && read().save === 'saved') dispatch(serverAway(undefined))
      }
    }
    if (!this.ended) this.lookLater()
  }
}
