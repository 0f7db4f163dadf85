import { flattenPath, offset, readSvg, ringLength, ringsBounds, writeSvgRings } from '@neotaxis/core'
import { type Io, lengthOption, readInput, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'

/** Outlines → offset outlines. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { 'distance-mm': { type: 'string' }, join: { type: 'string' }, outermost: { type: 'boolean', default: false } },
    { min: 1, max: 1, what: 'one SVG file' },
  )
  const distanceMm = lengthOption('distance-mm', values['distance-mm'])
  if (distanceMm === undefined) throw new UsageError('--distance-mm is missing.')
  const join = wordOption('join', values.join, ['round', 'mitre', 'bevel'] as const)
  const svg = readSvg(new TextDecoder().decode(readInput(positionals[0])))
  const closed = svg.paths.filter((path) => path.closed)
  if (closed.length === 0) throw new WorkError('The drawing holds no closed outline.')
  const rings = offset(
    closed.map((path) => flattenPath(path, 0.005)),
    distanceMm,
    { join, outermost: values.outermost },
  )
  const box = rings.length ? ringsBounds(rings) : { x0: 0, y0: 0, x1: 1, y1: 1 }
  const x = Math.min(svg.xMm, box.x0)
  const y = Math.min(svg.yMm, box.y0)
  const text = writeSvgRings(
    rings,
    Math.max(svg.xMm + svg.widthMm, box.x1) - x,
    Math.max(svg.yMm + svg.heightMm, box.y1) - y,
    x,
    y,
  )
  if (values.output) writeOutput(values.output, text)
  else if (!values.json) io.out(text)
  const lengthMm = rings.reduce((sum, ring) => sum + ringLength(ring), 0)
  tell(io, values.json, { paths: rings.length, nodes: rings.reduce((sum, ring) => sum + ring.length / 2, 0), lengthMm }, [
    `${rings.length} paths, ${lengthMm.toFixed(1)} mm`,
  ])
  return 0
}
