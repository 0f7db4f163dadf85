import { combine } from '@neotaxis/core'
import { type Io, readOptions, UsageError, wordOption } from '../io.ts'
import { readDrawing, writeDrawing } from '../outlines.ts'

/** Two drawings → their union, difference, intersection, or what only one of them covers. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, { op: { type: 'string' } }, { min: 2, max: 2, what: 'two SVG files' })
  const operation = wordOption('op', values.op, ['union', 'subtract', 'intersect', 'exclude'] as const)
  if (!operation) throw new UsageError('say how with --op union, subtract, intersect or exclude.')
  const [a, b] = positionals.map((path) => readDrawing(path, io))
  writeDrawing(combine(operation, a.rings, b.rings), [a.page, b.page], io, values)
  return 0
}
