import { describe, expect, it } from 'vitest'
import { PaintAhead } from './paint-ahead.ts'

interface View {
  readonly of: string
  readonly at: number
}

function ahead() {
  const painted: string[] = []
  const closed: string[] = []
  const made = new PaintAhead<View, { bitmap: ImageBitmap }>((a, b) => a.of === b.of && a.at === b.at)
  let version = 0
  const paint = async ({ of, at }: View) => {
    const says = `${of}${at} v${version}`
    painted.push(says)
    return { bitmap: { says, close: () => closed.push(says) } as unknown as ImageBitmap }
  }
  return {
    painted,
    closed,
    change: (touched: (view: View) => boolean = () => true) => {
      version++
      made.changed(touched, paint)
    },
    ask: async (of: string, at: number) => {
      const found = await made.asked({ of, at })
      return found && (found.bitmap as unknown as { says: string }).says
    },
  }
}

describe('painting ahead', () => {
  it('has nothing until somebody has looked', async () => {
    const { ask, change, painted } = ahead()
    change()
    expect(await ask('a', 1)).toBeUndefined()
    expect(painted).toEqual([])
  })

  it('has what was looked at as it is now, for one question', async () => {
    const { ask, change, painted } = ahead()
    await ask('a', 1)
    change()
    expect(painted).toEqual(['a1 v1'])
    expect(await ask('a', 1)).toBe('a1 v1')
    expect(await ask('a', 1)).toBeUndefined()
  })

  it('leaves alone what a change does not touch', async () => {
    const { ask, change, painted } = ahead()
    await ask('a', 1)
    await ask('b', 1)
    change(({ of }) => of === 'b')
    expect(painted).toEqual(['b1 v1'])
    expect(await ask('a', 1)).toBeUndefined()
    expect(await ask('b', 1)).toBe('b1 v1')
  })

  it('knows only the last two views', async () => {
    const { ask, change, painted } = ahead()
    for (const at of [1, 2, 3]) await ask('a', at)
    change()
    expect(painted.sort()).toEqual(['a2 v1', 'a3 v1'])
  })

  it('forgets, and closes, what nobody asked for until the next change', async () => {
    const { ask, change, painted, closed } = ahead()
    await ask('a', 1)
    await ask('a', 2)
    change()
    expect(await ask('a', 2)).toBe('a2 v1')
    change()
    await expect.poll(() => closed).toEqual(['a1 v1'])
    expect(painted).toEqual(['a2 v1', 'a1 v1', 'a2 v2'])
    expect(await ask('a', 1)).toBeUndefined()
    expect(await ask('a', 2)).toBe('a2 v2')
  })
})
