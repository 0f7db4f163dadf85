import { DESK_STATES, type DeskState } from '@neotaxis/contract'

/**
 * What happens at a machine, one thing at a time.
 * off: not connected, nobody wants it · connecting · lost: the connection is gone and looked for · idle · homing · jogging · framing ·
 * pulsing · preparing: a run's program is made, the machine is kept for it · starting: its first lines go out · running (armed too) ·
 * holding: it stands in the middle · looking: a run's connection is gone and looked for · stopping: until the machine says it stands.
 */
export { DESK_STATES, type DeskState }

/** What can happen: asked for by somebody, or told by the machine. */
export const DESK_EVENTS = [
  // asked for
  'connect',
  'disconnect',
  'home',
  'jog',
  'frame',
  'pulse',
  'prepare',
  'stop',
  // told
  'reached',
  'failed',
  'gone',
  'done',
  'prepared',
  'begun',
  'held',
  'resumed',
  'away',
  'halting',
  'over',
  'halted',
] as const
export type DeskEvent = (typeof DESK_EVENTS)[number]

type Row = Partial<Record<DeskEvent, DeskState>>

const byHand: Row = { done: 'idle', stop: 'stopping', gone: 'lost' }

/** A run that is on the machine. `over` is told when its end is sure. */
const onMachine: Row = {
  resumed: 'running',
  held: 'holding',
  away: 'looking',
  halting: 'stopping',
  over: 'idle',
  stop: 'stopping',
  gone: 'lost',
}

/**
 * The whole of it. What is not here cannot happen: something new is begun from `idle` only, and whatever can be busy can be
 * stopped. While a program is prepared nothing was sent to the machine yet: a stop ends that at once.
 */
export const DESK_TABLE: Readonly<Record<DeskState, Row>> = {
  off: { connect: 'connecting' },
  connecting: { reached: 'idle', failed: 'lost', disconnect: 'off', gone: 'lost' },
  lost: { connect: 'connecting', disconnect: 'off' },
  idle: {
    home: 'homing',
    jog: 'jogging',
    frame: 'framing',
    pulse: 'pulsing',
    prepare: 'preparing',
    stop: 'stopping',
    disconnect: 'off',
    gone: 'lost',
  },
  homing: byHand,
  jogging: { ...byHand, jog: 'jogging' },
  framing: byHand,
  pulsing: byHand,
  preparing: { prepared: 'starting', done: 'idle', stop: 'idle', gone: 'lost' },
  starting: { begun: 'running', done: 'idle', stop: 'stopping', gone: 'lost' },
  running: onMachine,
  holding: onMachine,
  looking: { ...onMachine, stop: 'lost', over: 'lost' },
  stopping: { halted: 'idle', over: 'idle', gone: 'lost', stop: 'stopping', halting: 'stopping' },
}

const FREE: readonly DeskState[] = ['off', 'connecting', 'lost', 'idle']

/** Whether the machine belongs to one operator now. */
export const isOwned = (state: DeskState): boolean => !FREE.includes(state)

/** States in which a connection stands. */
export const isLinked = (state: DeskState): boolean => !['off', 'connecting', 'lost', 'looking'].includes(state)

/** Where an event leads; undefined where it cannot happen now. */
export const deskStep = (state: DeskState, event: DeskEvent): DeskState | undefined => DESK_TABLE[state][event]
