import { type Bench, greyFromPng, ResultCache } from '@neotaxis/core'

/** What evaluation needs, from the bytes of a job's assets. */
export function benchFor(assets: Readonly<Record<string, Uint8Array>>): Bench {
  const pictures = new Map(Object.entries(assets).map(([name, bytes]) => [name, greyFromPng(bytes)]))
  return {
    cache: new ResultCache(),
    picture: (asset) => {
      const picture = pictures.get(asset)
      if (!picture) throw new Error(`The picture ${asset} is missing.`)
      return picture
    },
  }
}
