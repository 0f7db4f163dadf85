import { Box, Button, Typography } from '@mui/material'
import { formatDuration, type JobDocument, jobForRun, preflight, type RunChange } from '@neotaxis/core'
import { useEffect, useMemo, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { type DeskLive, type Look, machineApi, type RunFull, type RunLive, runApi } from '../../api/runs.ts'
import { useSelector } from '../../store/hooks.ts'
import { store } from '../../store/store.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { settled } from '../bar/save-files.ts'
import { leaveMoment, setMoment } from '../rehearsal/moment.ts'
import { Stage } from '../stage/Stage.tsx'
import { useEdit } from '../use-edit.ts'
import { BigButton } from './BigButton.tsx'
import { BurnCard } from './BurnCard.tsx'
import { Connection } from './Connection.tsx'
import { Countdown } from './Countdown.tsx'
import { FirstConnection } from './FirstConnection.tsx'
import { FlareCard } from './FlareCard.tsx'
import { FRAME_START, Framing } from './Framing.tsx'
import { HeadControls } from './HeadControls.tsx'
import { LookList } from './LookList.tsx'
import { Nudge } from './Nudge.tsx'
import { PreflightList } from './PreflightList.tsx'
import { RunStrip } from './RunStrip.tsx'
import { SimulatedPanel } from './SimulatedPanel.tsx'
import { useDoing } from './use-doing.ts'

const ENDED = ['done', 'stopped', 'refused', 'lost']
const CLOSING = [
  ['exhaust', 'The exhaust runs on until the smoke is gone'],
  ['bed', 'Piece and scraps are out, the bed is clean'],
  ['off', 'The machine is off, or somebody stays'],
] as const
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
  const [chosen, setChosen] = useState<readonly string[]>(job.runOrder)
  const [answers, setAnswers] = useState<ReadonlySet<string>>(new Set())
  const [how, setHow] = useState(FRAME_START)
  const [checking, setChecking] = useState(false)
  const [again, setAgain] = useState<Readonly<Record<string, RunChange>>>({})
  const [ended, setEnded] = useState<RunFull>()
  const [left, setLeft] = useState<string>()

  const mine = desk.run?.jobId === id && desk.run.id !== left ? desk.run : null
  const others = desk.run && desk.run.jobId !== id && !ENDED.includes(desk.run.phase) ? desk.run : null
  const over = mine !== null && ENDED.includes(mine.phase)
  const active = mine !== null && !over

  // The run that ended, as it is written down.
  const endedId = over ? mine.id : undefined
  useEffect(() => {
    if (!endedId) {
      setEnded(undefined)
      return
    }
    let gone = false
    const load = (): void => {
      runApi
        .one(endedId)
        .then((run) => {
          if (gone) return
          if (run.closing.includes(FINISHED)) setLeft(run.id)
          else setEnded(run)
          // What was burned is looked at a moment after the end.
          if (run.burn === null && run.phase !== 'lost') setTimeout(load, 700)
        })
        .catch(() => !gone && setTimeout(load, 1500))
    }
    load()
    return () => {
      gone = true
    }
  }, [endedId])

  // Operations come and go while the job is edited.
  const order = job.runOrder.join(' ')
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the operations change
  useEffect(() => setChosen(job.runOrder), [order])

  const scope =
    ended && over ? ended.scope : mine?.only ? { only: mine.only } : chosen.length === job.runOrder.length ? {} : { only: chosen }
  const scopeKey = JSON.stringify(scope)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the scope by its content
  const running = useMemo(() => jobForRun(job, scope), [job, scopeKey])
  const burnedBefore = useMemo(
    () => (mine?.only && active ? job.runOrder.filter((op) => !mine.only?.includes(op)) : []),
    [mine?.only, active, job.runOrder],
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
  const confirmed = items.every((item) => answers.has(item.id))
  const idle = desk.link === 'on' && desk.report?.state === 'idle' && desk.activity === 'none'
  const why =
    operator === ''
      ? 'say who you are first, at the top'
      : desk.link !== 'on'
        ? 'connect the machine first'
        : !desk.checked
          ? 'first connection: check the machine'
          : stops.length > 0
            ? 'it cannot run as it is'
            : chosen.length === 0
              ? 'choose a block below'
              : !measured
                ? 'the job is being worked out'
                : !confirmed
                  ? 'go through the list first'
                  : desk.report?.state === 'alarm'
                    ? 'home the machine first'
                    : desk.report?.lidOpen
                      ? 'close the lid first'
                      : idle
                        ? ''
                        : 'the machine is busy'

  const start = (armed: boolean): void =>
    void doing(async () => {
      await settled()
      const { revision } = store.getState().job
      await machineApi.start(job.machine.id, {
        jobId: id,
        revision,
        ...(chosen.length < job.runOrder.length && { only: chosen }),
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
      await machineApi.start(job.machine.id, {
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
      await runApi.change(run.id, { closing: [...(ended?.closing ?? []), FINISHED] })
      setLeft(run.id)
    })
  const frame = (): void =>
    void doing(() =>
      machineApi.frame(job.machine.id, { ...how, jobId: id, ...(chosen.length < job.runOrder.length && { only: chosen }) }),
    )
  const stop = (): void => void doing(() => machineApi.stop(job.machine.id))

  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && event.shiftKey && desk.activity !== 'none') stop()
      if (event.key !== ' ' || !active || !mine || (event.target as Element).matches('button, input, textarea')) return
      event.preventDefault()
      void doing(() => (mine.phase === 'running' ? runApi.hold(mine.id) : runApi.resume(mine.id)))
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  })

  const seconds = Object.fromEntries((measure?.report.operations ?? []).map((op) => [op.id, op.seconds]))
  const total = chosen.reduce((sum, op) => sum + (seconds[op] ?? 0), 0)
  const framing = desk.activity === 'frame'

  const look = (op: string, seen: Look): void => {
    if (!ended) return
    const looks = { ...ended.looks, [op]: seen }
    setEnded({ ...ended, looks })
    void doing(() => runApi.change(ended.id, { looks }))
  }
  const closing = (item: string): void => {
    if (!ended) return
    const list = ended.closing.includes(item) ? ended.closing.filter((one) => one !== item) : [...ended.closing, item]
    setEnded({ ...ended, closing: list })
    void doing(() => runApi.change(ended.id, { closing: list }))
  }

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
            {mine.reason && (
              <Box
                role="alert"
                data-testid="run-reason"
                sx={{
                  border: 3,
                  borderColor: 'shop.stop',
                  borderRadius: 2,
                  p: 1.4,
                  fontSize: 17,
                  fontWeight: 650,
                  lineHeight: 1.3,
                }}
              >
                {mine.reason}
              </Box>
            )}
            <FlareCard />
            {desk.report && <Nudge runId={mine.id} report={desk.report} />}
          </>
        )}
        {over && mine && (
          <>
            {mine.phase !== 'done' && (
              <Box
                role="alert"
                sx={{ border: 3, borderColor: 'shop.stop', borderRadius: 2, p: 1.4, fontSize: 16, fontWeight: 650 }}
              >
                {mine.reason}
              </Box>
            )}
            {ended && <LookList job={job} run={ended} again={again} onLook={look} onAgain={setAgain} />}
            {ended && (
              <Box component="section" aria-label="Closing list">
                <Typography variant="h3">When all is well</Typography>
                {CLOSING.map(([item, title]) => (
                  <Box
                    component="label"
                    key={item}
                    sx={{
                      display: 'flex',
                      gap: 1.2,
                      alignItems: 'center',
                      minHeight: 44,
                      borderBottom: 1,
                      borderColor: 'divider',
                      cursor: 'pointer',
                    }}
                  >
                    <input
                      type="checkbox"
                      checked={ended.closing.includes(item)}
                      onChange={() => closing(item)}
                      style={{ width: 22, height: 22, flex: 'none' }}
                      data-testid={`closing-${item}`}
                    />
                    {title}
                  </Box>
                ))}
              </Box>
            )}
          </>
        )}
        {!mine && (
          <PreflightList
            items={items}
            answers={answers}
            stops={stops.map(({ message }) => message)}
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
            onAll={() => setAnswers(new Set(items.map((item) => item.id)))}
            onFocus={
              desk.link === 'on'
                ? () => {
                    void doing(() => machineApi.go(job.machine.id, { z: job.workpiece.thicknessMm, speedMmS: 8 }))
                    setAnswers(new Set([...answers, 'focus']))
                  }
                : undefined
            }
          />
        )}
        {desk.simulated && <SimulatedPanel desk={desk} />}
      </Box>

      <Box sx={{ gridArea: 'stage', minHeight: 0, minWidth: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto' }}>
        <Stage
          job={job}
          passive
          trackJob={running}
          burnedBefore={burnedBefore}
          onPlace={(x, y) => {
            if (!idle) return
            const { machine, onBed } = job
            const my = machine.zero === 'front-left' ? machine.bed.heightMm - onBed.yMm - y : onBed.yMm + y
            void doing(() => machineApi.go(machine.id, { x: onBed.xMm + x, y: my, speedMmS: 120 }))
          }}
        />
        <Box sx={{ display: 'flex', gap: 1.5, p: 1.8, bgcolor: 'shop.surround' }}>
          {active && mine ? (
            <>
              {mine.phase === 'running' || mine.phase === 'armed' ? (
                <BigButton
                  title={mine.phase === 'armed' ? 'Press start there' : 'Hold'}
                  detail={mine.phase === 'armed' ? 'armed: the button at the machine' : 'beam off, place kept · Space'}
                  kind="dark"
                  disabled={mine.phase === 'armed'}
                  onClick={() => void doing(() => runApi.hold(mine.id))}
                  testid="hold"
                />
              ) : (
                <BigButton
                  title="Go on"
                  detail={mine.phase === 'homing' ? 'homes first, then from the same place' : 'from the same place · Space'}
                  kind="main"
                  disabled={mine.phase === 'away'}
                  onClick={() => void doing(() => runApi.resume(mine.id))}
                  testid="resume"
                />
              )}
              <BigButton title="Stop" detail="one press, ends here" kind="hot" onClick={stop} testid="stop" />
            </>
          ) : over && mine ? (
            <>
              <BigButton
                title="Run again"
                detail={
                  Object.keys(again).length > 0
                    ? `${Object.keys(again).length} of ${job.runOrder.length} blocks, zero kept`
                    : 'say what is missing first'
                }
                kind={Object.keys(again).length > 0 ? 'main' : 'plain'}
                disabled={Object.keys(again).length === 0 || !ended}
                onClick={runAgain}
                testid="run-again"
              />
              <BigButton
                title="Finish"
                detail="write it down, lift the piece"
                kind={Object.keys(again).length > 0 ? 'plain' : 'main'}
                onClick={() => finish(mine)}
                testid="finish"
              />
            </>
          ) : framing || desk.activity === 'pulse' ? (
            <BigButton
              title={framing ? 'Stop framing' : 'Stop the pulses'}
              detail={framing ? 'shift the piece by hand meanwhile' : 'the lens where the mark is smallest'}
              kind="hot"
              onClick={stop}
              testid="stop"
            />
          ) : (
            <>
              <BigButton
                title="Frame"
                detail={
                  how.power > 0
                    ? `weak beam, ${how.loop ? 'again and again' : 'once'}`
                    : `dark, ${how.loop ? 'again and again' : 'once'}`
                }
                disabled={!idle || chosen.length === 0}
                onClick={frame}
                testid="frame"
              />
              <BigButton
                title="Start"
                detail={why || 'the beam goes on'}
                kind="main"
                disabled={why !== ''}
                onClick={() => start(false)}
                testid="start"
              />
              <BigButton
                title="Arm"
                detail="start with the button there"
                disabled={why !== ''}
                onClick={() => start(true)}
                testid="arm"
              />
            </>
          )}
        </Box>
      </Box>

      <Box
        component="aside"
        aria-label="At the machine"
        sx={{ gridArea: 'side', overflowY: 'auto', p: 1.8, display: 'grid', gap: 2, alignContent: 'start' }}
      >
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
        {!mine && desk.link === 'on' && (
          <>
            <HeadControls job={job} desk={desk} />
            <Framing
              how={how}
              onHow={setHow}
              disabled={!idle}
              pulsing={desk.activity === 'pulse'}
              onPulse={(power) =>
                desk.activity === 'pulse' ? stop() : void doing(() => machineApi.pulse(job.machine.id, power, 600))
              }
            />
          </>
        )}
      </Box>

      <Box sx={{ gridArea: 'strip' }}>
        <RunStrip
          job={running}
          seconds={mine && ended ? Object.fromEntries(ended.operations.map((op) => [op.id, op.seconds])) : seconds}
          chosen={mine ? (mine.only ?? job.runOrder) : chosen}
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
