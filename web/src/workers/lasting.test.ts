import { expect, it, vi } from 'vitest'
import { Lasting, type Mortal } from './lasting.ts'

/** Workers that can be killed. */
function workshop() {
  const made: { kill: () => void; ended: boolean; asked: number }[] = []
  const make = (): Mortal<number> => {
    let kill = (): void => {}
    const died = new Promise<void>((resolve) => {
      kill = resolve
    })
    const one = { kill: () => kill(), ended: false, asked: 0 }
    made.push(one)
    return {
      at: made.length - 1,
      died,
      end: () => {
        one.ended = true
      },
    }
  }
  return { made, make }
}

it('one that dies at work is replaced, the work is done again, and it is told once', async () => {
  const { made, make } = workshop()
  const onDeath = vi.fn()
  const lasting = new Lasting(make, onDeath)
  const answer = lasting.ask((at) => (at === 0 ? new Promise<string>(() => {}) : Promise.resolve(`done by ${at}`)))
  const beside = lasting.ask((at) => (at === 0 ? new Promise<number>(() => {}) : Promise.resolve(at)))
  made[0].kill()
  expect(await answer).toBe('done by 1')
  expect(await beside).toBe(1)
  expect(onDeath).toHaveBeenCalledTimes(1)
  expect(made.map(({ ended }) => ended)).toEqual([true, false])
  expect(lasting.now).toBe(1)
})

it('one that dies at rest is replaced when the next work comes', async () => {
  const { made, make } = workshop()
  const lasting = new Lasting(make, () => {})
  expect(await lasting.ask(async (at) => at)).toBe(0)
  made[0].kill()
  await Promise.resolve()
  expect(await lasting.ask(async (at) => at)).toBe(1)
})

it('work that kills every one of them ends with a sentence; what it throws itself is thrown', async () => {
  const { made, make } = workshop()
  const lasting = new Lasting(make, () => {})
  const deadly = lasting.ask((at) => {
    setTimeout(() => made[at].kill())
    return new Promise<never>(() => {})
  })
  await expect(deadly).rejects.toThrow('computing stopped each time')
  expect(made).toHaveLength(3)
  await expect(lasting.ask(() => Promise.reject(new Error('No picture.')))).rejects.toThrow('No picture.')
  expect(made).toHaveLength(4)
})
