import type { Drawn, Licence } from '@neotaxis/core'
import { artworkPicture, type Intake, takeIn } from '@neotaxis/intake'
import { nanoid } from 'nanoid'
import { assetBytes } from '../assets/store.ts'
import { Artwork } from '../models/artwork.ts'
import { Refusal } from '../refusal.ts'

/** What people say of artwork that is kept. */
export interface Said {
  readonly name: string
  readonly tags: readonly string[]
  readonly origin: string
  readonly licence: Licence
}

type Facts = Omit<Intake, 'bytes'>

/** Keeps an asset in the library, with its small picture; one that is there already under that name stays one. In a thread. */
export async function keepArtwork({
  asset,
  drawn,
  said,
}: {
  asset: string
  drawn: Drawn | undefined
  said: Said
}): Promise<ArtworkTold> {
  const known = await Artwork.findOne({ where: { sha256: asset, name: said.name } })
  if (known) return told(known)
  const { bytes, ...facts } = await takeIn(await assetBytes(asset))
  if (facts.font) throw new Refusal(422, 'no-artwork', 'This is no artwork that the library could keep.')
  return told(
    await Artwork.create({
      id: nanoid(12),
      name: said.name,
      sha256: asset,
      facts: JSON.stringify(facts),
      drawn: drawn ? JSON.stringify(drawn) : null,
      tags: JSON.stringify(said.tags),
      origin: said.origin,
      licence: JSON.stringify(said.licence),
      picture: Buffer.from(artworkPicture(bytes)),
    }),
  )
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
  createdAt: new Date(createdAt).toISOString(),
})
type ArtworkTold = ReturnType<typeof told>
