import { useSyncExternalStore } from 'react'

/** Which moment of the run the stage shows. It changes many times a second, so it lives beside Redux. */
export interface Moment {
  /** Seconds since the start; null is after the burn. */
  readonly seconds: number | null
  /** Where a real head is, machine mm; null where it follows from the moment. */
  readonly head: { readonly x: number; readonly y: number; readonly burning: boolean } | null
  readonly playing: boolean
  /** Times real time. */
  readonly speed: number
  /** Whether all travel is drawn, not only what is near the head. */
  readonly travel: boolean
}

const AFTER: Moment = { seconds: null, head: null, playing: false, speed: 8, travel: false }

let moment = AFTER
const listeners = new Set<() => void>()

export const momentNow = (): Moment => moment

export function setMoment(change: Partial<Moment>): void {
  moment = { ...moment, ...change }
  for (const listener of listeners) listener()
}

/** Back to the workpiece after the burn. */
export const leaveMoment = (): void => setMoment({ seconds: null, head: null, playing: false })

export function onMoment(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** A part of the moment, as it changes. @param pick gives the same thing while it is the same */
export const useMoment = <T>(pick: (moment: Moment) => T): T => useSyncExternalStore(onMoment, () => pick(moment))
