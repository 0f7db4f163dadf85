import { runOrders } from '../../api/orders.ts'
import { store } from '../../store/store.ts'
import { settled } from '../bar/save-files.ts'

/** A program is carried to its machine: a run in the journal, whose time and result are entered by hand. */
export async function carried(jobId: string): Promise<void> {
  if (store.getState().view.operator === '') throw new Error('Say who you are first: the name stands at the top.')
  await settled()
  await runOrders.carried({ jobId, revision: store.getState().job.revision })
}
