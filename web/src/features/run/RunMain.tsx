import { Button, styled } from '@mui/material'
import type { DeskLive, Look } from '@neotaxis/contract'
import {
  type Bounds,
  burnOrder,
  type Finding,
  focusMm,
  formatDuration,
  frameLimit,
  isWhole,
  type JobDocument,
  jobForRun,
  type PreflightItem,
  preflight,
  type RunScope,
} from '@neotaxis/core'
import { useEffect, useMemo, useReducer, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { runOrders } from '../../api/orders.ts'
import { Card } from '../../parts/Card.tsx'
import { Area, AreaColumn } from '../../parts/Frame.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { PhotoAfter } from '../camera/PhotoAfter.tsx'
import { PhotoBar } from '../camera/PhotoBar.tsx'
import { JobStage } from '../compose/JobStage.tsx'
import { tellTime } from '../field/told.ts'
import { isBusy, isLinked } from '../live/desk-words.ts'
import { useOwnStop } from '../live/stop-place.ts'
import { leaveMoment, setMoment } from '../rehearsal/moment.ts'
import { TroubleBoundary } from '../trouble/TroubleBoundary.tsx'
import { useEdit } from '../use-edit.ts'
import { BurnCard } from './BurnCard.tsx'
import { ClosingList, openClosing } from './ClosingList.tsx'
import { Connection } from './Connection.tsx'
import { Countdown } from './Countdown.tsx'
import { FirstConnection } from './FirstConnection.tsx'
import { FlareCard } from './FlareCard.tsx'
import { FRAME_START, type FrameHow, Framing } from './Framing.tsx'
import { GoOnLater } from './GoOnLater.tsx'
import { HeadControls } from './HeadControls.tsx'
import { HeldPiece } from './HeldPiece.tsx'
import { LookList } from './LookList.tsx'
import { MachineWord } from './MachineWord.tsx'
import { Nudge } from './Nudge.tsx'
import { PreflightList } from './PreflightList.tsx'
import { ProofFirst } from './ProofFirst.tsx'
import { RunButtons } from './RunButtons.tsx'
import { RunStrip } from './RunStrip.tsx'
import { RunWord } from './RunWord.tsx'
import { whatFirst } from './readiness.ts'
import { freshHand, hand as handAfter, knowsPlace, runScreen } from './run-screen.ts'
import { SimulatedPanel } from './SimulatedPanel.tsx'
import { ThisRun } from './ThisRun.tsx'
import { useDoing } from './use-doing.ts'
import { useEndedRun } from './use-ended-run.ts'
import { usePart } from './use-part.ts'
import { useRunOrders } from './use-run-orders.ts'

interface Props {
  readonly id: string
  readonly job: JobDocument
  readonly desk: DeskLive
}

/** The run of one job on its machine, from the list before the start to the list after the end. */
export function RunMain({ id, job, desk }: Props) {
  const doing = useDoing()
  useOwnStop(desk.machine)
  const edit = useEdit()
  const measure = useEvaluation((state) => state.measure)
  const measured = useEvaluation((state) => state.measured === job)
  const operator = useSelector((state) => state.view.operator)
  const blocks = burnOrder(job)
  const [hand, say] = useReducer(handAfter, blocks, freshHand)
  const [how, setHow] = useState<FrameHow>(() => ({ ...FRAME_START, speedMmS: frameLimit(job.machine) ?? FRAME_START.speedMmS }))
  const [checking, setChecking] = useState(false)
  const [drawing, setDrawing] = useState(false)
  const { chosen, answers, again } = hand

  // Operations come and go while the job is edited.
  const order = blocks.join(' ')
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the operations change
  useEffect(() => say({ type: 'order', order: blocks }), [order])
  const isPlaced = knowsPlace(desk)
  useEffect(() => {
    if (!isPlaced) say({ type: 'place lost' })
  }, [isPlaced])

  const findings = measured ? (measure?.findings ?? []) : []
  // What is left out is not asked.
  const ofChosen = findings.filter(({ operation }) => !operation || chosen.includes(operation))
  const stops = stopsOf(ofChosen)
  const facts = { jobId: id, operator, desk, hand, stops, measured, blocks: blocks.length, frame: how }
  // What is on the machine says which blocks the list is about, and the list what is missing.
  const { at, mine } = runScreen({ ...facts, items: [], open: undefined })
  const over = at === 'over'
  const active = at === 'active'
  const ended = useEndedRun(over ? mine : null, (run) => say({ type: 'finished', run }))
  const chosenScope: RunScope = { ...(chosen.length === blocks.length ? {} : { only: chosen }), ...hand.part }
  const runningScope = mine && (mine.scope ?? (mine.only ? { only: mine.only } : {}))
  const scope = ended && over ? ended.scope : (runningScope ?? chosenScope)
  const scopeKey = JSON.stringify(scope)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the scope by its content
  const running = useMemo(() => jobForRun(job, scope), [job, scopeKey])
  const part = usePart(running, isWhole(scope) || mine !== null)
  const asked = part?.findings ?? ofChosen
  const setUp = active ? (mine?.setUp ?? undefined) : undefined
  const items = setUp ?? preflight(running, mine ? findings : asked)
  const screen = runScreen({ ...facts, stops: stopsOf(asked), items, open: ended && openClosing(ended.closing) })
  const { others, isIdle } = screen
  const orders = useRunOrders({
    id,
    job,
    hand,
    say,
    mine,
    again: ended && (ended.parentId ?? ended.id),
    how,
    first: whatFirst({ desk, items, answers: hand.answers }),
  })
  const burnedBefore = useMemo(
    () => (mine?.only && active ? blocks.filter((op) => !mine.only?.includes(op)) : []),
    [mine?.only, active, blocks],
  )

  useEffect(() => {
    if (active && mine) {
      const head = desk.report && { x: desk.report.x, y: desk.report.y, burning: desk.report.beam > 0 }
      setMoment({ seconds: mine.doneSeconds, head, playing: false })
    } else leaveMoment()
  }, [active, mine, desk.report])
  useEffect(() => leaveMoment, [])

  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && event.shiftKey && (isBusy(desk) || orders.isStarting())) orders.press('stop')
      if (event.key !== ' ' || !active || !mine || (event.target as Element).matches('button, input, textarea')) return
      event.preventDefault()
      orders.press(mine.phase === 'running' ? 'hold' : 'resume')
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  })

  const seconds = Object.fromEntries((measure?.report.operations ?? []).map((op) => [op.id, op.seconds]))
  const total = part?.report.seconds ?? chosen.reduce((sum, op) => sum + (seconds[op] ?? 0), 0)

  // Only what is new goes to the server: another page may write down something else at the same time.
  const drawn = (zone: Bounds): void => {
    say({ type: 'part', part: { ...hand.part, zone } })
    setDrawing(false)
  }
  const look = (op: string, seen: Look): void => {
    if (ended) void doing(() => runOrders.change(ended.id, { looks: { [op]: seen } }))
  }
  const tick = (item: string, seen: boolean): void => {
    if (ended) void doing(() => runOrders.change(ended.id, { closing: { [item]: seen } }))
  }
  const answer = (item: string, yes: boolean): void => {
    say({ type: 'answered', item, yes })
    // A question of the check is answered for this version of the job.
    const finding = findings.find((one) => `finding-${one.id}` === item)
    if (yes && finding) edit('mark as meant', (base) => ({ ...base, meant: { ...base.meant, [finding.id]: finding.message } }))
  }

  return (
    <>
      <ListColumn name="list" as="aside" aria-label="Before and after the run">
        {active && mine && (
          <>
            <RunWord run={mine} />
            {setUp && (
              <PreflightList
                title="Before this set-up"
                items={items}
                answers={answers}
                stops={[]}
                onAnswer={(item, yes) => say({ type: 'answered', item, yes })}
                onAll={() => say({ type: 'all answered', items: routineOf(items) })}
              />
            )}
            <FlareCard />
            {desk.report && <Nudge runId={mine.id} report={desk.report} />}
          </>
        )}
        {over && mine && (
          <>
            {mine.phase !== 'done' && <RunWord run={mine} />}
            {mine.phase !== 'done' && (
              <GoOnLater seconds={(scope.fromSeconds ?? 0) + mine.doneSeconds} onLater={(from) => orders.later(mine, from)} />
            )}
            {ended && (
              <LookList
                job={job}
                run={ended}
                again={again}
                onLook={look}
                onAgain={(next) => say({ type: 'again', again: next })}
              />
            )}
            {ended && <ClosingList closing={ended.closing} onTick={tick} />}
          </>
        )}
        {!mine && (
          <PreflightList
            items={items}
            answers={answers}
            stops={stopsOf(asked)}
            onAnswer={answer}
            onAll={() => say({ type: 'all answered', items: routineOf(items) })}
            onFocus={isIdle ? orders.focus : undefined}
            onPlace={isIdle ? orders.go : undefined}
          />
        )}
        {!active && <ProofFirst id={id} job={job} />}
        {!active && <HeldPiece />}
        {desk.simulated && <SimulatedPanel desk={desk} lens={job.machine.axes.z ? undefined : focusMm(job)} />}
      </ListColumn>

      <StageArea name="stage">
        <TroubleBoundary what="The stage" part keys={[job]}>
          <JobStage
            job={job}
            passive
            trackJob={running}
            burnedBefore={burnedBefore}
            onPlace={(x, y) => isIdle && orders.go(x, y)}
            zone={scope.zone}
            onZone={drawing ? drawn : undefined}
          />
        </TroubleBoundary>
        <PhotoBar job={job} isLook />
        <RunButtons buttons={screen.buttons} onPress={orders.press} />
      </StageArea>

      <AreaColumn name="side" as="aside" aria-label="At the machine">
        <MachineWord desk={desk} />
        {others && (
          <Card mark="hot" role="status">
            <b>{others.operator}</b> is running <b>{others.name}</b> on this machine:{' '}
            {formatDuration(others.estimateSeconds - others.doneSeconds)} left.
            <Button component={RouterLink} to={`/jobs/${others.jobId}/run`} size="small">
              Look at it
            </Button>
          </Card>
        )}
        {mine ? <Countdown job={job} desk={desk} run={mine} /> : <Connection desk={desk} onCheck={() => setChecking(true)} />}
        {over && ended && <BurnCard run={ended} />}
        {over && ended && (
          <PhotoAfter run={ended} onTone={(op, tone) => look(op, { ...(ended.looks[op] ?? { answer: 'yes' }), tone })} />
        )}
        {!mine && (
          <ThisRun
            job={job}
            chosen={chosen}
            part={hand.part}
            seconds={measure?.report.seconds}
            onPart={(next) => say({ type: 'part', part: next })}
            drawing={drawing}
            onDraw={() => setDrawing(!drawing)}
          />
        )}
        {!mine && isLinked(desk) && (
          <>
            <HeadControls job={job} desk={desk} />
            <Framing
              how={how}
              mostMmS={frameLimit(job.machine)}
              onHow={setHow}
              disabled={!isIdle}
              pulsing={desk.state === 'pulsing'}
              onPulse={(power) => orders.pulse(power, desk.state === 'pulsing')}
            />
          </>
        )}
      </AreaColumn>

      <Area name="strip">
        <RunStrip
          job={running}
          seconds={mine && ended ? Object.fromEntries(ended.operations.map((op) => [op.id, op.seconds])) : seconds}
          chosen={mine ? (mine.only ?? blocks) : chosen}
          live={mine !== null}
          {...(!mine && { onChosen: (next: readonly string[]) => say({ type: 'chose', blocks: next }) })}
          right={{
            title: formatDuration(mine ? mine.estimateSeconds : total),
            detail: mine ? `${over ? 'started' : 'running since'}  ${tellTime(mine.startedAt)}` : 'estimate',
          }}
          foot={
            mine
              ? over
                ? `by ${mine.operator}`
                : `by ${mine.operator} · done at about ${tellTime(Date.now() + (mine.estimateSeconds - mine.doneSeconds) * 1000)}`
              : 'press a block to leave it out · Shift and press: from there on · double click on the stage: the head goes there'
          }
        />
      </Area>
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

const routineOf = (items: readonly PreflightItem[]): string[] => items.flatMap(({ kind, id }) => (kind === 'routine' ? [id] : []))

const stopsOf = (findings: readonly Finding[]): string[] =>
  findings.flatMap(({ severity, message }) => (severity === 'stop' ? [message] : []))

const ListColumn = styled(AreaColumn)(({ theme: { palette } }) => ({
  backgroundColor: palette.shop.panel,
  borderRight: `1px solid ${palette.divider}`,
}))

/** The stage, and under it the large buttons. */
const StageArea = styled(Area)({ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto' })
