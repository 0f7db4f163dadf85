import { listenSignedOut } from '../api/call.ts'
import { sessionOrders } from '../api/orders.ts'
import { sessionTold, signedOut } from './session-slice.ts'
import { store } from './store.ts'
import { operatorNamed } from './view-slice.ts'

const AGAIN_MS = 2000

/** Asks the server who is signed in here; again where it does not answer. */
export async function askWhoIsIn(): Promise<void> {
  try {
    const told = await sessionOrders.who()
    store.dispatch(sessionTold(told))
    if (told.signsIn && told.person) store.dispatch(operatorNamed(told.person.name))
  } catch {
    setTimeout(() => void askWhoIsIn(), AGAIN_MS)
  }
}

/** Ends the session of this page. */
export async function leave(): Promise<void> {
  await sessionOrders.signOut().catch(() => {})
  await askWhoIsIn()
}

listenSignedOut(() => {
  if (store.getState().session.person === null) return
  store.dispatch(signedOut())
  void askWhoIsIn()
})
