import { describe, expect, it } from 'vitest'
import { MACHINES } from '../material/catalogue.ts'
import { mapped } from '../space/affine.ts'
import { bedToAxes } from '../space/chart.ts'
import type { SeenAt } from './marks.ts'
import { type FieldTable, fieldBend, fieldMarks, fieldMarksSvg, fieldTable } from './scan-field.ts'

const machine = MACHINES.find(({ id }) => id === 'scan-20')!
const SIDE = 110

/** A lens, written otherwise than what is fitted to it: where the beam lands that is sent to a place of the bed. */
const lens = (x: number, y: number): readonly [number, number] => {
  const [u, v] = [x / 55 - 1, y / 55 - 1]
  return [x + 2.6 * u * Math.tan(0.6 * v) ** 2 - 0.2 * v, y - 0.8 * v * Math.sin(u) ** 2 + 0.25 * u + 0.1]
}

/** Marks as they are seen: with an error of a few µm that a seed makes. */
const seenMarks = (noiseMm: number): SeenAt[] => {
  let state = 11
  const draw = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 31 - 1
  }
  return fieldMarks(machine).map((known) => {
    const [x, y] = lens(...known)
    return { known, found: [x + noiseMm * draw(), y + noiseMm * draw()] }
  })
}

/** What a table adds at a place of the bed, straight between its own, mm of the bed. */
function corrected({ points, offsetsUm }: FieldTable, x: number, y: number): readonly [number, number] {
  const [ax, ay] = mapped(bedToAxes(machine), x, y)
  const [i, j] = [ax, ay].map((v) => Math.min(points - 2, Math.floor((v / SIDE) * (points - 1))))
  const [a, b] = [(ax / SIDE) * (points - 1) - i, (ay / SIDE) * (points - 1) - j]
  const node = (di: number, dj: number, c: number): number => offsetsUm[2 * ((j + dj) * points + i + di) + c] / 1000
  const of = (c: number): number =>
    (1 - b) * ((1 - a) * node(0, 0, c) + a * node(1, 0, c)) + b * ((1 - a) * node(0, 1, c) + a * node(1, 1, c))
  const back = bedToAxes(machine)[3]
  return [x + of(0), y + back * of(1)]
}

describe('the field of a scan head', () => {
  it('is marked from edge to edge, as a drawing as large as it', () => {
    const marks = fieldMarks(machine)
    expect(marks).toHaveLength(81)
    expect([Math.min(...marks.map(([x]) => x)), Math.max(...marks.map(([x]) => x))]).toEqual([6, 104])
    expect(fieldMarksSvg(machine).match(/<circle/g)).toHaveLength(81)
    expect(fieldMarksSvg(machine)).toContain('width="110mm"')
  })

  it('is straight after the table that its marks give, to a few hundredths of a mm over all of it', () => {
    const bend = fieldBend(seenMarks(0.01), machine)
    expect(bend.largestMm).toBeGreaterThan(1)
    expect(bend.restMm).toBeLessThan(0.015)
    const table = fieldTable(bend, machine)
    let before = 0
    let after = 0
    for (let x = 0; x <= SIDE; x += 2.5)
      for (let y = 0; y <= SIDE; y += 2.5) {
        const [px, py] = lens(x, y)
        before = Math.max(before, Math.hypot(px - x, py - y))
        const [qx, qy] = lens(...corrected(table, x, y))
        after = Math.max(after, Math.hypot(qx - x, qy - y))
      }
    expect(before).toBeGreaterThan(1.3)
    expect(after).toBeLessThan(0.06)
  })

  it('is not guessed from a few marks', () => {
    const few = seenMarks(0).map((mark, i) => (i % 2 ? { ...mark, found: undefined } : mark))
    expect(() => fieldBend(few, machine)).toThrow('Only 41 of 81 marks are seen')
  })
})
