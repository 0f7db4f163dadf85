import { combine, splitBy } from '@neotaxis/core'
import { type Io, readOptions, UsageError, wordOption } from '../io.ts'
import { readDrawing, writeDrawing } from '../outlines.ts'

/** Two drawings → their union, difference, intersection, what only one of them covers, or the first one parted by lines of the other. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, { op: { type: 'string' } }, { min: 2, max: 2, what: 'two SVG files' })
  const operation = wordOption('op', values.op, ['union', 'subtract', 'intersect', 'exclude', 'split'] as const)
  if (!operation) throw new UsageError('say how with --op union, subtract, intersect, exclude or split.')
  const a = readDrawing(positionals[0], io)
  const b = readDrawing(positionals[1], io, { open: operation === 'split' })
  writeDrawing(
    operation === 'split' ? splitBy(a.rings, b.lines) : combine(operation, a.rings, b.rings),
    [a.page, b.page],
    io,
    values,
  )
  return 0
}
