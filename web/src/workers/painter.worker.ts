import { paintForecast, type Scene, type View } from '@neotaxis/core'
import { expose, transfer } from 'comlink'
import type { ToPainter } from './shared.ts'

let scene: Scene | undefined
let aside: Scene['layers'] = []
let version = 0
let changed: ((version: number) => void) | undefined

const painter = {
  /** @param port where the engine sends what to paint @param onChange told when there is something new to paint */
  connect(port: MessagePort, onChange: (version: number) => void): void {
    changed = onChange
    port.onmessage = ({ data }: MessageEvent<ToPainter>) => {
      scene = data.scene
      aside = data.aside
      version = data.version
      changed?.(version)
    }
  },

  /** One tile of the forecast, and the version of the scene it shows. @param only operations that are burned, default all that run */
  async tile(view: View, only?: readonly string[]): Promise<{ bitmap: ImageBitmap; version: number } | undefined> {
    if (!scene) return undefined
    const painted = version
    const shown = only
      ? { ...scene, layers: [...scene.layers, ...aside].filter(({ operation }) => only.includes(operation)) }
      : scene
    const rgba = paintForecast(shown, view)
    const bitmap = await createImageBitmap(new ImageData(rgba as Uint8ClampedArray<ArrayBuffer>, view.widthPx, view.heightPx))
    return transfer({ bitmap, version: painted }, [bitmap])
  },
}

export type Painter = typeof painter
expose(painter)
