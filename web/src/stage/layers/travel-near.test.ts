// By itself only the travel near the playhead is seen.
import { describe, expect, it } from 'vitest'
import { travelNear } from './travel-near.ts'

/** A run of moves, told by whether the beam is on. */
const run = (moves: string) => ({ s: Float64Array.from(moves, (move) => (move === 'b' ? 500 : 0)), count: moves.length }) as never
const moves = (track: never, at: number): number[] => travelNear(track, at).map(({ move }) => move)

describe('travel near the playhead', () => {
  it('is what lies behind the head and what comes next, burning moves left out', () => {
    expect(moves(run('tbbtbt'), 3)).toEqual([3, 0, 5])
    expect(moves(run('bbbb'), 2)).toEqual([])
  })

  it('is a few moves only, paler the farther they are, however long the run', () => {
    const found = travelNear(run('tb'.repeat(50_000)), 40_000)
    expect(found).toHaveLength(9)
    const behind = found.slice(0, 6).map(({ near }) => near)
    expect(behind).toEqual([...behind].sort((a, b) => b - a))
    expect(behind[0]).toBe(1)
    expect(found.every(({ near }) => near > 0 && near <= 1)).toBe(true)
  })

  it('does not look through a whole picture for a move that is not near', () => {
    expect(moves(run(`t${'b'.repeat(10_000)}`), 9000)).toEqual([])
    expect(moves(run('tt'), 5)).toEqual([1, 0])
  })
})
