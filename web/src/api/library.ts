import type { Drawn, Licence } from '@neotaxis/core'
import type { AssetFacts } from './api.ts'
import { call, json, read } from './call.ts'

/** Artwork that is kept across jobs. */
export interface Artwork {
  readonly id: string
  readonly name: string
  readonly asset: string
  readonly facts: AssetFacts
  readonly drawn?: Drawn
  readonly tags: readonly string[]
  readonly origin: string
  readonly licence: Licence
  readonly createdAt: string
}

export type Said = Pick<Artwork, 'name' | 'tags' | 'origin' | 'licence'>

export const libraryApi = {
  all: (search = '') => read<{ artwork: Artwork[] }>(call(`/library?search=${encodeURIComponent(search)}`)),
  keep: (made: Said & { readonly asset: string; readonly drawn?: Drawn }) => read<Artwork>(call('/library', json(made))),
  change: (id: string, said: Partial<Said>) => read<Artwork>(call(`/library/${id}`, { ...json(said), method: 'PATCH' })),
  remove: (id: string) => call(`/library/${id}`, { method: 'DELETE' }),
  restore: (id: string) => call(`/library/${id}/restore`, { method: 'POST' }),
  jobs: (id: string) => read<{ jobs: { id: string; name: string }[] }>(call(`/library/${id}/jobs`)),
}

export const artworkPicture = (id: string): string => `/api/library/${id}/picture`
