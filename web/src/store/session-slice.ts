import type { SessionTold } from '@neotaxis/contract'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** Until the server has said otherwise nobody needs to sign in. */
const initialState: SessionTold = { signsIn: false, person: null, names: [], isNew: false }

/** Who is signed in at this page. */
const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    sessionTold: (_state, { payload }: PayloadAction<SessionTold>) => payload,
    /** The server does not know this page any more. */
    signedOut: (state) => ({ ...state, signsIn: true, person: null }),
  },
})

export const { sessionTold, signedOut } = slice.actions
export const sessionReducer = slice.reducer
