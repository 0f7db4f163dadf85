import { Box } from '@mui/material'
import type { DeskLive, DeskState, RunLive } from '@neotaxis/contract'
import { useState } from 'react'
import { isBusy } from '../live/desk-words.ts'
import { BigButton } from './BigButton.tsx'
import type { FrameHow } from './Framing.tsx'

interface Props {
  readonly desk: DeskLive
  /** The run of this job that is on the machine, or was until now. */
  readonly run: RunLive | null
  readonly over: boolean
  /** What is missing before a start; empty where nothing is. */
  readonly missing: string
  readonly how: FrameHow
  readonly canFrame: boolean
  /** Blocks that run again, of how many. */
  readonly again: readonly [count: number, of: number]
  /** What of the closing list is open. */
  readonly open: readonly string[]
  readonly onStart: (armed: boolean) => void
  readonly onFrame: () => void
  readonly onHold: () => void
  readonly onResume: () => void
  readonly onStop: () => void
  readonly onAgain: () => void
  readonly onFinish: () => void
}

/** What a stop ends, where nothing of this job is on the machine. */
const ENDS: Readonly<Partial<Record<DeskState, readonly [title: string, detail: string]>>> = {
  framing: ['Stop framing', 'shift the piece by hand meanwhile'],
  pulsing: ['Stop the pulses', 'the lens where the mark is smallest'],
  preparing: ['Stop', 'the program is being made, nothing burns yet'],
  starting: ['Stop', 'its first lines go out'],
  stopping: ['Stop', 'until the machine says that it stands'],
  homing: ['Stop', 'the head looks for its corner'],
  jogging: ['Stop', 'the head moves'],
}

/** The large buttons below the stage. Whatever the machine does, Stop is one of them. */
export function RunButtons(props: Props) {
  const { desk, run, over } = props
  const active = run !== null && !over
  return (
    <Box sx={{ display: 'flex', gap: 1.5, p: 1.8, bgcolor: 'shop.surround' }}>
      {active ? (
        <ActiveButtons run={run} onHold={props.onHold} onResume={props.onResume} onStop={props.onStop} />
      ) : isBusy(desk) ? (
        <StopButton desk={desk} onStop={props.onStop} />
      ) : over ? (
        <OverButtons again={props.again} open={props.open} onAgain={props.onAgain} onFinish={props.onFinish} />
      ) : (
        <BeforeButtons {...props} />
      )}
    </Box>
  )
}

function StopButton({ desk, onStop }: { readonly desk: DeskLive; readonly onStop: () => void }) {
  const [title, detail] = ENDS[desk.state] ?? ['Stop', desk.run ? `${desk.holder} is running “${desk.run.name}”` : 'one press']
  return <BigButton title={title} detail={detail} kind="hot" onClick={onStop} testid="stop" />
}

function ActiveButtons({
  run,
  onHold,
  onResume,
  onStop,
}: {
  readonly run: RunLive
  readonly onHold: () => void
  readonly onResume: () => void
  readonly onStop: () => void
}) {
  const { phase } = run
  return (
    <>
      {phase === 'stopping' ? null : phase === 'running' || phase === 'armed' ? (
        <BigButton
          title={phase === 'armed' ? 'Press start there' : 'Hold'}
          detail={phase === 'armed' ? 'armed: the button at the machine' : 'beam off, place kept · Space'}
          kind="dark"
          disabled={phase === 'armed'}
          onClick={onHold}
          testid="hold"
        />
      ) : (
        <BigButton
          title="Go on"
          detail={phase === 'homing' ? 'homes first, then from the same place' : 'from the same place · Space'}
          kind="main"
          disabled={phase === 'away'}
          onClick={onResume}
          testid="resume"
        />
      )}
      <BigButton
        title="Stop"
        detail={phase === 'stopping' ? 'until the machine says that it stands' : 'one press, ends here'}
        kind="hot"
        onClick={onStop}
        testid="stop"
      />
    </>
  )
}

function OverButtons({ again: [count, of], open, onAgain, onFinish }: Pick<Props, 'again' | 'open' | 'onAgain' | 'onFinish'>) {
  const [sure, setSure] = useState(false)
  const says = open.length === 0 ? 'write it down, lift the piece' : `still open: ${open.join(', ')}`
  return (
    <>
      <BigButton
        title="Run again"
        detail={count > 0 ? `${count} of ${of} blocks, zero kept` : 'say what is missing first'}
        kind={count > 0 ? 'main' : 'plain'}
        disabled={count === 0}
        onClick={onAgain}
        testid="run-again"
      />
      <BigButton
        title={sure && open.length > 0 ? 'Finish all the same' : 'Finish'}
        detail={says}
        kind={count > 0 ? 'plain' : 'main'}
        onClick={() => (open.length === 0 || sure ? onFinish() : setSure(true))}
        testid="finish"
      />
    </>
  )
}

function BeforeButtons({ how, canFrame, missing, onFrame, onStart }: Props) {
  const rounds = how.loop ? 'again and again' : 'once'
  return (
    <>
      <BigButton
        title="Frame"
        detail={`${how.power > 0 ? 'weak beam' : 'dark'}, ${rounds}`}
        disabled={!canFrame}
        onClick={onFrame}
        testid="frame"
      />
      <BigButton
        title="Start"
        detail={missing || 'the beam goes on'}
        kind="main"
        disabled={missing !== ''}
        onClick={() => onStart(false)}
        testid="start"
      />
      <BigButton
        title="Arm"
        detail="start with the button there"
        disabled={missing !== ''}
        onClick={() => onStart(true)}
        testid="arm"
      />
    </>
  )
}
