import {
  advance,
  applyBothWays,
  applyPatches,
  type Edit,
  type History,
  type JobDocument,
  type KeptEdit,
  type MadeEdit,
  NO_HISTORY,
  PatchError,
  PathTree,
} from '@neotaxis/core'

/** How the job stands with the server. */
export type SaveState = 'saved' | 'saving' | 'away' | 'refused'

/** What the server says of edits after a revision: all that stand there now, this page's and others'. */
export interface ServerNews {
  readonly jobId: string
  readonly base: number
  readonly revision: number
  readonly edits: readonly KeptEdit[]
  readonly at: number
}

/**
 * A job on this page. Always: `base` is `kept` with `pending` on top, and `document` is `base` with a change in progress. `kept` is what
 * the server has at `revision`; nothing that it said counts before it is worked in here.
 */
export interface JobState {
  readonly id: string | null
  readonly revision: number
  readonly kept: JobDocument | null
  readonly keptHistory: History
  /** Edits that the server has not acknowledged yet, made on `kept`, oldest first. */
  readonly pending: readonly MadeEdit[]
  /** After the last finished edit. */
  readonly base: JobDocument | null
  readonly history: History
  /** What is on screen. */
  readonly document: JobDocument | null
  /** News that came while a change was in progress: worked in when it ends. */
  readonly news: readonly ServerNews[]
  /** Others changed what pending edits change: the server makes a branch of this page's version. */
  readonly forks: boolean
  /** This version went on as another job: nothing more is made here. */
  readonly left: boolean
  readonly save: SaveState
  readonly savedAt: number | null
  /** Why it cannot be saved: a sentence. */
  readonly refusal: string | null
  /** What was not done of what somebody wanted, and why: a sentence. */
  readonly notDone: string | null
  /** The browser cannot keep unsent edits: they are in this page only. */
  readonly unsafe: boolean
}

export const NO_JOB: JobState = {
  id: null,
  revision: 0,
  kept: null,
  keptHistory: NO_HISTORY,
  pending: [],
  base: null,
  history: NO_HISTORY,
  document: null,
  news: [],
  forks: false,
  left: false,
  save: 'saved',
  savedAt: null,
  refusal: null,
  notDone: null,
  unsafe: false,
}

/** Edits made anew on a document. @throws PatchError where a place is gone */
function remade(
  document: JobDocument,
  edits: readonly Edit[],
): { readonly base: JobDocument; readonly pending: readonly MadeEdit[] } {
  let base = document
  const pending = edits.map((edit): MadeEdit => {
    const step = applyBothWays(base, edit.patches)
    base = step.document
    return { ...edit, inverse: step.inverse }
  })
  return { base, pending }
}

/** A job from the server, with edits that are not there yet. */
export function openedState(opened: {
  readonly id: string
  readonly revision: number
  readonly document: JobDocument
  readonly edits: readonly KeptEdit[]
  readonly unsent: readonly Edit[]
}): JobState {
  const { id, revision, document, edits, unsent } = opened
  const { base, pending } = remade(document, unsent)
  const keptHistory = edits.reduce(advance, NO_HISTORY)
  return {
    ...NO_JOB,
    id,
    revision,
    kept: document,
    keptHistory,
    pending,
    base,
    document: base,
    history: pending.reduce(advance, keptHistory),
    save: pending.length > 0 ? 'saving' : 'saved',
  }
}

/** One more finished edit. @param shown the outcome, where it is on screen already: the same thing is not worked out twice */
export function withEdit(state: JobState, edit: Edit, shown?: JobDocument): JobState {
  if (!state.base || state.left) return state
  const step = applyBothWays(state.base, edit.patches)
  const made: MadeEdit = { ...edit, inverse: step.inverse }
  const base = shown ?? step.document
  return settled({
    ...state,
    base,
    document: base,
    pending: [...state.pending, made],
    history: advance(state.history, made),
    refusal: null,
    notDone: null,
    // What was refused as a whole is tried again with what is new.
    save: state.save === 'refused' ? 'saving' : state.save,
  })
}

/** The newest edit taken back, or made again; it is named, so that no other is. */
export function takenBack(state: JobState, kind: 'undo' | 'redo', id: string): JobState {
  const last = kind === 'undo' ? state.history.done.at(-1) : state.history.undone.at(-1)
  return last ? withEdit(state, { id, name: last.name, kind, of: last.id, patches: last.inverse }) : state
}

/** A change in progress is over: what came meanwhile is worked in. */
export function settled(state: JobState): JobState {
  let next: JobState = { ...state, news: [] }
  for (const news of state.news) next = withNews(next, news)
  return next
}

/**
 * Works in what the server says. Edits of others go under those that are pending, as on the server; where both change the same, this
 * page's version is sent again on what it was made on, and the server makes a branch of it.
 */
export function withNews(state: JobState, news: ServerNews): JobState {
  if (state.id !== news.jobId || !state.kept || !state.base || state.left) return state
  // An answer that is older than what is known already.
  if (state.revision !== news.base) return state
  if (state.document !== state.base) return { ...state, news: [...state.news, news] }
  const own = new Map(state.pending.map((edit) => [edit.id, edit]))
  const told = new Set(news.edits.map(({ id }) => id))
  const theirs = news.edits.filter(({ id }) => !own.has(id))
  const rest = state.pending.filter(({ id }) => !told.has(id))
  const tree = new PathTree(theirs.flatMap(({ patches }) => patches))
  const forks: JobState = { ...state, forks: true, save: 'saving', savedAt: news.at }
  if (rest.some(({ kind, patches }) => kind === 'edit' && tree.touches(patches))) return forks
  const asShown = theirs.length === 0 && news.edits.every((row) => isSame(row, own.get(row.id)))
  try {
    const kept =
      asShown && rest.length === 0
        ? state.base
        : applyPatches(
            state.kept,
            news.edits.flatMap(({ patches }) => patches),
          )
    const { base, pending } = asShown ? { base: state.base, pending: rest } : remade(kept, rest)
    const keptHistory = news.edits.reduce(advance, state.keptHistory)
    return {
      ...state,
      revision: news.revision,
      kept,
      keptHistory,
      pending,
      base,
      document: base,
      history: pending.reduce(advance, keptHistory),
      forks: false,
      save: pending.length > 0 ? 'saving' : 'saved',
      savedAt: news.at,
    }
  } catch (cause) {
    if (!(cause instanceof PatchError)) throw cause
    return forks
  }
}

/** An undo is worked out by the server; what it did may be other than what was shown. */
const isSame = (row: KeptEdit, shown: MadeEdit | undefined): boolean =>
  shown !== undefined && (row.kind === 'edit' || JSON.stringify(row.patches) === JSON.stringify(shown.patches))

/** The server does not take one of the edits: it is taken out, with whatever takes it back, and the reason is told. */
export function withoutEdit(state: JobState, edit: string, message: string): JobState {
  if (!state.kept) return state
  const gone = new Set([edit])
  for (const { id, of } of state.pending) if (of !== undefined && gone.has(of)) gone.add(id)
  let rest: readonly Edit[] = state.pending.filter(({ id }) => !gone.has(id))
  let notDone = message
  for (;;) {
    try {
      const { base, pending } = remade(state.kept, rest)
      return settled({
        ...state,
        base,
        document: base,
        pending,
        history: pending.reduce(advance, state.keptHistory),
        save: pending.length > 0 ? 'saving' : 'saved',
        notDone,
      })
    } catch (cause) {
      if (!(cause instanceof PatchError)) throw cause
      // What was built on it falls with it.
      notDone += ` “${rest.at(-1)?.name}” falls with it.`
      rest = rest.slice(0, -1)
    }
  }
}
