import type { Layer, Scene } from '../forecast/layers.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import { type Affine, composed, onlyMoves } from '../space/affine.ts'
import type { Chart } from '../space/chart.ts'
import { mappedRings } from '../space/map-shapes.ts'

/**
 * A forecast turned as its workpiece lies in the machine: what a camera above the bed would see, its rows straight. Where the
 * workpiece is not turned it is the forecast itself.
 */
export function sweptScene(scene: Scene, { toSweep, deg }: Pick<Chart, 'toSweep' | 'deg'>): Scene {
  if (deg === 0) return scene
  const turned = (rings: readonly Ring[]): Ring[] => mappedRings(toSweep, rings)
  const { widthMm: w, heightMm: h, outline = [Float64Array.of(0, 0, w, 0, w, h, 0, h)] } = scene
  return { ...scene, outline: turned(outline), layers: scene.layers.map((layer) => sweptLayer(layer, toSweep, turned)) }
}

function sweptLayer(layer: Layer, toSweep: Affine, turned: (rings: readonly Ring[]) => Ring[]): Layer {
  if (layer.kind === 'dots') {
    const { toFace, ...straight } = layer
    const both = toFace ? composed(toFace, toSweep) : toSweep
    const [a, b, c, d] = both.map((v) => Math.round(v * 1e9) / 1e9)
    // There and back is nothing: its rows are the machine's own.
    return onlyMoves([a, b, c, d, 0, 0]) ? straight : { ...straight, toFace: both }
  }
  if (layer.kind === 'gone') {
    const rings = turned(layer.rings)
    return { ...layer, rings, bounds: rings.map(ringBounds) }
  }
  const [kerf, rim] = [turned(layer.kerf), turned(layer.rim)]
  return { ...layer, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
}
