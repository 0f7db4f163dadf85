import { describe, expect, it } from 'vitest'
import { ViewPicture } from './view-picture.ts'

const view = { x: 10, y: 20, pxPerMm: 2, widthPx: 100, heightPx: 60 }

/** A picture whose paintings are finished by hand. */
function hands() {
  const begun: string[] = []
  const closed: string[] = []
  const finish = new Map<string, () => void>()
  let told = 0
  const picture = new ViewPicture<{ readonly bitmap: ImageBitmap }>(() => {
    told++
  })
  const want = (key: string, painted = key): void =>
    picture.want({
      key,
      view,
      paint: () => {
        begun.push(key)
        const bitmap = { close: () => closed.push(painted) } as unknown as ImageBitmap
        return new Promise((resolve) => finish.set(key, () => resolve({ made: { bitmap }, key: painted })))
      },
    })
  const done = async (key: string): Promise<void> => {
    finish.get(key)!()
    await new Promise((resolve) => setTimeout(resolve))
  }
  return { picture, want, done, begun, closed, told: () => told }
}

describe('a picture that a worker paints', () => {
  it('is wanted once, and settled when it is there', async () => {
    const { picture, want, done, begun, told } = hands()
    want('a')
    want('a')
    expect(picture.settled).toBe(false)
    await done('a')
    expect(picture.settled).toBe(true)
    want('a')
    expect(begun).toEqual(['a'])
    expect(told()).toBe(1)
  })

  it('is the newest of all that was wanted meanwhile; those between are never painted', async () => {
    const { picture, want, done, begun, closed } = hands()
    for (const key of ['a', 'b', 'c', 'd']) want(key)
    await done('a')
    expect(picture.shown?.key).toBe('a')
    expect(picture.settled).toBe(false)
    await done('d')
    expect(begun).toEqual(['a', 'd'])
    expect(picture.shown?.key).toBe('d')
    expect(closed).toEqual(['a'])
    expect(picture.settled).toBe(true)
  })

  it('may be newer than what was asked for', async () => {
    const { picture, want, done, begun } = hands()
    want('1', '2')
    await done('1')
    expect(picture.settled).toBe(true)
    want('2')
    expect(begun).toEqual(['1'])
  })

  it('is drawn where its place is by now, as large as the view makes it', async () => {
    const { picture, want, done } = hands()
    const drawn: number[][] = []
    const context = { drawImage: (_: unknown, ...box: number[]) => drawn.push(box) } as unknown as CanvasRenderingContext2D
    picture.draw(context, { x: 0, y: 0, scale: 2 })
    want('a')
    await done('a')
    picture.draw(context, { x: 0, y: 0, scale: 2 })
    picture.draw(context, { x: 5, y: 0, scale: 4 }, { x: 1, y: -1 })
    expect(drawn).toEqual([
      [20, 40, 100, 60],
      [24, 76, 200, 120],
    ])
  })

  it('lets go of everything at its end, also of what comes later', async () => {
    const { picture, want, done, closed, told } = hands()
    want('a')
    await done('a')
    want('b')
    picture.end()
    expect(closed).toEqual(['a'])
    await done('b')
    expect(closed).toEqual(['a', 'b'])
    want('c')
    expect(picture.shown).toBeUndefined()
    expect(told()).toBe(1)
  })
})
