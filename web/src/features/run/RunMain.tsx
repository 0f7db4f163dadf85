import { Box, Button } from '@mui/material'
import type { DeskLive, Look, RunLive } from '@neotaxis/contract'
import {
  burnOrder,
  chartOf,
  formatDuration,
  type JobDocument,
  jobForRun,
  mainPiece,
  mapped,
  preflight,
  type RunChange,
} from '@neotaxis/core'
import { useEffect, useMemo, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { machineOrders, runOrders } from '../../api/orders.ts'
import { useRunQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { useSelector } from '../../store/hooks.ts'
import { store } from '../../store/store.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { settled } from '../bar/save-files.ts'
import { JobStage } from '../compose/JobStage.tsx'
import { isBusy, isLinked } from '../live/desk-words.ts'
import { leaveMoment, setMoment } from '../rehearsal/moment.ts'
import { useEdit } from '../use-edit.ts'
import { BurnCard } from './BurnCard.tsx'
import { ClosingList, openClosing } from './ClosingList.tsx'
import { Connection } from './Connection.tsx'
import { Countdown } from './Countdown.tsx'
import { FirstConnection } from './FirstConnection.tsx'
import { FlareCard } from './FlareCard.tsx'
import { FRAME_START, Framing } from './Framing.tsx'
import { HeadControls } from './HeadControls.tsx'
import { LookList } from './LookList.tsx'
import { MachineWord } from './MachineWord.tsx'
import { Nudge } from './Nudge.tsx'
import { PreflightList } from './PreflightList.tsx'
import { RunButtons } from './RunButtons.tsx'
import { RunStrip } from './RunStrip.tsx'
import { RunWord } from './RunWord.tsx'
import { missingBeforeStart } from './readiness.ts'
import { SimulatedPanel } from './SimulatedPanel.tsx'
import { useDoing } from './use-doing.ts'

const ENDED = ['done', 'stopped', 'refused', 'lost']
/** Until what was burned is there it is looked for so often, ms. */
const LOOK_AGAIN_MS = 700
const FINISHED = 'finished'

interface Props {
  readonly id: string
  readonly job: JobDocument
  readonly desk: DeskLive
}

/** The run of one job on its machine, from the list before the start to the list after the end. */
export function RunMain({ id, job, desk }: Props) {
  const doing = useDoing()
  const edit = useEdit()
  const measure = useEvaluation((state) => state.measure)
  const measured = useEvaluation((state) => state.measured === job)
  const operator = useSelector((state) => state.view.operator)
  const [chosen, setChosen] = useState<readonly string[]>(burnOrder(job))
  const [answers, setAnswers] = useState<ReadonlySet<string>>(new Set())
  const [how, setHow] = useState(FRAME_START)
  const [checking, setChecking] = useState(false)
  const [again, setAgain] = useState<Readonly<Record<string, RunChange>>>({})
  const [left, setLeft] = useState<string>()

  const mine = desk.run?.jobId === id && desk.run.id !== left ? desk.run : null
  const others = desk.run && desk.run.jobId !== id && !ENDED.includes(desk.run.phase) ? desk.run : null
  const over = mine !== null && ENDED.includes(mine.phase)
  const active = mine !== null && !over

  // The run that ended, as it is written down. What was burned is looked at a moment after the end.
  const [waits, setWaits] = useState(false)
  const { current: told } = useKept(useRunQuery, over ? mine.id : undefined, waits ? LOOK_AGAIN_MS : 0)
  const isFinished = told?.closing.includes(FINISHED) ?? false
  const ended = isFinished ? undefined : told
  const waiting = over && told !== undefined && told.burn === null && told.phase !== 'lost'
  useEffect(() => setWaits(waiting), [waiting])
  useEffect(() => {
    if (isFinished) setLeft(told?.id)
  }, [isFinished, told?.id])

  // Operations come and go while the job is edited.
  const order = burnOrder(job).join(' ')
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the operations change
  useEffect(() => setChosen(burnOrder(job)), [order])

  const scope =
    ended && over
      ? ended.scope
      : mine?.only
        ? { only: mine.only }
        : chosen.length === burnOrder(job).length
          ? {}
          : { only: chosen }
  const scopeKey = JSON.stringify(scope)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the scope by its content
  const running = useMemo(() => jobForRun(job, scope), [job, scopeKey])
  const burns = burnOrder(job)
  const burnedBefore = useMemo(
    () => (mine?.only && active ? burns.filter((op) => !mine.only?.includes(op)) : []),
    [mine?.only, active, burns],
  )

  useEffect(() => {
    if (active && mine) {
      const head = desk.report && { x: desk.report.x, y: desk.report.y, burning: desk.report.beam > 0 }
      setMoment({ seconds: mine.doneSeconds, head, playing: false })
    } else leaveMoment()
  }, [active, mine, desk.report])
  useEffect(() => leaveMoment, [])

  const findings = measured ? (measure?.findings ?? []) : []
  const items = preflight(running, findings)
  const stops = findings.filter(({ severity, operation }) => severity === 'stop' && (!operation || chosen.includes(operation)))
  const idle = desk.state === 'idle' && desk.report?.state === 'idle'
  const stopTexts = stops.map(({ message }) => message)
  const missing = missingBeforeStart({ operator, desk, stops: stopTexts, chosen, measured, items, answers })

  const start = (armed: boolean): void =>
    void doing(async () => {
      await settled()
      const { revision } = store.getState().job
      await machineOrders.start(job.machine.id, {
        jobId: id,
        revision,
        ...(chosen.length < burnOrder(job).length && { only: chosen }),
        armed,
        answers: [...answers],
        parentId: null,
      })
      setAnswers(new Set())
      setAgain({})
    })
  const runAgain = (): void =>
    void doing(async () => {
      if (!ended) return
      await settled()
      await machineOrders.start(job.machine.id, {
        jobId: id,
        revision: store.getState().job.revision,
        only: Object.keys(again),
        changes: again,
        armed: false,
        answers: [],
        parentId: ended.parentId ?? ended.id,
      })
      setAgain({})
    })
  const finish = (run: RunLive): void =>
    void doing(async () => {
      await runOrders.change(run.id, { closing: { [FINISHED]: true } })
      setLeft(run.id)
    })
  const frame = (): void =>
    void doing(() =>
      machineOrders.frame(job.machine.id, { ...how, jobId: id, ...(chosen.length < burnOrder(job).length && { only: chosen }) }),
    )
  const stop = (): void => void doing(() => machineOrders.stop(job.machine.id))

  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && event.shiftKey && isBusy(desk)) stop()
      if (event.key !== ' ' || !active || !mine || (event.target as Element).matches('button, input, textarea')) return
      event.preventDefault()
      void doing(() => (mine.phase === 'running' ? runOrders.hold(mine.id) : runOrders.resume(mine.id)))
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  })

  const seconds = Object.fromEntries((measure?.report.operations ?? []).map((op) => [op.id, op.seconds]))
  const total = chosen.reduce((sum, op) => sum + (seconds[op] ?? 0), 0)

  // Only what is new goes to the server: another page may write down something else at the same time.
  const look = (op: string, seen: Look): void => {
    if (!ended) return
    void doing(() => runOrders.change(ended.id, { looks: { [op]: seen } }))
  }
  const tick = (item: string, seen: boolean): void => {
    if (!ended) return
    void doing(() => runOrders.change(ended.id, { closing: { [item]: seen } }))
  }
  const toFocus = (): void =>
    void doing(() => machineOrders.go(job.machine.id, { z: mainPiece(job).thicknessMm, speedMmS: 8 })).then((done) => {
      if (done) setAnswers((before) => new Set([...before, 'focus']))
    })

  return (
    <>
      <Box
        component="aside"
        aria-label="Before and after the run"
        sx={{
          gridArea: 'list',
          overflowY: 'auto',
          bgcolor: 'shop.panel',
          borderRight: 1,
          borderColor: 'divider',
          p: 1.8,
          display: 'grid',
          gap: 2,
          alignContent: 'start',
        }}
      >
        {active && mine && (
          <>
            <RunWord run={mine} />
            <FlareCard />
            {desk.report && <Nudge runId={mine.id} report={desk.report} />}
          </>
        )}
        {over && mine && (
          <>
            {mine.phase !== 'done' && <RunWord run={mine} />}
            {ended && <LookList job={job} run={ended} again={again} onLook={look} onAgain={setAgain} />}
            {ended && <ClosingList closing={ended.closing} onTick={tick} />}
          </>
        )}
        {!mine && (
          <PreflightList
            items={items}
            answers={answers}
            stops={stopTexts}
            onAnswer={(item, yes) => {
              const next = new Set(answers)
              if (yes) next.add(item)
              else next.delete(item)
              setAnswers(next)
              // A question of the check is answered for this version of the job.
              const finding = findings.find((one) => `finding-${one.id}` === item)
              if (yes && finding)
                edit('mark as meant', (base) => ({ ...base, meant: { ...base.meant, [finding.id]: finding.message } }))
            }}
            onAll={() =>
              setAnswers(new Set([...answers, ...items.flatMap(({ kind, id: item }) => (kind === 'routine' ? [item] : []))]))
            }
            onFocus={idle ? toFocus : undefined}
          />
        )}
        {desk.simulated && <SimulatedPanel desk={desk} />}
      </Box>

      <Box sx={{ gridArea: 'stage', minHeight: 0, minWidth: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto' }}>
        <JobStage
          job={job}
          passive
          trackJob={running}
          burnedBefore={burnedBefore}
          onPlace={(x, y) => {
            if (!idle) return
            const [mx, my] = mapped(chartOf(job).toAxes, x, y)
            void doing(() => machineOrders.go(job.machine.id, { x: mx, y: my, speedMmS: 120 }))
          }}
        />
        <RunButtons
          desk={desk}
          run={mine}
          over={over}
          missing={missing}
          how={how}
          canFrame={idle && chosen.length > 0}
          again={[ended ? Object.keys(again).length : 0, burnOrder(job).length]}
          open={openClosing(ended?.closing ?? [])}
          onStart={start}
          onFrame={frame}
          onHold={() => mine && void doing(() => runOrders.hold(mine.id))}
          onResume={() => mine && void doing(() => runOrders.resume(mine.id))}
          onStop={stop}
          onAgain={runAgain}
          onFinish={() => mine && finish(mine)}
        />
      </Box>

      <Box
        component="aside"
        aria-label="At the machine"
        sx={{ gridArea: 'side', overflowY: 'auto', p: 1.8, display: 'grid', gap: 2, alignContent: 'start' }}
      >
        <MachineWord desk={desk} />
        {others && (
          <Box role="status" sx={{ border: 2, borderColor: 'shop.hot', borderRadius: 2, p: 1.4 }}>
            <b>{others.operator}</b> is running <b>{others.name}</b> on this machine:{' '}
            {formatDuration(others.estimateSeconds - others.doneSeconds)} left.
            <Button component={RouterLink} to={`/jobs/${others.jobId}/run`} size="small">
              Look at it
            </Button>
          </Box>
        )}
        {mine ? <Countdown job={job} desk={desk} run={mine} /> : <Connection desk={desk} onCheck={() => setChecking(true)} />}
        {over && ended && <BurnCard run={ended} />}
        {!mine && isLinked(desk) && (
          <>
            <HeadControls job={job} desk={desk} />
            <Framing
              how={how}
              onHow={setHow}
              disabled={!idle}
              pulsing={desk.state === 'pulsing'}
              onPulse={(power) =>
                desk.state === 'pulsing' ? stop() : void doing(() => machineOrders.pulse(job.machine.id, power, 600))
              }
            />
          </>
        )}
      </Box>

      <Box sx={{ gridArea: 'strip' }}>
        <RunStrip
          job={running}
          seconds={mine && ended ? Object.fromEntries(ended.operations.map((op) => [op.id, op.seconds])) : seconds}
          chosen={mine ? (mine.only ?? burnOrder(job)) : chosen}
          live={mine !== null}
          {...(!mine && { onChosen: setChosen })}
          right={{
            title: formatDuration(mine ? mine.estimateSeconds : total),
            detail: mine
              ? `${over ? 'started' : 'running since'}  ${new Date(mine.startedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
              : 'estimate',
          }}
          foot={
            mine
              ? over
                ? `by ${mine.operator}`
                : `by ${mine.operator} · done at about ${new Date(Date.now() + (mine.estimateSeconds - mine.doneSeconds) * 1000).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
              : 'press a block to leave it out · Shift and press: from there on · double click on the stage: the head goes there'
          }
        />
      </Box>
      <FirstConnection
        machine={job.machine}
        desk={desk}
        open={checking}
        onClose={() => setChecking(false)}
        onProfile={(machine) => edit('profile as the machine says', (base) => ({ ...base, machine }))}
      />
    </>
  )
}
