import { DEFAULT_CORNER_DEG, DEFAULT_TOLERANCE_PX, trace } from '@neotaxis/core/outline/trace'
import { compareOutlines } from './accuracy.ts'
import { pairSeconds, type Row, timeRow } from './measure.ts'
import { potraceOn } from './potrace.ts'
import { randomFrom } from './random.ts'
import { glyphPicture, simplePicture } from './shapes.ts'

const MAKERS = { simple: simplePicture, 'glyph-rich': glyphPicture }
const SPECKS_PX = 2

/** Tracing against Debian's bitmap tracer: time and segments at 16 MP, accuracy on shapes of known geometry. */
export async function traceRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const [name, make] of Object.entries(MAKERS)) {
    for (const side of [2000, 4000]) {
      const { picture, truth } = make(side, randomFrom(seed))
      const options = {
        threshold: 0.5,
        channel: 'grey' as const,
        tolerancePx: DEFAULT_TOLERANCE_PX,
        cornerDeg: DEFAULT_CORNER_DEG,
        minAreaPx: SPECKS_PX,
      }
      const reference = potraceOn(picture, SPECKS_PX)
      const label = `trace ${name} ${(side * side) / 1e6} MP`
      rows.push(timeRow(label, await pairSeconds(() => trace(picture, options), reference.run), 0.5))
      if (side === 2000) {
        const paths = trace(picture, options)
        const theirs = reference.paths()
        const a = compareOutlines(paths, truth, side, side)
        const b = compareOutlines(theirs, truth, side, side)
        const segments = (list: readonly { kinds: Uint8Array }[]): number =>
          list.reduce((sum, { kinds }) => sum + kinds.length, 0)
        rows.push({ what: `${label}: RMS error`, ours: a.rms, reference: b.rms, unit: 'px', target: 0.25 })
        rows.push({ what: `${label}: max error`, ours: a.max, reference: b.max, unit: 'px', target: 1 })
        rows.push({ what: `${label}: segments`, ours: segments(paths), reference: segments(theirs), unit: '', target: 1 })
      }
      reference.end()
    }
  }
  return rows
}
