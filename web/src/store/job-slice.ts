import { advance, applyPatches, difference, type Edit, editFrom, type History, type JobDocument } from '@neotaxis/core'
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit'
import type { SavedEdit } from '../api/api.ts'

/** How the job stands with the server. */
export type SaveState = 'saved' | 'saving' | 'away' | 'refused'

interface JobState {
  readonly id: string | null
  /** What is on screen: the base and a change in progress. */
  readonly document: JobDocument | null
  /** After the last finished edit. */
  readonly base: JobDocument | null
  readonly history: History
  /** The revision that the server has acknowledged. */
  readonly revision: number
  /** Edits that the server has not acknowledged yet, oldest first. */
  readonly pending: readonly Edit[]
  readonly save: SaveState
  readonly savedAt: number | null
  readonly refusal: string | null
}

const initialState: JobState = {
  id: null,
  document: null,
  base: null,
  history: { done: [], undone: [] },
  revision: 0,
  pending: [],
  save: 'saved',
  savedAt: null,
  refusal: null,
}

const newId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 24)

/** @param shown the outcome, where it is on screen already: the same thing is not worked out twice */
function push(state: JobState, edit: Edit, shown?: JobDocument): JobState {
  const base = shown ?? applyPatches(state.base!, edit.patches)
  return { ...state, base, document: base, history: advance(state.history, edit), pending: [...state.pending, edit] }
}

/** The state without drafting: documents are compared and shared by identity. */
const plain = (state: JobState): JobState => original(state as never) as JobState

const slice = createSlice({
  name: 'job',
  initialState: initialState as JobState,
  reducers: {
    /** A job from the server, with edits that an earlier page could not send any more. */
    opened: (
      _state,
      {
        payload,
      }: PayloadAction<{ id: string; revision: number; document: JobDocument; edits: readonly Edit[]; unsent: readonly Edit[] }>,
    ) => {
      const { id, revision, document, edits, unsent } = payload
      const base = applyPatches(
        document,
        unsent.flatMap(({ patches }) => patches),
      )
      const history = [...edits, ...unsent].reduce(advance, { done: [], undone: [] } as History)
      return {
        ...initialState,
        id,
        revision,
        base,
        document: base,
        history,
        pending: unsent,
        save: unsent.length > 0 ? 'saving' : 'saved',
      } as JobState
    },
    closed: () => initialState,
    /** A change in progress: seen at once, not yet an edit. */
    changing: (state, { payload }: PayloadAction<JobDocument>) => ({ ...plain(state), document: payload }),
    /** Ends a change: it becomes one named edit. */
    edited: {
      prepare: (name: string, document?: JobDocument) => ({ payload: { name, document, id: newId() } }),
      reducer: (state, { payload }: PayloadAction<{ name: string; document?: JobDocument; id: string }>) => {
        const before = plain(state)
        const after = payload.document ?? before.document
        if (!before.base || !after || difference(before.base, after).length === 0) return { ...before, document: before.base }
        return push(before, editFrom(before.base, after, payload.name, payload.id), after)
      },
    },
    /** Drops a change in progress. */
    abandoned: (state) => ({ ...plain(state), document: plain(state).base }),
    undone: {
      prepare: () => ({ payload: newId() }),
      reducer: (state, { payload }: PayloadAction<string>) => {
        const before = plain(state)
        const last = before.history.done.at(-1)
        if (!last || !before.base) return before
        return push(before, { id: payload, name: last.name, kind: 'undo', patches: last.inverse, inverse: last.patches })
      },
    },
    redone: {
      prepare: () => ({ payload: newId() }),
      reducer: (state, { payload }: PayloadAction<string>) => {
        const before = plain(state)
        const last = before.history.undone.at(-1)
        if (!last || !before.base) return before
        return push(before, { id: payload, name: last.name, kind: 'redo', patches: last.patches, inverse: last.inverse })
      },
    },
    saving: (state) => ({ ...plain(state), save: 'saving' as const }),
    /** The server has these edits; `missed` are what others did meanwhile. */
    acknowledged: (
      state,
      {
        payload,
      }: PayloadAction<{ jobId: string; ids: readonly string[]; revision: number; missed: readonly SavedEdit[]; at: number }>,
    ) => {
      const before = plain(state)
      if (before.id !== payload.jobId || !before.base) return before
      const known = new Set(payload.ids)
      const pending = before.pending.filter(({ id }) => !known.has(id))
      const theirs = payload.missed.flatMap(({ patches }) => patches)
      const busy = before.document !== before.base
      const base = applyPatches(before.base, theirs)
      const document = busy ? applyPatches(before.document!, theirs) : base
      return {
        ...before,
        base,
        document,
        pending,
        revision: payload.revision,
        save: pending.length > 0 ? 'saving' : 'saved',
        savedAt: payload.at,
        refusal: null,
      } as JobState
    },
    serverAway: (state) => ({ ...plain(state), save: 'away' as const }),
    saveRefused: (state, { payload }: PayloadAction<string>) => ({ ...plain(state), save: 'refused' as const, refusal: payload }),
  },
})

export const { opened, closed, changing, edited, abandoned, undone, redone, saving, acknowledged, serverAway, saveRefused } =
  slice.actions
export const jobReducer = slice.reducer
