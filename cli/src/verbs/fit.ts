import { cosSin, fit, type Ring, ringsBounds } from '@neotaxis/core'
import { anglesOption, type Io, lengthOption, readOptions, WorkError } from '../io.ts'
import { readDrawing, writeDrawing } from '../outlines.ts'

/**
 * A shape and what it must lie in → the largest scale, the angle and the place at which it does. `x` and `y` are where the shape's own
 * origin comes to lie: `translate(x y) rotate(angleDeg) scale(scale)` lays its drawing there.
 */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { 'margin-mm': { type: 'string' }, angles: { type: 'string' }, 'no-scale': { type: 'boolean', default: false } },
    { min: 2, max: 2, what: 'two SVG files: the shape, and what it must lie in' },
  )
  const marginMm = lengthOption('margin-mm', values['margin-mm']) ?? 0
  const angles = anglesOption('angles', values.angles)
  const shape = readDrawing(positionals[0], io)
  const into = readDrawing(positionals[1], io)
  const found = fit(shape.rings, into.rings, {
    marginMm,
    angles: angles === 'any' ? undefined : angles,
    mayScale: !values['no-scale'],
  })
  if ('fits' in found) throw new WorkError(found.message)
  const { scale, angleDeg } = found
  const [cos, sin] = cosSin(angleDeg)
  const { x0, y0, x1, y1 } = ringsBounds(shape.rings)
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2]
  const x = found.x - scale * (cos * mx - sin * my)
  const y = found.y - scale * (sin * mx + cos * my)
  const laid = shape.rings.map((ring): Ring => {
    const out = new Float64Array(ring.length)
    for (let i = 0; i < ring.length; i += 2) {
      out[i] = x + scale * (cos * ring[i] - sin * ring[i + 1])
      out[i + 1] = y + scale * (sin * ring[i] + cos * ring[i + 1])
    }
    return out
  })
  const told = { scale, angleDeg, x, y, marginMm }
  writeDrawing(laid, [into.page], io, values, told, [
    `${(100 * scale).toFixed(2)} % of its size, turned by ${angleDeg.toFixed(2)}°`,
  ])
  return 0
}
