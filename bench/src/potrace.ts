import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CUBIC, LINE, type Path } from '@neotaxis/core/geometry/path'
import type { GreyPicture } from '@neotaxis/core/picture/picture'
import { SVGPathData } from 'svg-pathdata'

/** Debian's bitmap tracer as reference, ready to run on a picture as PGM file; its outlines are in pixels. */
export function potraceOn(picture: GreyPicture, turd: number) {
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-bench-'))
  const input = join(folder, 'in.pgm')
  const output = join(folder, 'out.svg')
  const head = Buffer.from(`P5\n${picture.widthPx} ${picture.heightPx}\n255\n`)
  writeFileSync(input, Buffer.concat([head, Buffer.from(picture.samples.buffer)]))
  return {
    run: () => execFileSync('potrace', ['-b', 'svg', '-k', '0.5', '-t', String(turd), '-u', '1000', '-o', output, input]),
    paths: () => readSvgPaths(readFileSync(output, 'utf8'), picture.heightPx),
    end: () => rmSync(folder, { recursive: true, force: true }),
  }
}

function readSvgPaths(svg: string, height: number): Path[] {
  const scale = Number(/scale\(([\d.]+),-/.exec(svg)?.[1] ?? 1)
  const paths: Path[] = []
  for (const [, d] of svg.matchAll(/<path d="([^"]+)"/g)) {
    let kinds: number[] = []
    let points: number[] = []
    const end = () => {
      if (kinds.length > 0) paths.push({ closed: true, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) })
      kinds = []
    }
    const put = (x: number, y: number) => points.push(x * scale, height - y * scale)
    for (const c of new SVGPathData(d).toAbs().normalizeHVZ().commands) {
      if (c.type === SVGPathData.MOVE_TO) {
        end()
        points = []
        put(c.x, c.y)
      } else if (c.type === SVGPathData.LINE_TO) {
        kinds.push(LINE)
        put(c.x, c.y)
      } else if (c.type === SVGPathData.CURVE_TO) {
        kinds.push(CUBIC)
        put(c.x1, c.y1)
        put(c.x2, c.y2)
        put(c.x, c.y)
      }
    }
    end()
  }
  return paths
}
