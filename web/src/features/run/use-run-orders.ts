import type { RunLive } from '@neotaxis/contract'
import { burnOrder, chartOf, focusMm, type JobDocument, mapped } from '@neotaxis/core'
import { useRef } from 'react'
import { machineOrders, runOrders } from '../../api/orders.ts'
import { store } from '../../store/store.ts'
import { settled } from '../bar/save-files.ts'
import type { FrameHow } from './Framing.tsx'
import type { Hand, HandSaid, Pressed } from './run-screen.ts'
import { useDoing } from './use-doing.ts'

/** By which the end of a run is marked as seen to. */
export const FINISHED = 'finished'

interface Options {
  readonly id: string
  readonly job: JobDocument
  readonly hand: Hand
  readonly say: (said: HandSaid) => void
  readonly mine: RunLive | null
  /** The run that what runs again belongs to. */
  readonly again: string | undefined
  readonly how: FrameHow
  /** What the machine does before it starts, without its beam. */
  readonly first: { readonly homes: boolean; readonly focuses: boolean }
}

/** What the run screen has done, by the button that was pressed; what goes wrong is told in a sentence. */
export function useRunOrders({ id, job, hand, say, mine, again, how, first }: Options) {
  const doing = useDoing()
  const machine = job.machine.id
  const { pieces, zone } = hand.part
  const where = { ...(pieces && { pieces }), ...(zone && { zone }) }
  const only = hand.chosen.length < burnOrder(job).length ? { only: hand.chosen } : {}

  // A start that homes and focuses first: Stop ends it at any moment, also between its orders.
  const underWay = useRef<{ stopped: boolean } | null>(null)
  const getReady = async (): Promise<void> => {
    const now = { stopped: false }
    underWay.current = now
    try {
      await machineOrders.getReady(machine, { ...(first.focuses && { z: focusMm(job) }), speedMmS: 8 })
      if (now.stopped) throw new Error('It was stopped: nothing was started.')
    } finally {
      underWay.current = null
    }
    if (first.focuses) say({ type: 'answered', item: 'focus', yes: true })
  }
  const start = (armed: boolean): void =>
    void doing(async () => {
      await settled()
      if (first.homes || first.focuses) await getReady()
      const { revision } = store.getState().job
      await machineOrders.start(machine, {
        jobId: id,
        revision,
        ...only,
        ...hand.part,
        armed,
        answers: [...hand.answers, ...(first.focuses ? ['focus'] : [])],
        parentId: null,
      })
      say({ type: 'started' })
    })
  const startAgain = (): void =>
    void doing(async () => {
      if (again === undefined) return
      await settled()
      const { revision } = store.getState().job
      const changes = hand.again
      const wish = { jobId: id, revision, only: Object.keys(changes), changes, armed: false, answers: [], parentId: again }
      await machineOrders.start(machine, wish)
      say({ type: 'started' })
    })
  const finish = (run: RunLive): void =>
    void doing(async () => {
      await runOrders.change(run.id, { closing: { [FINISHED]: true } })
      say({ type: 'finished', run: run.id })
    })
  const stop = (): void => {
    if (underWay.current) underWay.current.stopped = true
    void doing(() => machineOrders.stop(machine))
  }

  const orders: Record<Pressed, () => void> = {
    frame: () => void doing(() => machineOrders.frame(machine, { ...how, jobId: id, ...only, ...where })),
    start: () => start(false),
    arm: () => start(true),
    hold: () => mine && void doing(() => runOrders.hold(mine.id)),
    resume: () =>
      mine &&
      void doing(async () => {
        await runOrders.resume(mine.id, [...hand.answers])
        // What was confirmed was confirmed for this set-up.
        say({ type: 'went on' })
      }),
    stop,
    again: startAgain,
    sure: () => say({ type: 'sure' }),
    finish: () => mine && finish(mine),
  }
  return {
    /** What was left of a run that ended early is what runs next: the piece may be taken out and found again before that. */
    later: (run: RunLive, fromSeconds: number): void =>
      void doing(async () => {
        await runOrders.change(run.id, { closing: { [FINISHED]: true } })
        say({ type: 'finished', run: run.id })
        say({ type: 'part', part: { fromSeconds } })
      }),
    press: (does: Pressed): void => orders[does](),
    /** Whether it is on its way to a start, also between two orders to the machine. */
    isStarting: (): boolean => underWay.current !== null,
    /** Shows the place of the beam, or ends that. */
    pulse: (power: number, isOn: boolean): void => (isOn ? stop() : void doing(() => machineOrders.pulse(machine, power, 600))),
    /** Moves the head to a place of the face, mm. */
    go: (x: number, y: number): void => {
      const [mx, my] = mapped(chartOf(job).toAxes, x, y)
      void doing(() => machineOrders.go(machine, { x: mx, y: my, speedMmS: 120 }))
    },
    /** Moves the head to the focus; that is set when it got there. */
    focus: (): void =>
      void doing(() => machineOrders.go(machine, { z: focusMm(job), speedMmS: 8 })).then(
        (done) => done && say({ type: 'answered', item: 'focus', yes: true }),
      ),
  }
}
