import type { Drawn, Licence } from '@neotaxis/core'
import type { Intake } from '@neotaxis/intake'
import { nanoid } from 'nanoid'
import { assetBytes } from '../assets/store.ts'
import { Artwork } from '../models/artwork.ts'
import { Refusal } from '../refusal.ts'
import { inThread } from '../thread.ts'

/** What people say of artwork that is kept. */
export interface Said {
  readonly name: string
  readonly tags: readonly string[]
  readonly origin: string
  readonly licence: Licence
}

type Facts = Omit<Intake, 'bytes'>

const LOOK_SECONDS = 60

/** Keeps an asset in the library; one that is there already under that name stays one. */
export async function keepArtwork(asset: string, drawn: Drawn | undefined, said: Said): Promise<Artwork> {
  const known = await Artwork.findOne({ where: { sha256: asset, name: said.name } })
  if (known) return known
  const bytes = await assetBytes(asset)
  const seen = await inThread<{ facts?: Facts; picture?: Uint8Array; refused?: string }>(
    new URL('./keep-thread.ts', import.meta.url),
    bytes,
    LOOK_SECONDS,
  )
  const { facts, picture } = seen
  if (!facts || !picture) throw new Refusal(422, 'no-artwork', seen.refused ?? 'This is no artwork that the library could keep.')
  return Artwork.create({
    id: nanoid(12),
    name: said.name,
    sha256: asset,
    facts: JSON.stringify(facts),
    drawn: drawn ? JSON.stringify(drawn) : null,
    tags: JSON.stringify(said.tags),
    origin: said.origin,
    licence: JSON.stringify(said.licence),
    picture: Buffer.from(picture),
  })
}

/** Artwork as it is told to the page. */
export const told = ({ id, name, sha256, facts, drawn, tags, origin, licence, createdAt }: Artwork) => ({
  id,
  name,
  asset: sha256,
  facts: JSON.parse(facts) as Facts,
  ...(drawn ? { drawn: JSON.parse(drawn) as Drawn } : {}),
  tags: JSON.parse(tags) as string[],
  origin,
  licence: JSON.parse(licence) as Licence,
  createdAt,
})
