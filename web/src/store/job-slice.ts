import { difference, type Edit, editFrom, type JobDocument, type KeptEdit, withFollowers } from '@neotaxis/core'
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit'
import {
  type JobState,
  NO_JOB,
  openedState,
  type ServerNews,
  settled,
  takenBack,
  withEdit,
  withNews,
  withoutEdit,
} from './job-state.ts'

const newId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 24)

/** The state without drafting: documents are compared and shared by identity. */
const plain = (state: JobState): JobState => original(state as never) as JobState

/** The open job; what happens to it is told in `job-state.ts`. */
const slice = createSlice({
  name: 'job',
  initialState: NO_JOB,
  reducers: {
    /** A job from the server, with edits that an earlier page could not send any more. */
    opened: (
      _state,
      {
        payload,
      }: PayloadAction<{
        id: string
        revision: number
        document: JobDocument
        edits: readonly KeptEdit[]
        unsent: readonly Edit[]
      }>,
    ) => openedState(payload),
    closed: () => NO_JOB,
    /** A change in progress: seen at once, not yet an edit. */
    changing: (state, { payload }: PayloadAction<JobDocument>) => {
      const before = plain(state)
      const next = { ...before, document: before.base && payload !== before.base ? withFollowers(before.base, payload) : payload }
      // Dragged back to where it was: nothing is in progress any more.
      return next.document === next.base ? settled(next) : next
    },
    /** Ends a change: it becomes one named edit. */
    edited: {
      prepare: (name: string, document?: JobDocument) => ({ payload: { name, document, id: newId() } }),
      reducer: (state, { payload }: PayloadAction<{ name: string; document?: JobDocument; id: string }>) => {
        const before = plain(state)
        const wanted = payload.document ?? before.document
        const after = wanted && before.base ? withFollowers(before.base, wanted) : wanted
        if (!before.base || !after || difference(before.base, after).length === 0)
          return settled({ ...before, document: before.base })
        return withEdit(before, editFrom(before.base, after, payload.name, payload.id), after)
      },
    },
    /** Drops a change in progress. */
    abandoned: (state) => settled({ ...plain(state), document: plain(state).base }),
    undone: {
      prepare: () => ({ payload: newId() }),
      reducer: (state, { payload }: PayloadAction<string>) => takenBack(plain(state), 'undo', payload),
    },
    redone: {
      prepare: () => ({ payload: newId() }),
      reducer: (state, { payload }: PayloadAction<string>) => takenBack(plain(state), 'redo', payload),
    },
    saving: (state) => ({ ...plain(state), save: 'saving' as const }),
    /** The server has edits that this page sent, or that others made. */
    acknowledged: (state, { payload }: PayloadAction<ServerNews>) => withNews(plain(state), payload),
    /** One edit is not taken: the others go on. */
    editRefused: (state, { payload }: PayloadAction<{ edit: string; message: string }>) =>
      withoutEdit(plain(state), payload.edit, payload.message),
    /** This version is a job of its own now. */
    branchedOff: (state) => ({ ...plain(state), left: true, pending: [], forks: false, save: 'saved' as const }),
    serverAway: (state, { payload }: PayloadAction<string | undefined>) => ({
      ...plain(state),
      save: 'away' as const,
      refusal: payload ?? null,
    }),
    saveRefused: (state, { payload }: PayloadAction<string>) => ({ ...plain(state), save: 'refused' as const, refusal: payload }),
    /** Whether the browser keeps what is not sent. */
    keptHere: (state, { payload }: PayloadAction<boolean>) =>
      plain(state).unsafe === !payload ? plain(state) : { ...plain(state), unsafe: !payload },
  },
})

export const {
  opened,
  closed,
  changing,
  edited,
  abandoned,
  undone,
  redone,
  saving,
  acknowledged,
  editRefused,
  branchedOff,
  serverAway,
  saveRefused,
  keptHere,
} = slice.actions
export const jobReducer = slice.reducer
