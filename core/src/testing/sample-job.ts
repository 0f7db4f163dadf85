import type { Bench } from '../job/bench.ts'
import { ResultCache } from '../job/cache.ts'
import { type CutOperation, JOB_VERSION, type JobDocument, type PictureOperation } from '../job/document.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { NO_TREATMENT, PLAIN_DOTS } from '../picture/steps.ts'

/** For tests: a grey picture from a function of the pixel, 0 black to 255 white. */
export function greyPicture(widthPx: number, heightPx: number, grey: (x: number, y: number) => number): GreyPicture {
  const samples = new Uint8Array(widthPx * heightPx)
  for (let y = 0; y < heightPx; y++) for (let x = 0; x < widthPx; x++) samples[y * widthPx + x] = grey(x, y)
  return { widthPx, heightPx, samples, full: 255 }
}

/** For tests: a dark square of `side` pixels on white with a margin of `margin`. */
export const squarePicture = (side: number, margin: number): GreyPicture =>
  greyPicture(side + 2 * margin, side + 2 * margin, (x, y) =>
    x >= margin && x < margin + side && y >= margin && y < margin + side ? 0 : 255,
  )

/** For tests: what evaluation needs, with one picture for every asset. */
export const benchWith = (picture: GreyPicture): Bench => ({ picture: () => picture, cache: new ResultCache() })

export interface SampleSettings {
  readonly picture: GreyPicture
  readonly widthMm?: number
  readonly xMm?: number
  readonly yMm?: number
  readonly engrave?: Partial<PictureOperation>
  readonly cut?: Partial<CutOperation>
  readonly distanceMm?: number
}

/** For tests: a picture engraved and cut around on 300 × 200 mm birch ply, as the proposal makes it. */
export function sampleJob({
  picture,
  widthMm = 40,
  xMm = 100,
  yMm = 50,
  engrave,
  cut,
  distanceMm = 3,
}: SampleSettings): JobDocument {
  const heightMm = (widthMm * picture.heightPx) / picture.widthPx
  return {
    format: 'neotaxis-job',
    version: JOB_VERSION,
    name: 'Sample',
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    onBed: { xMm: 150, yMm: 100 },
    material: MATERIALS[0],
    machine: MACHINES[0],
    nodes: {
      source: {
        kind: 'source',
        name: 'sample.png',
        asset: 'a'.repeat(64),
        widthPx: picture.widthPx,
        heightPx: picture.heightPx,
        hasAlpha: picture.alpha !== undefined,
        framing: [],
      },
      dots: { kind: 'picture', name: 'dots', from: 'source', ...NO_TREATMENT, dots: PLAIN_DOTS },
      edge: {
        kind: 'trace',
        name: 'edge',
        from: 'source',
        channel: 'grey',
        threshold: 0.5,
        toleranceMm: 0,
        cornerDeg: 32,
        minAreaMm2: 0,
      },
      around: { kind: 'offset', name: 'around', from: 'edge', distanceMm, join: 'round', outermost: true },
    },
    placements: { source: { xMm, yMm, widthMm, heightMm } },
    operations: {
      engrave: {
        kind: 'picture',
        node: 'dots',
        power: 0.32,
        speedMmS: 300,
        passes: 1,
        intervalMm: 0.2,
        bothWays: true,
        minPower: 0,
        evenIn: 'power',
        passPowers: [],
        air: false,
        ...engrave,
      },
      cut: { kind: 'cut', node: 'around', power: 0.68, speedMmS: 12, passes: 1, kerfMm: 0.2, air: true, ...cut },
    },
    runOrder: ['engrave', 'cut'],
    meant: {},
  }
}
