import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  DESK_EVENTS,
  DESK_STATES,
  DESK_TABLE,
  type DeskEvent,
  type DeskState,
  deskStep,
  isLinked,
  isOwned,
} from './desk-states.ts'

const BEGINS: readonly DeskEvent[] = ['home', 'frame', 'pulse', 'prepare']

/** Where a walk of events leads; what cannot happen changes nothing. */
const walk = (events: readonly DeskEvent[], from: DeskState = 'off'): DeskState =>
  events.reduce<DeskState>((state, event) => deskStep(state, event) ?? state, from)

describe('what can happen at a machine', () => {
  it('begins from rest only, one thing at a time', () => {
    for (const event of BEGINS) expect(DESK_STATES.filter((state) => deskStep(state, event) !== undefined)).toEqual(['idle'])
    expect(DESK_STATES.filter((state) => deskStep(state, 'jog') !== undefined)).toEqual(['idle', 'jogging'])
  })

  it('can be stopped whatever it is, as long as it belongs to somebody', () => {
    for (const state of DESK_STATES.filter(isOwned)) {
      const next = deskStep(state, 'stop')
      // Stopping lasts until the machine has said that it stands; where nothing was sent, or nobody can tell it, it is over at once.
      expect(next, state).toBe(state === 'preparing' ? 'idle' : state === 'looking' ? 'lost' : 'stopping')
    }
    expect(Object.keys(DESK_TABLE.stopping).sort()).toEqual(['gone', 'halted', 'halting', 'over', 'stop'])
  })

  it('never goes from stopping to anything but rest, or a lost connection', () => {
    for (const event of DESK_EVENTS) {
      const next = deskStep('stopping', event)
      expect([undefined, 'stopping', 'idle', 'lost']).toContain(next)
    }
  })

  it('lets no run begin that was not prepared, nor burn that was not begun', () => {
    for (const state of DESK_STATES) {
      if (deskStep(state, 'prepared') !== undefined) expect(state).toBe('preparing')
      if (deskStep(state, 'begun') !== undefined) expect(state).toBe('starting')
      for (const event of DESK_EVENTS)
        if (deskStep(state, event) === 'running' && event === 'resumed')
          expect(['running', 'holding', 'looking']).toContain(state)
    }
  })

  it('is not disconnected in the middle of anything', () => {
    for (const state of DESK_STATES) if (isOwned(state)) expect(deskStep(state, 'disconnect')).toBeUndefined()
    for (const state of DESK_STATES) if (isLinked(state)) expect(deskStep(state, 'gone')).toBe('lost')
  })

  it('reaches every state, and comes back to rest from each', () => {
    const seen = new Set<DeskState>(['off'])
    for (const state of seen)
      for (const event of DESK_EVENTS) {
        const next = deskStep(state, event)
        if (next) seen.add(next)
      }
    expect([...seen].sort()).toEqual([...DESK_STATES].sort())
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...DESK_EVENTS), { maxLength: 60 }), (events) => {
        expect(walk(['stop', 'halted', 'over', 'done', 'gone', 'connect', 'reached'], walk(events))).toBe('idle')
      }),
      { numRuns: 1000 },
    )
  })
})
