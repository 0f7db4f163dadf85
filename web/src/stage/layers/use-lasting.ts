import { type RefObject, useEffect, useRef } from 'react'

/** Something that has an end, held for as long as what it is made from stays the same. @param make the same function until then */
export function useLasting<T extends { end(): void }>(make: () => T): RefObject<T | undefined> {
  const held = useRef<T>(undefined)
  useEffect(() => {
    const made = make()
    held.current = made
    return () => {
      made.end()
      if (held.current === made) held.current = undefined
    }
  }, [make])
  return held
}
