import type { Layer } from '../forecast/layers.ts'
import { type Ring, ringBounds, ringsBounds } from '../geometry/ring.ts'
import { composed, mapped, moving } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'

/** From where to where a layer goes around, mm of the face. */
function reach(layer: Layer): readonly [number, number] {
  if (layer.kind !== 'dots') {
    const rings = layer.kind === 'gone' ? layer.rings : [...layer.kerf, ...layer.rim]
    const { y0, y1 } = ringsBounds(rings as Ring[])
    return [y0, y1]
  }
  const [{ columns, rows }] = layer.pyramid.levels
  const { x0, y0, pitch, toFace, spot, reachMm } = layer
  const more = spot + reachMm
  const [left, right, top, bottom] = [x0 - more, x0 + columns * pitch + more, y0 - more, y0 + rows * pitch + more]
  if (!toFace) return [top, bottom]
  const ys = [mapped(toFace, left, top), mapped(toFace, right, top), mapped(toFace, right, bottom), mapped(toFace, left, bottom)]
  return [Math.min(...ys.map(([, y]) => y)), Math.max(...ys.map(([, y]) => y))]
}

/** A layer moved around, mm. */
function moved(layer: Layer, by: number): Layer {
  const map = moving(0, by)
  const along = (rings: readonly Ring[]): Ring[] => mappedRings(map, rings)
  if (layer.kind === 'dots')
    return layer.toFace ? { ...layer, toFace: composed(layer.toFace, map) } : { ...layer, y0: layer.y0 + by }
  if (layer.kind === 'gone') {
    const rings = along(layer.rings)
    return { ...layer, rings, bounds: rings.map(ringBounds) }
  }
  const [kerf, rim] = [along(layer.kerf), along(layer.rim)]
  return { ...layer, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
}

/**
 * What is burned over the seam of something that turns comes round on the other side of its face: the layer as often as it is seen there.
 * @param around once around, mm: the height of the face
 */
export function comeRound(layer: Layer, around: number): Layer[] {
  const [from, to] = reach(layer)
  if (!Number.isFinite(from) || !Number.isFinite(to)) return [layer]
  const first = Math.floor(from / around)
  const last = Math.ceil(to / around) - 1
  if (first >= 0 && last <= 0) return [layer]
  return Array.from({ length: last - first + 1 }, (_, i) => (first + i === 0 ? layer : moved(layer, -(first + i) * around)))
}
