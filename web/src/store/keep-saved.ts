import { jobOrders } from '../api/orders.ts'
import { type BranchListener, type Opening, openJob, Saver, type SaverSetting } from './saver.ts'
import { store } from './store.ts'
import { browserDrawers } from './unsent.ts'

const setting: SaverSetting = {
  server: { job: jobOrders.open, editsSince: jobOrders.editsSince, saveEdits: jobOrders.saveEdits },
  drawers: browserDrawers(localStorage, navigator.locks),
  read: () => store.getState().job,
  dispatch: (action) => void store.dispatch(action),
  after(ms, call) {
    const timer = setTimeout(call, ms)
    return () => clearTimeout(timer)
  },
  now: Date.now,
  isSeen: () => document.visibilityState === 'visible',
}

/** Opens a job on this page. */
export const openHere = (id: string, opening: Opening): Promise<void> => openJob(id, setting, opening)

/** Sends edits of the open job as they are made, as long as it is open. @returns the way to end it */
export function keepSaved(onBranch: BranchListener): () => void {
  const saver = new Saver(setting, onBranch)
  const unsubscribe = store.subscribe(() => saver.changed())
  const again = (): void => saver.again()
  window.addEventListener('online', again)
  saver.changed()
  return () => {
    saver.end()
    unsubscribe()
    window.removeEventListener('online', again)
  }
}
