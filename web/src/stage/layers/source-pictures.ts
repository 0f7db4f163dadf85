import { type JobDocument, placeOf } from '@neotaxis/core'
import type { StageView } from '../stage-view.ts'

const images = new Map<string, HTMLImageElement>()
let weave: CanvasPattern | null | undefined

/** The pattern that stands for “nothing here”: no paper, no mark. White is plain white. */
function seeThrough(context: CanvasRenderingContext2D): CanvasPattern | null {
  if (weave !== undefined) return weave
  const cell = new OffscreenCanvas(12, 12)
  const draw = cell.getContext('2d')!
  draw.fillStyle = '#b9d3d6'
  draw.fillRect(0, 0, 12, 12)
  draw.strokeStyle = '#7fa9ae'
  draw.lineWidth = 1.6
  draw.beginPath()
  draw.arc(3, 3, 1.3, 0, 7)
  draw.moveTo(10.3, 9)
  draw.arc(9, 9, 1.3, 0, 7)
  draw.stroke()
  weave = context.createPattern(cell as unknown as HTMLCanvasElement, 'repeat')
  return weave
}

/** A picture as it came, in colour; undefined until it is loaded. */
export function sourceImage(asset: string, onLoad: () => void): HTMLImageElement | undefined {
  let image = images.get(asset)
  if (!image) {
    image = new Image()
    image.onload = onLoad
    image.src = `/api/assets/${asset}`
    images.set(asset, image)
  }
  return image.complete && image.naturalWidth > 0 ? image : undefined
}

/** The pictures as they came, in their places; where they are transparent, a weave of small rings shows. */
export function drawArtwork(context: CanvasRenderingContext2D, job: JobDocument, view: StageView, onLoad: () => void): void {
  for (const [id, node] of Object.entries(job.nodes)) {
    if (node.kind !== 'source') continue
    const image = sourceImage(node.asset, onLoad)
    const place = placeOf(job, id)
    const w = place.widthMm * view.scale
    const h = place.heightMm * view.scale
    context.save()
    context.translate((place.xMm - view.x) * view.scale + w / 2, (place.yMm - view.y) * view.scale + h / 2)
    context.rotate(((place.deg ?? 0) * Math.PI) / 180)
    context.fillStyle = seeThrough(context) ?? '#b9d3d6'
    context.fillRect(-w / 2, -h / 2, w, h)
    if (image) context.drawImage(image, -w / 2, -h / 2, w, h)
    context.restore()
  }
}
