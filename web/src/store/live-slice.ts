import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { DeskLive } from '../api/runs.ts'

interface LiveState {
  readonly machines: readonly DeskLive[]
  /** Whether the server tells it now; else what is here is old. */
  readonly fresh: boolean
}

const initialState: LiveState = { machines: [], fresh: false }

/** How the machines stand, as the server tells it. */
const slice = createSlice({
  name: 'live',
  initialState: initialState as LiveState,
  reducers: {
    told: (_state, { payload }: PayloadAction<readonly DeskLive[]>) => ({ machines: payload, fresh: true }) as LiveState,
    silent: (state) => ({ ...state, fresh: false }),
  },
})

export const { told, silent } = slice.actions
export const liveReducer = slice.reducer
