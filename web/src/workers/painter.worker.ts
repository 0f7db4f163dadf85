import { paintForecast, type Scene, type View } from '@neotaxis/core'
import { expose, transfer } from 'comlink'
import { holdLife } from './life-lock.ts'
import { OutlinePainter } from './outline-painter.ts'
import { outlinePicture } from './outline-picture.ts'
import { PaintAhead } from './paint-ahead.ts'
import type { OutlineRequest, PaintedForecast, PaintedOutlines, ToPainter } from './shared.ts'

let scene: Scene | undefined
let others: Readonly<Record<string, Scene>> = {}
let aside: Scene['layers'] = []
let version = 0
let changed: ((version: number) => void) | undefined

interface Asked {
  readonly view: View
  readonly only: readonly string[] | undefined
  /** Another workpiece than the one that is looked at. */
  readonly piece: string | undefined
}

const views = new PaintAhead<Asked, PaintedForecast>((a, b) => JSON.stringify(a) === JSON.stringify(b))

/** Of a workpiece that is gone since. */
const EMPTY: Scene = {
  widthMm: 1,
  heightMm: 1,
  look: { surface: [0, 0, 0], grain: [0, 0, 0], burn: [0, 0, 0], edge: [0, 0, 0], kind: 'plain' },
  layers: [],
}

/** What is asked for of the newest forecast. */
async function painted({ view, only, piece }: Asked): Promise<PaintedForecast> {
  const now = version
  const seen = piece === undefined ? scene! : (others[piece] ?? EMPTY)
  const { layers } = seen
  const shown = only ? [...layers, ...aside].filter(({ operation }) => only.includes(operation)) : layers
  const rgba = paintForecast({ ...seen, layers: shown }, view)
  const bitmap = await createImageBitmap(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, view.widthPx, view.heightPx))
  return { bitmap, version: now }
}

const outlines = new OutlinePainter((request, rings) => {
  const { widthPx, heightPx } = request
  return createImageBitmap(new ImageData(outlinePicture(rings, request, rgbOf), widthPx, heightPx))
})

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

const painter = {
  /**
   * @param port where the engine sends what to paint @param onChange told when there is a new forecast to paint
   * @param life a lock to be held as long as this worker lives
   */
  connect(port: MessagePort, onChange: (version: number) => void, life: string): void {
    holdLife(life)
    changed = onChange
    port.onmessage = ({ data }: MessageEvent<ToPainter>) => {
      if (data.kind === 'outlines') {
        outlines.take(data)
        return
      }
      scene = data.scene
      others = data.others
      aside = data.aside
      version = data.version
      changed?.(version)
      views.changed(() => true, painted)
    }
  },

  /**
   * A part of the forecast; undefined before the first. @param only operations that are burned, default all that run
   * @param piece another workpiece than the one that is looked at
   */
  async forecast(view: View, only?: readonly string[], piece?: string): Promise<PaintedForecast | undefined> {
    if (!scene || (piece !== undefined && !others[piece])) return undefined
    const asked = { view, only, piece }
    const made = await (views.asked(asked) ?? painted(asked))
    return transfer(made, [made.bitmap])
  },

  /** Outlines as lines on a clear ground; waits for a drawing that is still on its way. */
  async outlines(request: OutlineRequest): Promise<PaintedOutlines> {
    const made = await outlines.picture(request)
    return transfer(made, [made.bitmap])
  },
}

export type Painter = typeof painter
expose(painter)
