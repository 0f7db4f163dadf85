import { onForecast, painter } from '../../workers/engine.ts'
import type { StageView } from './stage-view.ts'

const TILE_PX = 256
const KEEP = 400
const AT_ONCE = 2

interface Tile {
  readonly bitmap: ImageBitmap
  version: number
}

/**
 * The forecast in tiles of 256 px at scales of powers of two, painted by the worker. A tile of an older forecast, or
 * of a coarser scale, stands in until its own is there.
 */
export class Tiles {
  private readonly tiles = new Map<string, Tile>()
  private readonly asked = new Set<string>()
  private version = 0
  private wanted: { key: string; level: number; tx: number; ty: number }[] = []
  private underway = 0
  private ended = false
  private readonly stop: () => void
  private readonly onTile: () => void
  private readonly only: readonly string[] | undefined

  /** @param only operations that are burned, default all */
  constructor(onTile: () => void, only?: readonly string[]) {
    this.onTile = onTile
    this.only = only
    this.stop = onForecast((version) => {
      this.version = version
      onTile()
    })
  }

  end(): void {
    this.stop()
    this.ended = true
    this.wanted = []
    for (const { bitmap } of this.tiles.values()) bitmap.close()
    this.tiles.clear()
  }

  /** True when everything in view is painted as it is now. */
  get settled(): boolean {
    return this.version > 0 && this.wanted.length === 0 && this.underway === 0
  }

  /** Draws what the view shows of a workpiece of the given size. The context is in CSS pixels. */
  draw(
    context: CanvasRenderingContext2D,
    view: StageView,
    width: number,
    height: number,
    pixelRatio: number,
    workpiece: { widthMm: number; heightMm: number },
  ): void {
    const level = Math.ceil(Math.log2(view.scale * pixelRatio) - 0.02)
    const size = TILE_PX / 2 ** level
    const x0 = Math.max(0, Math.floor(Math.max(0, view.x) / size))
    const y0 = Math.max(0, Math.floor(Math.max(0, view.y) / size))
    const x1 = Math.ceil(Math.min(workpiece.widthMm, view.x + width / view.scale) / size) - 1
    const y1 = Math.ceil(Math.min(workpiece.heightMm, view.y + height / view.scale) / size) - 1
    this.wanted = []
    const cx = (x0 + x1) / 2
    const cy = (y0 + y1) / 2
    for (let ty = y0; ty <= y1; ty++) {
      for (let tx = x0; tx <= x1; tx++) {
        const key = `${level}/${tx}/${ty}`
        const tile = this.tiles.get(key)
        if (tile) {
          // Most recently used last.
          this.tiles.delete(key)
          this.tiles.set(key, tile)
        }
        if (!tile || tile.version !== this.version) this.wanted.push({ key, level, tx, ty })
        const shown = tile ? { tile, sx: 0, sy: 0, span: TILE_PX } : this.coarser(level, tx, ty)
        if (!shown) continue
        const left = (tx * size - view.x) * view.scale
        const top = (ty * size - view.y) * view.scale
        const side = size * view.scale
        context.drawImage(shown.tile.bitmap, shown.sx, shown.sy, shown.span, shown.span, left, top, side, side)
      }
    }
    this.wanted.sort((a, b) => Math.hypot(b.tx - cx, b.ty - cy) - Math.hypot(a.tx - cx, a.ty - cy))
    this.ask()
  }

  private coarser(level: number, tx: number, ty: number): { tile: Tile; sx: number; sy: number; span: number } | undefined {
    for (let up = 1; up <= 6; up++) {
      const tile = this.tiles.get(`${level - up}/${tx >> up}/${ty >> up}`)
      if (!tile) continue
      const span = TILE_PX / 2 ** up
      return { tile, span, sx: (tx - ((tx >> up) << up)) * span, sy: (ty - ((ty >> up) << up)) * span }
    }
    return undefined
  }

  private ask(): void {
    while (this.underway < AT_ONCE) {
      const next = this.wanted.pop()
      if (!next) return
      if (this.asked.has(next.key)) continue
      this.asked.add(next.key)
      this.underway++
      const pxPerMm = 2 ** next.level
      const size = TILE_PX / pxPerMm
      void painter()
        .tile({ x: next.tx * size, y: next.ty * size, pxPerMm, widthPx: TILE_PX, heightPx: TILE_PX }, this.only)
        .then((made) => {
          if (!made) return
          if (this.ended) {
            made.bitmap.close()
            return
          }
          this.tiles.get(next.key)?.bitmap.close()
          this.tiles.set(next.key, made)
          for (const [key, { bitmap }] of this.tiles) {
            if (this.tiles.size <= KEEP) break
            bitmap.close()
            this.tiles.delete(key)
          }
        })
        .finally(() => {
          this.asked.delete(next.key)
          this.underway--
          this.ask()
          this.onTile()
        })
    }
  }
}
