import {
  faceSize,
  flattenPath,
  type JobDocument,
  mainPieceId,
  mappedRings,
  materialOf,
  outlineOfFace,
  poseMap,
  type Ring,
  SAME,
  sightOf,
} from '@neotaxis/core'
import type { Layer, Showing } from '../../stage/layer.ts'
import { isOtherSide } from '../../stage/layers/use-other-pieces.ts'
import type { BedPhoto, FoundBlank } from './bed-photo.ts'

/** Polygons of the bed as a path of the stage. */
function bedPath(rings: readonly Ring[], { map: [a, b, c, d, e, f] }: Pick<Showing, 'map'>): Path2D {
  const path = new Path2D()
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      const [x, y] = [a * ring[i] + c * ring[i + 1] + e, b * ring[i] + d * ring[i + 1] + f]
      if (i === 0) path.moveTo(x, y)
      else path.lineTo(x, y)
    }
    path.closePath()
  }
  return path
}

/** The workpieces that are shown, each with its edge on the bed. */
const shownPieces = (job: JobDocument): { readonly id: string; readonly rings: readonly Ring[]; readonly heightMm: number }[] =>
  Object.entries(job.workpieces).flatMap(([id, piece]) =>
    id !== mainPieceId(job) && isOtherSide(job, id)
      ? []
      : [
          {
            id,
            rings: mappedRings(poseMap(piece.pose, faceSize(piece)), outlineOfFace(piece.outline)),
            heightMm: piece.thicknessMm,
          },
        ],
  )

/** How high the faces lie that are shown, mm: each is seen at its own height. */
export const heightsOf = (job: JobDocument): number[] => [...new Set(shownPieces(job).map(({ heightMm }) => heightMm))]

/**
 * The bed as its camera sees it. On workpieces the photo takes the place of the material that is drawn there, seen as high as they are,
 * and what will be burned stays on it: what was drawn is told from its material's colour, and what is darker than it darkens the photo.
 */
export function photoLayer(job: JobDocument, { pictures, bed, camera }: BedPhoto, veil: string): Layer {
  const { seen, place } = sightOf(camera.calibration!.camera)
  /** Where the edge of something thick is seen on the flat bed. */
  const onFlat = (ring: Ring, heightMm: number): Ring => {
    const out = new Float64Array(ring.length)
    for (let i = 0; i < ring.length; i += 2) {
      const at = seen(ring[i], ring[i + 1], heightMm)
      const [x, y] = (at && place(at[0], at[1], 0)) ?? [ring[i], ring[i + 1]]
      out[i] = x
      out[i + 1] = y
    }
    return out
  }
  return {
    name: 'bed photo',
    space: SAME,
    paint: (context, at) => {
      const pieces = shownPieces(job)
      const draw = (heightMm: number): void => {
        const picture = pictures.get(heightMm) ?? pictures.get(0)
        if (!picture) return
        context.save()
        context.transform(...(at.map as [number, number, number, number, number, number]))
        context.drawImage(picture, 0, 0, bed.widthMm, bed.heightMm)
        context.restore()
      }
      const { width, height } = at.size
      context.save()
      const beside = new Path2D()
      beside.rect(0, 0, width, height)
      for (const { rings } of pieces) beside.addPath(bedPath(rings, at))
      context.clip(beside, 'evenodd')
      draw(0)
      // Seen as flat as the bed, what is thick reaches beyond its edge: that is veiled, because it lies within.
      context.fillStyle = veil
      for (const { rings, heightMm } of pieces)
        context.fill(
          bedPath(
            rings.map((ring) => onFlat(ring, heightMm)),
            at,
          ),
          'evenodd',
        )
      context.restore()
      for (const { id, rings, heightMm } of pieces) {
        context.save()
        context.clip(bedPath(rings, at), 'evenodd')
        context.globalCompositeOperation = 'color-dodge'
        const [r, g, b] = materialOf(job, id).look.surface
        context.fillStyle = `rgb(${255 - r} ${255 - g} ${255 - b})`
        context.fillRect(0, 0, width, height)
        context.globalCompositeOperation = 'multiply'
        draw(heightMm)
        context.restore()
      }
    },
  }
}

const flattened = new WeakMap<FoundBlank, readonly Ring[]>()

/** The edges of a blank that was found, mm of the bed. */
export function edgesOf(blank: FoundBlank): readonly Ring[] {
  let rings = flattened.get(blank)
  if (!rings) {
    rings = [blank.seen.edge, ...blank.seen.holes].map((path) => flattenPath(path, 0.05))
    flattened.set(blank, rings)
  }
  return rings
}

interface Colours {
  readonly line: string
  readonly halo: string
}

/** The blanks that were found, those that are meant drawn through. */
export function blanksLayer({ blanks, chosen, stroke }: BedPhoto, { line, halo }: Colours): Layer {
  return {
    name: 'blanks',
    space: SAME,
    paint: (context, at) => {
      blanks.forEach((blank, i) => {
        const path = bedPath(edgesOf(blank), at)
        context.setLineDash(chosen.includes(i) ? [] : [7, 6])
        context.lineWidth = 4
        context.strokeStyle = halo
        context.globalAlpha = 0.7
        context.stroke(path)
        context.globalAlpha = 1
        context.lineWidth = 2
        context.strokeStyle = line
        context.stroke(path)
      })
      context.setLineDash([])
      if (!stroke) return
      const [a, b, c, d, e, f] = at.map
      context.beginPath()
      for (let i = 0; i < stroke.line.length; i += 2)
        context.lineTo(a * stroke.line[i] + c * stroke.line[i + 1] + e, b * stroke.line[i] + d * stroke.line[i + 1] + f)
      context.lineCap = context.lineJoin = 'round'
      context.lineWidth = 2 * stroke.halfMm * Math.hypot(a, b)
      context.globalAlpha = 0.45
      context.stroke()
      context.globalAlpha = 1
    },
  }
}
