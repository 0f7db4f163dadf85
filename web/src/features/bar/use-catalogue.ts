import type { Machine, Material } from '@neotaxis/core'
import { useMachinesQuery, useMaterialsQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'

interface Catalogue {
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
}

/** The shop's materials and machines; undefined until both are told. */
export function useCatalogue(): Catalogue | undefined {
  const { data: materials } = useKept(useMaterialsQuery, null)
  const { data: machines } = useKept(useMachinesQuery, null)
  return materials && machines && { materials, machines }
}
