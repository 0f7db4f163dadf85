import type { Machine, Material } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { api } from '../../api/api.ts'

interface Catalogue {
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
}

let known: Catalogue | undefined

/** What was fetched is old: the next one who needs it fetches it again. */
export const forgetCatalogue = (): void => {
  known = undefined
}

/** The shop's materials and machines, fetched once a page. */
export function useCatalogue(): Catalogue | undefined {
  const [catalogue, setCatalogue] = useState(known)
  useEffect(() => {
    if (known) return
    let gone = false
    Promise.all([api.materials(), api.machines()])
      .then(([{ materials }, { machines }]) => {
        known = { materials, machines }
        if (!gone) setCatalogue(known)
      })
      .catch(() => {})
    return () => {
      gone = true
    }
  }, [])
  return catalogue
}
