import { api } from '../api/api.ts'
import { ServerAway, ServerRefusal } from '../api/call.ts'
import { acknowledged, opened, saveRefused, saving, serverAway } from './job-slice.ts'
import { store } from './store.ts'
import { adoptUnsent, dropAdopted, keepUnsent } from './unsent.ts'

const RETRY_MS = [500, 1000, 2000, 4000]
const LOOK_MS = 4000

/** Told when the server kept this page's version as a job of its own. */
export type BranchListener = (branch: { id: string; name: string }) => void

/** Opens a job, with whatever earlier pages could not send. */
export async function openJob(id: string, onBranch: BranchListener): Promise<void> {
  for (const { base, edits } of await adoptUnsent(id)) {
    const answer = await api.saveEdits(id, base, edits)
    if (answer.status === 'branched') onBranch({ id: answer.branch, name: answer.branchName })
  }
  await dropAdopted(id)
  const { revision, document, edits } = await api.job(id)
  store.dispatch(opened({ id, revision, document, edits, unsent: [] }))
}

/** Sends edits as they are made and takes in those of others, as long as the job is open. @returns the way to end it */
export function keepSaved(onBranch: BranchListener): () => void {
  let busy = false
  let failures = 0
  let retry: ReturnType<typeof setTimeout> | undefined
  let ended = false
  let kept: unknown

  const send = async (): Promise<void> => {
    const { id, pending, revision, save } = store.getState().job
    if (busy || ended || !id || pending.length === 0 || save === 'refused') return
    busy = true
    store.dispatch(saving())
    try {
      const answer = await api.saveEdits(id, revision, pending)
      failures = 0
      if (answer.status === 'branched') {
        keepUnsent(id, revision, [])
        onBranch({ id: answer.branch, name: answer.branchName })
        return
      }
      store.dispatch(
        acknowledged({
          jobId: id,
          ids: pending.map((edit) => edit.id),
          revision: answer.revision,
          missed: answer.missed,
          at: Date.now(),
        }),
      )
    } catch (cause) {
      if (cause instanceof ServerRefusal && cause.status < 500) store.dispatch(saveRefused(cause.message))
      else {
        store.dispatch(serverAway())
        clearTimeout(retry)
        retry = setTimeout(() => void send(), RETRY_MS[Math.min(failures++, RETRY_MS.length - 1)])
      }
    } finally {
      busy = false
    }
    const { pending: left, save: now } = store.getState().job
    if (left.length > 0 && now === 'saving') void send()
  }

  const look = async (): Promise<void> => {
    const { id, pending, revision, save } = store.getState().job
    if (busy || ended || !id || pending.length > 0 || document.visibilityState !== 'visible') return
    try {
      const { revision: newest, edits } = await api.editsSince(id, revision)
      const now = store.getState().job
      if (now.id === id && now.revision === revision && now.pending.length === 0 && (edits.length > 0 || save === 'away')) {
        store.dispatch(acknowledged({ jobId: id, ids: [], revision: newest, missed: edits, at: Date.now() }))
      }
    } catch (cause) {
      if (cause instanceof ServerAway && store.getState().job.save === 'saved') store.dispatch(serverAway())
    }
  }

  const unsubscribe = store.subscribe(() => {
    const { id, pending, revision } = store.getState().job
    if (!id || pending === kept) return
    kept = pending
    keepUnsent(id, revision, pending)
    void send()
  })
  const timer = setInterval(() => void look(), LOOK_MS)
  const online = (): void => void send()
  window.addEventListener('online', online)
  return () => {
    ended = true
    clearTimeout(retry)
    clearInterval(timer)
    window.removeEventListener('online', online)
    unsubscribe()
  }
}
