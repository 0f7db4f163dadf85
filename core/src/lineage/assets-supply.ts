import { drawnSvg } from '../drawn/drawn.ts'
import { greyFromPng, PictureError } from '../formats/png.ts'
import { type PlacedDrawing, readDrawing } from '../formats/read-drawing.ts'
import { readStl } from '../mesh/stl.ts'
import { STROKE_FONT } from '../text/stroke-font.ts'
import { entryText } from '../text/text-spec.ts'
import type { Typeface } from '../text/typeface.ts'
import { ResultCache } from './cache.ts'
import { keyOf, type Supply } from './supply.ts'

/**
 * What evaluation needs, from the bytes of a job's assets: pictures, meshes and programs are decoded when they are first
 * asked for, and kept in the cache. @param bytesOf undefined where an asset is not there
 * @param fontOf reads a font (`readFont`): it is handed over, because it takes a while to be there where a page begins
 */
export function assetsSupply(
  bytesOf: (asset: string) => Uint8Array | undefined,
  cache = new ResultCache(),
  progress?: Supply['progress'],
  fontOf?: (bytes: Uint8Array, axes?: Readonly<Record<string, number>>) => Typeface,
): Supply {
  const bytes = (asset: string): Uint8Array => {
    const found = bytesOf(asset)
    if (!found) throw new PictureError('A file that this job is made from is missing.')
    return found
  }
  return {
    cache,
    progress,
    picture: (asset, grey) =>
      cache.get(
        keyOf('picture', asset, grey),
        () => greyFromPng(bytes(asset), grey),
        ({ samples, alpha }) => samples.byteLength + (alpha?.byteLength ?? 0),
      ),
    mesh: (asset) =>
      cache.get(
        keyOf('mesh', asset),
        () => readStl(bytes(asset)),
        ({ points }) => points.byteLength,
      ),
    drawing: (asset) =>
      cache.get(
        keyOf('drawing', asset),
        () => readDrawing(bytes(asset)),
        ({ shapes }) =>
          shapes.reduce((sum, { paths }) => paths.reduce((all, { points }) => all + points.byteLength + 200, sum + 200), 0),
      ),
    entry: (text, entry) => {
      const { series, ...bare } = text
      const alone = { ...bare, text: entryText(text.text, series?.entries[entry] ?? '') }
      const face = (): Typeface => (text.font.kind === 'file' ? fontOf!(bytes(text.font.asset), text.font.axes) : STROKE_FONT)
      const make = (): PlacedDrawing => readDrawing(new TextEncoder().encode(drawnSvg(alone, face()).svg))
      return cache.get(keyOf('entry', alone), make, ({ shapes }) =>
        shapes.reduce((sum, { paths }) => paths.reduce((all, { points }) => all + points.byteLength + 200, sum + 200), 0),
      )
    },
    program: (asset) => {
      const found = bytes(asset)
      let text = ''
      for (let at = 0; at < found.length; at += 8192) text += String.fromCharCode(...found.subarray(at, at + 8192))
      return text
    },
  }
}
