import { offsets } from '@neotaxis/core'
import { countOption, type Io, lengthOption, readOptions, UsageError, wordOption } from '../io.ts'
import { readDrawing, writeDrawing } from '../outlines.ts'

/** Outlines → offset outlines. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      'distance-mm': { type: 'string' },
      join: { type: 'string' },
      outermost: { type: 'boolean', default: false },
      steps: { type: 'string' },
      both: { type: 'boolean', default: false },
    },
    { min: 1, max: 1, what: 'one SVG file' },
  )
  const distanceMm = lengthOption('distance-mm', values['distance-mm'])
  if (distanceMm === undefined) throw new UsageError('--distance-mm is missing.')
  const join = wordOption('join', values.join, ['round', 'mitre', 'bevel'] as const)
  const { rings, page } = readDrawing(positionals[0], io)
  const { outermost, both } = values
  const steps = countOption('steps', values.steps, 1, 50) ?? 1
  writeDrawing(offsets(rings, distanceMm, { join, outermost, both, steps }), [page], io, values)
  return 0
}
