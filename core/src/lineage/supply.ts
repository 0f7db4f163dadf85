import type { PlacedDrawing } from '../formats/read-drawing.ts'
import type { Triangles } from '../mesh/stl.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { GreyWeights } from '../picture/steps.ts'
import type { TextSpec } from '../text/text-spec.ts'
import type { ResultCache } from './cache.ts'

/** What evaluation needs from outside: the decoded pictures, kept results, and a way to tell how far it is. */
export interface Supply {
  /** The decoded picture of an asset, grey by weights; throws where it is not there. */
  readonly picture: (asset: string, grey: GreyWeights) => GreyPicture
  /** The triangles of a mesh asset; throws where it is not there. */
  readonly mesh?: (asset: string) => Triangles
  /** The drawing of an asset, from the origin, mm; throws where it is not there. */
  readonly drawing?: (asset: string) => PlacedDrawing
  /** One entry of a list as it is written alone, from the origin, mm; throws where its font is not there. */
  readonly entry?: (text: TextSpec, entry: number) => PlacedDrawing
  /** The text of a program asset; throws where it is not there. */
  readonly program?: (asset: string) => string
  readonly cache: ResultCache

  /** Share done of the step at hand, 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** The content key of a result: the JSON of all it depends on. */
export const keyOf = (...parts: readonly unknown[]): string => JSON.stringify(parts)
