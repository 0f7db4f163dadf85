import { JOB_VERSION, type JobDocument, mainPiece, withPiece } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { ResultCache } from '../lineage/cache.ts'
import { type DotField, dotField } from '../lineage/field.ts'
import { pieceMarks } from '../lineage/piece-marks.ts'
import type { Supply } from '../lineage/supply.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { NO_TREATMENT, PLAIN_DOTS } from '../picture/steps.ts'
import type { CutOperation } from '../process/cut/settings.ts'
import type { PictureOperation, RowSettings } from '../process/picture/settings.ts'
import type { Pose } from '../space/pose.ts'

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
export const supplyWith = (picture: GreyPicture): Supply => ({ picture: () => picture, cache: new ResultCache() })

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
    workpieces: {
      piece: {
        name: 'workpiece',
        material: MATERIALS[0].id,
        outline: { kind: 'rect', widthMm: 300, heightMm: 200 },
        surface: { kind: 'flat' },
        thicknessMm: 3,
        keepOuts: {},
        marks: {},
        pose: { xMm: 150, yMm: 100 },
      },
    },
    materials: { [MATERIALS[0].id]: MATERIALS[0] },
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
    placements: { source: { of: 'source', on: 'piece', xMm, yMm, widthMm, heightMm } },
    operations: {
      engrave: {
        process: 'picture',
        of: ['dots'],
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
      cut: { process: 'cut', of: ['around'], power: 0.68, speedMmS: 12, passes: 1, kerfMm: 0.2, air: true, ...cut },
    },
    steps: { engrave: { kind: 'burn', operation: 'engrave' }, cut: { kind: 'burn', operation: 'cut' } },
    order: ['engrave', 'cut'],
    meant: {},
  }
}

/** For tests: the job on another rectangle, that may lie elsewhere. */
export function onRectangle(
  job: JobDocument,
  size: { readonly widthMm?: number; readonly heightMm?: number; readonly thicknessMm?: number } & Partial<Pose>,
): JobDocument {
  const piece = mainPiece(job)
  const face = faceSize(piece)
  const { widthMm = face.widthMm, heightMm = face.heightMm, thicknessMm = piece.thicknessMm, ...pose } = size
  return withPiece(job, { outline: { kind: 'rect', widthMm, heightMm }, thicknessMm, pose: { ...piece.pose, ...pose } })
}

/** For tests: the job burning only these operations, in this order, with nothing asked between them. */
export const burning = (job: JobDocument, ...ids: readonly string[]): JobDocument => ({
  ...job,
  steps: Object.fromEntries(ids.map((id) => [id, { kind: 'burn', operation: id }])),
  order: ids,
})

/** For tests: the dots of an operation's first piece, and where they lie. */
export const marksOf = (job: JobDocument, operation: Operation, supply: Supply) =>
  pieceMarks(job, operation as Operation & RowSettings, burnedPieces(job, operation)[0], supply)

export const fieldOf = (job: JobDocument, operation: Operation): DotField =>
  dotField(job, operation as Operation & RowSettings, burnedPieces(job, operation)[0])
