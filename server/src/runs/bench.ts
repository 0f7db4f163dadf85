import { type Bench, greyFromPng, ResultCache } from '@neotaxis/core'

/** What evaluation needs, from the bytes of a job's assets. */
export function benchFor(assets: Readonly<Record<string, Uint8Array>>): Bench {
  const isPng = (bytes: Uint8Array): boolean => bytes[0] === 0x89 && bytes[1] === 0x50
  const pictures = new Map(
    Object.entries(assets).flatMap(([name, bytes]) => (isPng(bytes) ? [[name, greyFromPng(bytes)] as const] : [])),
  )
  return {
    cache: new ResultCache(),
    program: (asset) => new TextDecoder('latin1').decode(assets[asset]),
    picture: (asset) => {
      const picture = pictures.get(asset)
      if (!picture) throw new Error(`The picture ${asset} is missing.`)
      return picture
    },
  }
}
