import { describe, expect, it } from 'vitest'
import { OutlinePainter } from './outline-painter.ts'
import { packRings } from './packed-rings.ts'
import type { OutlineRequest } from './shared.ts'

const ring = (side: number): Float64Array => Float64Array.of(0, 0, side, 0, side, side)
const news = (version: number, fresh: Record<string, number>, nodes = ['a', 'b']) => ({
  kind: 'outlines' as const,
  version,
  fresh: Object.fromEntries(Object.entries(fresh).map(([id, side]) => [id, packRings([ring(side)])])),
  places: Object.fromEntries(nodes.map((id) => [id, { x: version, y: 0 }])),
})
const request = (version: number, node = 'a'): OutlineRequest => ({
  version,
  strokes: [{ node, colour: 'dark', widthPx: 2 }],
  x: 0,
  y: 0,
  pxPerMm: 2,
  widthPx: 20,
  heightPx: 20,
  ratio: 1,
})

/** A painter whose pictures say how large the outline on them is. */
function painter() {
  const painted: string[] = []
  const closed: string[] = []
  const made = new OutlinePainter(async ({ strokes: [{ node }] }, outlines) => {
    const says = `${node}${outlines.get(node)?.[0]?.[2] ?? '-'}`
    painted.push(says)
    return { says, close: () => closed.push(says) } as unknown as ImageBitmap
  })
  const asked = async (what: OutlineRequest) => {
    const { bitmap, version, place } = await made.picture(what)
    return { says: (bitmap as unknown as { says: string }).says, version, x: place.x }
  }
  return { made, asked, painted, closed }
}

describe('pictures of outlines', () => {
  it('wait for the drawing that they are of', async () => {
    const { made, asked } = painter()
    const picture = asked(request(1))
    made.take(news(1, { a: 3 }))
    expect(await picture).toEqual({ says: 'a3', version: 1, x: 1 })
  })

  it('are of the newest drawing, and say which one their outlines came with', async () => {
    const { made, asked } = painter()
    made.take(news(1, { a: 3, b: 4 }))
    made.take(news(2, { b: 5 }))
    expect(await asked(request(1, 'a'))).toEqual({ says: 'a3', version: 1, x: 2 })
    expect(await asked(request(2, 'b'))).toEqual({ says: 'b5', version: 2, x: 2 })
  })

  it('are painted before they are asked for where somebody looks, once', async () => {
    const { made, asked, painted } = painter()
    made.take(news(1, { a: 3, b: 4 }))
    await asked(request(1))
    made.take(news(2, { b: 5 }))
    expect(painted).toEqual(['a3'])
    made.take(news(3, { a: 6 }))
    expect(painted).toEqual(['a3', 'a6'])
    expect(await asked(request(3))).toEqual({ says: 'a6', version: 3, x: 3 })
    expect(painted).toEqual(['a3', 'a6'])
  })

  it('that nobody asks for are let go, and not painted again', async () => {
    const { made, asked, painted, closed } = painter()
    made.take(news(1, { a: 1 }))
    await asked(request(1))
    made.take(news(2, { a: 2 }))
    made.take(news(3, { a: 3 }))
    await Promise.resolve()
    await Promise.resolve()
    expect(painted).toEqual(['a1', 'a2'])
    expect(await asked(request(3))).toEqual({ says: 'a3', version: 3, x: 3 })
    expect(closed).toEqual(['a2'])
  })

  it('have nothing on them where an outline is gone', async () => {
    const { made, asked } = painter()
    made.take(news(1, { a: 1, b: 1 }))
    made.take(news(2, {}, ['b']))
    expect((await asked(request(1))).says).toBe('a-')
  })
})
