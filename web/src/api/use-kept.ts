import { skipToken } from '@reduxjs/toolkit/query/react'
import { useEffect, useState } from 'react'
import type { Trouble } from './shop.ts'

/** What the server does not answer is asked again so often, ms. */
const AGAIN_MS = 2000

/** What is held of something that the server knows. */
export interface Kept<D> {
  /** What was told last; of an earlier question until this one is answered. */
  readonly data: D | undefined
  /** Of this question alone. */
  readonly current: D | undefined
  /** Why there is nothing newer; what is shown stays. */
  readonly trouble: Trouble | undefined
  /** When what is shown was told, ms. */
  readonly at: number | undefined
}

interface Answer<D> {
  readonly data?: D
  readonly currentData?: D
  readonly error?: unknown
  readonly fulfilledTimeStamp?: number
}
type Asked<A, D> = (arg: A | typeof skipToken, options?: { pollingInterval?: number }) => Answer<D>

/**
 * What the server knows, asked again by itself while it does not answer, and every `oftenMs` where that is given.
 * @param useAsked one of the hooks of the shop; @param arg undefined asks nothing
 */
export function useKept<A, D>(useAsked: Asked<A, D>, arg: A | undefined, oftenMs = 0): Kept<D> {
  const [away, setAway] = useState(false)
  const { data, currentData, error, fulfilledTimeStamp } = useAsked(arg === undefined ? skipToken : arg, {
    pollingInterval: away ? AGAIN_MS : oftenMs,
  })
  const trouble = error as Trouble | undefined
  const isAway = trouble?.away === true
  useEffect(() => setAway(isAway), [isAway])
  return { data, current: currentData, trouble, at: fulfilledTimeStamp }
}
