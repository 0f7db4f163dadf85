import { configureStore } from '@reduxjs/toolkit'
import { sendAs } from '../api/call.ts'
import { shop } from '../api/shop.ts'
import { jobReducer } from './job-slice.ts'
import { sessionReducer } from './session-slice.ts'
import { keepView, viewReducer } from './view-slice.ts'

export const store = configureStore({
  reducer: { [shop.reducerPath]: shop.reducer, job: jobReducer, session: sessionReducer, view: viewReducer },
  // Documents are plain data by their schema; checking them at every step of a drag costs more than it finds.
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).concat(shop.middleware),
})

export type AppState = ReturnType<typeof store.getState>
export type AppDispatch = typeof store.dispatch

sendAs(store.getState().view.operator)
let view = store.getState().view
store.subscribe(() => {
  const next = store.getState().view
  if (next !== view) {
    view = next
    keepView(next)
    sendAs(next.operator)
  }
})
