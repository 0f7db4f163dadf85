import type { DeskLive } from '@neotaxis/contract'
import { useSelector } from '../store/hooks.ts'
import type { AppState } from '../store/store.ts'
import { type Live, shop } from './shop.ts'

const NOTHING: Live = { machines: [], fresh: false }
const select = shop.endpoints.live.select(null)

const liveOf = (state: AppState): Live => select(state).data ?? NOTHING

/** How the machines stand. @param pick gives the same thing while it is the same */
export const useLive = <T>(pick: (live: Live) => T): T => useSelector((state) => pick(liveOf(state)))

/** How a machine stands; undefined until the server has told it. */
export const useDesk = (machine: string | undefined): DeskLive | undefined =>
  useLive(({ machines }) => machines.find((desk) => desk.machine === machine))
