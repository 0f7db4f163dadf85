import { useEffect, useSyncExternalStore } from 'react'

// Where on the screen the stops of the machines stand, and which machine has one of its own there.
let place: HTMLElement | null = null
let own: readonly string[] = []
const listeners = new Set<() => void>()
const tell = (): void => {
  for (const listener of listeners) listener()
}
const listen = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Given to the element of a bar that keeps room for the stops. */
export function keepStopPlace(element: HTMLElement | null): () => void {
  place = element
  tell()
  return () => {
    if (place !== element) return
    place = null
    tell()
  }
}

/** Where they stand; null where no bar is on the screen: then over everything. */
export const useStopPlace = (): HTMLElement | null => useSyncExternalStore(listen, () => place)

/** Machines that have a stop of their own on the screen. */
export const useOwnStops = (): readonly string[] => useSyncExternalStore(listen, () => own)

/** This screen has a stop for a machine, as long as it is there. */
export function useOwnStop(machine: string): void {
  useEffect(() => {
    own = [...own, machine]
    tell()
    return () => {
      own = own.filter((one) => one !== machine)
      tell()
    }
  }, [machine])
}
