import { describe, expect, it } from 'vitest'
import { Bed } from './bed.ts'
import { Machine } from './machine.ts'
import { attendMachine } from './serve.ts'
import { TRUTHS } from './truth.ts'

const truth = TRUTHS['scan-20']

/** A scan head with a client that says lines and hears what is answered. */
function attended() {
  const machine = new Machine(truth, new Bed(110, 110, 0.1, 0.1))
  const heard: string[] = []
  const front = attendMachine(machine, { pace: Infinity })
  const client = front.connect({ write: (text) => void heard.push(...text.trim().split('\n')), destroy: () => {} })!
  const say = (line: string): string => {
    client.data(`${line}\n`)
    return heard.at(-1) ?? ''
  }
  return { machine, say, end: () => front.end(), heard }
}

describe('the lens of a scan head', () => {
  it('bends its field, always the same way for a seed, by as much as is said', () => {
    const { machine, end } = attended()
    machine.field!.lens({ mm: 1.2, seed: 5 })
    const offs = Array.from({ length: 121 }, (_, i) => {
      const [x, y] = [11 * (i % 11), 11 * Math.floor(i / 11)]
      const [bx, by] = machine.field!.place(x, y)
      return Math.hypot(bx - x, by - y)
    })
    expect(Math.max(...offs)).toBeCloseTo(1.2, 1)
    const again = attended()
    again.machine.field!.lens({ mm: 1.2, seed: 5 })
    expect(again.machine.field!.place(10, 90)).toEqual(machine.field!.place(10, 90))
    end()
    again.end()
  })

  it('burns beside the place that was meant, and on it with a table; half of a table is none', () => {
    const { machine, say, end } = attended()
    machine.field!.lens({ mm: 2, seed: 3 })
    const [bx, by] = machine.field!.place(100, 100)
    expect(Math.hypot(bx - 100, by - 100)).toBeGreaterThan(0.5)
    expect(say('field 2')).toBe('ok')
    // Everywhere as much as it is off there: enough near that place.
    const back = `${Math.round(1000 * (100 - bx))} ${Math.round(1000 * (100 - by))}`
    expect(say(`nodes 0 ${back} ${back}`)).toBe('ok')
    expect(machine.field!.place(100, 100)).toEqual([bx, by])
    expect(say(`nodes 2 ${back} ${back}`)).toBe('ok')
    const [cx, cy] = machine.field!.place(100, 100)
    expect(Math.hypot(cx - 100, cy - 100)).toBeLessThan(0.1)
    expect(say('field 0')).toBe('ok')
    expect(machine.field!.place(100, 100)).toEqual([bx, by])
    end()
  })

  it.each(['field 1', 'field 99', 'field x', 'nodes 0 1 2', 'nodes 4 1 2'])('refuses “%s”, and stays as it is', (line) => {
    const { machine, say, end } = attended()
    if (line.startsWith('nodes 4')) say('field 2')
    expect(say(line)).toContain('error:1')
    expect(machine.field!.isStraight).toBe(true)
    end()
  })

  it('is no matter of a machine with a gantry', () => {
    const machine = new Machine(TRUTHS['bench-60'])
    expect(machine.field).toBeUndefined()
    expect(() => machine.correct(undefined)).toThrow()
  })
})
