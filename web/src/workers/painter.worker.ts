import { paintForecast, type Ring, type Scene, type View } from '@neotaxis/core'
import { expose, transfer } from 'comlink'
import { outlinePicture } from './outline-picture.ts'
import { ringsOf } from './packed-rings.ts'
import type { OutlineNews, OutlineRequest, PaintedForecast, PaintedOutlines, ToPainter } from './shared.ts'

let scene: Scene | undefined
let aside: Scene['layers'] = []
let version = 0
let changed: ((version: number) => void) | undefined

const outlines = new Map<string, readonly Ring[]>()
let drawn = { version: 0, places: {} as OutlineNews['places'] }
/** Requests for drawings that are not here yet. */
let waiting: { readonly version: number; readonly go: () => void }[] = []

const colours = new Map<string, readonly [number, number, number]>()
let probe: OffscreenCanvasRenderingContext2D | undefined

/** A colour as the browser reads it. */
function rgbOf(colour: string): readonly [number, number, number] {
  const known = colours.get(colour)
  if (known) return known
  probe ??= new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!
  probe.fillStyle = colour
  probe.fillRect(0, 0, 1, 1)
  const [r, g, b] = probe.getImageData(0, 0, 1, 1).data
  colours.set(colour, [r, g, b])
  return [r, g, b]
}

function takeOutlines({ fresh, version, places }: OutlineNews): void {
  for (const [id, packed] of Object.entries(fresh)) outlines.set(id, ringsOf(packed))
  for (const id of outlines.keys()) if (!(id in places)) outlines.delete(id)
  drawn = { version, places }
  const ready = waiting.filter((each) => each.version <= version)
  waiting = waiting.filter((each) => each.version > version)
  for (const { go } of ready) go()
}

const painter = {
  /** @param port where the engine sends what to paint @param onChange told when there is a new forecast to paint */
  connect(port: MessagePort, onChange: (version: number) => void): void {
    changed = onChange
    port.onmessage = ({ data }: MessageEvent<ToPainter>) => {
      if (data.kind === 'outlines') {
        takeOutlines(data)
        return
      }
      scene = data.scene
      aside = data.aside
      version = data.version
      changed?.(version)
    }
  },

  /** A piece of the forecast; undefined before the first. @param only operations that are burned, default all that run */
  async forecast(view: View, only?: readonly string[]): Promise<PaintedForecast | undefined> {
    if (!scene) return undefined
    const painted = version
    const shown = only
      ? { ...scene, layers: [...scene.layers, ...aside].filter(({ operation }) => only.includes(operation)) }
      : scene
    const rgba = paintForecast(shown, view)
    const bitmap = await createImageBitmap(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, view.widthPx, view.heightPx))
    return transfer({ bitmap, version: painted }, [bitmap])
  },

  /** Outlines as lines on a clear ground; waits for a drawing that is still on its way. */
  async outlines(request: OutlineRequest): Promise<PaintedOutlines> {
    const { version, strokes, widthPx, heightPx } = request
    if (drawn.version < version) await new Promise<void>((go) => waiting.push({ version, go }))
    const place = drawn.places[strokes[0].node] ?? { x: 0, y: 0 }
    const painted = drawn.version
    const bitmap = await createImageBitmap(new ImageData(outlinePicture(outlines, request, rgbOf), widthPx, heightPx))
    return transfer({ bitmap, version: painted, place }, [bitmap])
  },
}

export type Painter = typeof painter
expose(painter)
